-- The Outbox lists what has left or ended by when that was. An expression, so that no state can forget to write it.
CREATE INDEX notice_by_leaving ON notice (
  (CASE WHEN state IN ('unrung', 'withdrawn') THEN coalesce(ended_at, ring_at) ELSE coalesce(leaves_at, ended_at, ring_at) END),
  id
);
