-- Mail that is kept in the Post room here, where no mail server is used.
ALTER TABLE delivery ADD COLUMN kept INTEGER NOT NULL DEFAULT 0 CHECK (kept IN (0, 1));
CREATE INDEX delivery_kept ON delivery (id) WHERE kept = 1;
