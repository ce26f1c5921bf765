-- Who wanted no reminder of a task, from when until when: what would have rung in such a time is not made up for later.
CREATE TABLE silence (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  person_id INTEGER NOT NULL REFERENCES person (id),
  from_at INTEGER NOT NULL DEFAULT 0,
  until_at INTEGER CHECK (until_at > from_at)
) STRICT;
INSERT INTO silence (id, task_id, person_id, from_at, until_at) SELECT id, task_id, person_id, 0, NULL FROM no_reminder;
DROP TABLE no_reminder;
ALTER TABLE silence RENAME TO no_reminder;
CREATE UNIQUE INDEX no_reminder_open ON no_reminder (task_id, person_id) WHERE until_at IS NULL;
CREATE INDEX no_reminder_task ON no_reminder (task_id);

-- By which of its recipients a Tell came to whoever is told: when that one comes to be somebody else, it is told to them.
ALTER TABLE notice ADD COLUMN named TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(named));
