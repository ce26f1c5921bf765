-- One message for each reader that gathers what concerns them.
CREATE TABLE digest (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  description TEXT NOT NULL DEFAULT '',
  keeper_id INTEGER REFERENCES person (id),
  state TEXT NOT NULL DEFAULT 'off' CHECK (state IN ('on', 'off')),
  position INTEGER NOT NULL,
  definition TEXT NOT NULL CHECK (json_valid(definition)),
  -- Since when it is on, workspace clock: what is new counts from there until the first has left.
  on_at INTEGER
) STRICT;
-- What goes to whoever has set a digest time on their own page. An empty definition says what one says when nothing was chosen.
INSERT INTO digest (name, description, state, position, definition, on_at)
VALUES ('Your day', 'To each person at the digest times on their own page.', 'on', 1, '{}', 0);

-- When each leaves next for each reader; reader 0 stands for all of them together.
CREATE TABLE digest_plan (
  digest_id INTEGER NOT NULL,
  reader_id INTEGER NOT NULL,
  next_at INTEGER NOT NULL,
  parts TEXT NOT NULL,
  PRIMARY KEY (digest_id, reader_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX digest_next ON digest_plan (next_at, digest_id, reader_id);

-- What became of each: a message, or none and why.
CREATE TABLE digest_run (
  id INTEGER PRIMARY KEY,
  digest_id INTEGER NOT NULL,
  reader_id INTEGER NOT NULL,
  -- Its instant, and when it was made; both on the workspace clock.
  at INTEGER NOT NULL,
  made_at INTEGER NOT NULL,
  parts TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('sent', 'empty', 'skipped')),
  reason TEXT,
  message_id INTEGER REFERENCES message (id),
  stages TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(stages)),
  -- What the next one compares itself with.
  numbers TEXT CHECK (numbers IS NULL OR json_valid(numbers)),
  UNIQUE (digest_id, reader_id, at)
) STRICT;
CREATE INDEX digest_run_at ON digest_run (at);
CREATE INDEX digest_run_message ON digest_run (message_id) WHERE message_id IS NOT NULL;

-- A link in a digest is about one of its tasks, not about a notice.
ALTER TABLE act_used ADD COLUMN digest_run_id INTEGER;
