-- What a step does once it does once for a task, its round and the value of the date that it rang for. Null: done before values were kept,
-- and then for every value.
CREATE TABLE rule_once_wider (
  id INTEGER PRIMARY KEY,
  rule_id INTEGER NOT NULL,
  step_id TEXT NOT NULL,
  task_id INTEGER NOT NULL,
  round INTEGER NOT NULL,
  value TEXT,
  made_task_id INTEGER,
  UNIQUE (rule_id, step_id, task_id, round, value)
) STRICT;
INSERT INTO rule_once_wider SELECT id, rule_id, step_id, task_id, round, NULL, made_task_id FROM rule_once;
DROP TABLE rule_once;
ALTER TABLE rule_once_wider RENAME TO rule_once;
-- What a task was made of, and by which rule.
CREATE INDEX rule_once_made ON rule_once (made_task_id) WHERE made_task_id IS NOT NULL;
