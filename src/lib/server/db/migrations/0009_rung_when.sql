-- What rang, or should have, while the application did not run is looked up by its instant.
CREATE INDEX notice_rung ON notice (ring_at);
