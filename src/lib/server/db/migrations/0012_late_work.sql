-- Since when a task has its due date, workspace clock; NULL: since it was made. A ladder starts again with a new date.
ALTER TABLE task ADD COLUMN due_since INTEGER;
UPDATE task SET due_since = (SELECT max(slip.at) FROM slip WHERE slip.task_id = task.id AND slip.round = task.round);

-- A promise for later than the due date waits for a yes: whoever said it, and when. Workspace clock.
CREATE TABLE promise_now (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL REFERENCES task (id) ON DELETE CASCADE,
  person_id INTEGER NOT NULL REFERENCES person (id),
  round INTEGER NOT NULL,
  -- The due date that it was said of.
  due TEXT,
  made_at INTEGER NOT NULL,
  -- Null: it was only acknowledged.
  promised TEXT,
  until_at INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('asked', 'refused', 'open', 'over', 'kept', 'broken')),
  answered_by INTEGER REFERENCES person (id),
  answered_at INTEGER
) STRICT;
INSERT INTO promise_now SELECT id, task_id, person_id, round, due, made_at, promised, until_at, state, NULL, NULL FROM promise;
DROP TABLE promise;
ALTER TABLE promise_now RENAME TO promise;
CREATE INDEX promise_task ON promise (task_id, id);
CREATE INDEX promise_asked ON promise (id) WHERE state = 'asked';

-- What a rule has made is not made again of that.
CREATE INDEX rule_once_made ON rule_once (made_task_id) WHERE made_task_id IS NOT NULL;

-- A kept list may be counted on the Bell tower.
ALTER TABLE saved_list ADD COLUMN counted INTEGER NOT NULL DEFAULT 0 CHECK (counted IN (0, 1));
