-- The name under which the chat knows somebody, and by which channels they want to hear of what: a list by kind of notice.
ALTER TABLE person ADD COLUMN chat TEXT;
ALTER TABLE person ADD COLUMN channels TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(channels));

-- Where a message leads, for channels that carry one link.
ALTER TABLE message ADD COLUMN link TEXT NOT NULL DEFAULT '';

-- First attempts go in the order of their instants; their next attempt is at 0, so that they come before any other.
ALTER TABLE delivery ADD COLUMN leaves_at INTEGER NOT NULL DEFAULT 0;
UPDATE delivery SET leaves_at = (SELECT m.leaves_at FROM message m WHERE m.id = delivery.message_id);
UPDATE delivery SET next_attempt_at = 0 WHERE state = 'queued' AND attempt = 0;
DROP INDEX delivery_next;
CREATE INDEX delivery_next ON delivery (channel, next_attempt_at, leaves_at, id) WHERE state = 'queued';
CREATE INDEX delivery_leased ON delivery (lease_until) WHERE state = 'leased';
-- Those that are tried again or have failed are shown; most never are.
CREATE INDEX delivery_failing ON delivery (leaves_at) WHERE state = 'failed' OR (state IN ('queued', 'leased') AND attempt > 0);

-- What came back about a text message that was taken: when it had arrived. Workspace clock.
ALTER TABLE delivery ADD COLUMN arrived_at INTEGER;
-- When its reader looked at it in the application. Workspace clock.
ALTER TABLE delivery ADD COLUMN seen_at INTEGER;
CREATE INDEX delivery_in_app ON delivery (reader_id, id) WHERE channel = 'in-app';

-- What hangs on a task is looked up of changes that may have written very many rows.
CREATE INDEX change_row_parts ON change_row (change_id) WHERE table_name IN ('task_tag', 'co_owner', 'field_value');

-- What somebody said of late work: that they have seen it, and by when it will be done. Dates as written; ends on the workspace clock.
CREATE TABLE promise (
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
  state TEXT NOT NULL CHECK (state IN ('open', 'over', 'kept', 'broken'))
) STRICT;
CREATE INDEX promise_task ON promise (task_id, id);

-- A promise ends by itself.
CREATE TABLE chore_now (
  task_id INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('renew', 'purge', 'promise')),
  at INTEGER NOT NULL,
  PRIMARY KEY (task_id, kind)
) STRICT, WITHOUT ROWID;
INSERT INTO chore_now SELECT task_id, kind, at FROM chore;
DROP TABLE chore;
ALTER TABLE chore_now RENAME TO chore;
CREATE INDEX chore_at ON chore (at);
