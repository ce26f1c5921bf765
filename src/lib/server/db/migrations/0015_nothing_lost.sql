-- A notice that another ring of the same moment spoke for occupies its key too: it does not ring again.
DROP INDEX notice_key;
CREATE UNIQUE INDEX notice_key ON notice (ring_id, step_id, recipient_id, snooze)
  WHERE state IN ('planned', 'held', 'folded', 'sending', 'sent', 'in doubt', 'failed') OR (state = 'unrung' AND reason = 'same moment');

-- Rules that cannot be computed for a task; task 0 stands for the rule by itself, its schedule for one.
CREATE TABLE rule_fault (
  rule_id INTEGER NOT NULL REFERENCES rule (id) ON DELETE CASCADE,
  task_id INTEGER NOT NULL,
  -- Found when its rings were planned, or when one of them was to ring or to leave.
  found TEXT NOT NULL CHECK (found IN ('planning', 'ringing')),
  code TEXT NOT NULL,
  message TEXT NOT NULL,
  -- Workspace clock.
  at INTEGER NOT NULL,
  PRIMARY KEY (rule_id, task_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX rule_fault_task ON rule_fault (task_id);

-- Rules whose keeper has heard of them, until none is left.
CREATE TABLE rule_fault_told (
  rule_id INTEGER PRIMARY KEY REFERENCES rule (id) ON DELETE CASCADE
) STRICT;
