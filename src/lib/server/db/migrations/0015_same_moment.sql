-- A notice that another ring of the same moment spoke for occupies its key too: it does not ring again.
DROP INDEX notice_key;
CREATE UNIQUE INDEX notice_key ON notice (ring_id, step_id, recipient_id, snooze)
  WHERE state IN ('planned', 'held', 'folded', 'sending', 'sent', 'in doubt', 'failed') OR (state = 'unrung' AND reason = 'same moment');
