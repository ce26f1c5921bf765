-- Clean-ups with a preview and an undo.
CREATE TABLE sweep (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  description TEXT NOT NULL DEFAULT '',
  keeper_id INTEGER REFERENCES person (id),
  state TEXT NOT NULL DEFAULT 'off' CHECK (state IN ('on', 'off')),
  position INTEGER NOT NULL,
  definition TEXT NOT NULL CHECK (json_valid(definition))
) STRICT;

-- When a planned one sends its list, and when it runs. Workspace clock.
CREATE TABLE sweep_plan (
  sweep_id INTEGER PRIMARY KEY,
  looks_at INTEGER NOT NULL,
  at INTEGER NOT NULL
) STRICT;

-- One run, from its list to its report. Instants on the workspace clock, measured times on the machine's.
CREATE TABLE sweep_run (
  id INTEGER PRIMARY KEY,
  sweep_id INTEGER NOT NULL,
  -- What it was called and said then: a sweep that is changed meanwhile changes nothing of it.
  name TEXT NOT NULL,
  definition TEXT NOT NULL CHECK (json_valid(definition)),
  keeper_id INTEGER,
  -- The instant that it is computed for.
  at INTEGER NOT NULL,
  planned INTEGER NOT NULL CHECK (planned IN (0, 1)),
  state TEXT NOT NULL CHECK (state IN
    ('looking', 'ready', 'running', 'halted', 'done', 'stopped', 'passed', 'undoing', 'undone')),
  -- Why it waits for a yes, was stopped or halted.
  reason TEXT,
  looked_at INTEGER NOT NULL,
  -- Everything that was changed later than this is left out.
  seen_change INTEGER NOT NULL,
  -- The task up to which it has looked.
  cursor INTEGER NOT NULL DEFAULT 0,
  -- All that stand where it looks; those that it looked at; those whose wait is not over.
  standing INTEGER NOT NULL DEFAULT 0,
  looked INTEGER NOT NULL DEFAULT 0,
  waiting INTEGER NOT NULL DEFAULT 0,
  started_at INTEGER,
  started_by INTEGER,
  ended_at INTEGER,
  undone_at INTEGER,
  undone_by INTEGER,
  -- How many tasks the lists held, and how long a search took, before and after: {"listed":1,"searchMs":2}.
  before TEXT CHECK (before IS NULL OR json_valid(before)),
  after TEXT CHECK (after IS NULL OR json_valid(after))
) STRICT;
CREATE INDEX sweep_run_sweep ON sweep_run (sweep_id, id);
CREATE INDEX sweep_run_busy ON sweep_run (state) WHERE state IN ('looking', 'ready', 'running', 'undoing');

CREATE TABLE sweep_row (
  run_id INTEGER NOT NULL REFERENCES sweep_run (id) ON DELETE CASCADE,
  task_id INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('taken', 'unticked', 'protected', 'done', 'left', 'undone', 'kept')),
  -- Why it is protected, was left out, or was not put back.
  reason TEXT,
  since INTEGER,
  PRIMARY KEY (run_id, task_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX sweep_row_state ON sweep_row (run_id, state, task_id);

-- What a run changed, a transaction each.
CREATE TABLE sweep_chunk (
  run_id INTEGER NOT NULL REFERENCES sweep_run (id) ON DELETE CASCADE,
  change_id INTEGER NOT NULL REFERENCES change (id),
  PRIMARY KEY (run_id, change_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX sweep_chunk_change ON sweep_chunk (change_id);

-- Whether something is still needed: asked of its owner, and what came of it.
CREATE TABLE sweep_question (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES sweep_run (id) ON DELETE CASCADE,
  task_id INTEGER NOT NULL,
  person_id INTEGER NOT NULL,
  asked_at INTEGER NOT NULL,
  until_at INTEGER NOT NULL,
  otherwise TEXT NOT NULL CHECK (otherwise IN ('park', 'close', 'keep')),
  -- Null while it is open; `moot`: somebody touched the task, or it is not there any more.
  answer TEXT CHECK (answer IN ('keep', 'park', 'close', 'moot', 'none')),
  answered_at INTEGER,
  answered_by INTEGER
) STRICT;
CREATE UNIQUE INDEX sweep_question_open ON sweep_question (task_id) WHERE answer IS NULL;
CREATE INDEX sweep_question_until ON sweep_question (until_at) WHERE answer IS NULL;
CREATE INDEX sweep_question_person ON sweep_question (person_id) WHERE answer IS NULL;
CREATE INDEX sweep_question_run ON sweep_question (run_id);
