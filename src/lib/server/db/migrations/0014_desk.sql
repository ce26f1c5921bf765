-- Where each person has placed a task of theirs on their Desk: there is a row as soon as they have.
CREATE TABLE placement (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  placed_at INTEGER NOT NULL,
  -- For when they planned it, where they did: today, or the days from the first to the last (NULL: without an end).
  plan TEXT CHECK (plan IN ('today', 'days')),
  plan_first TEXT,
  plan_last TEXT,
  -- Where it stands in their own order of a day; NULL where they put it into none.
  position REAL,
  UNIQUE (task_id, person_id),
  CHECK (plan IS 'days' = (plan_first IS NOT NULL)),
  CHECK (plan_last IS NULL OR plan_last >= plan_first)
) STRICT;
CREATE INDEX placement_person ON placement (person_id);

-- Whoever had tasks before there was a Desk finds them where their dates say; what has no date waits to be placed.
INSERT OR IGNORE INTO placement (task_id, person_id, placed_at)
SELECT id, owner_id, assigned_at FROM task WHERE owner_id IS NOT NULL AND coalesce(due_date, start_date) IS NOT NULL;
INSERT OR IGNORE INTO placement (task_id, person_id, placed_at)
SELECT t.id, c.person_id, t.assigned_at FROM co_owner c JOIN task t ON t.id = c.task_id
WHERE coalesce(t.due_date, t.start_date) IS NOT NULL;

-- When somebody last looked at their own Desk, workspace clock.
CREATE TABLE desk_look (
  person_id INTEGER PRIMARY KEY REFERENCES person (id) ON DELETE CASCADE,
  at INTEGER NOT NULL
) STRICT;

-- Who looked at whose Desk in their place.
CREATE TABLE desk_reading (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  reader_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  at INTEGER NOT NULL
) STRICT;
CREATE INDEX desk_reading_person ON desk_reading (person_id, at);

-- How somebody has their Desk, and what becomes of a task that they type.
CREATE TABLE desk_habit (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL UNIQUE REFERENCES person (id) ON DELETE CASCADE,
  -- What they type is private, unless they say otherwise.
  private INTEGER NOT NULL DEFAULT 0 CHECK (private IN (0, 1)),
  -- What they type is theirs, unless they name somebody.
  mine INTEGER NOT NULL DEFAULT 1 CHECK (mine IN (0, 1)),
  -- Due so many days after it was typed, unless they give a date; NULL: without a date.
  due_days INTEGER CHECK (due_days BETWEEN 0 AND 366),
  due_unit TEXT NOT NULL DEFAULT 'day' CHECK (due_unit IN ('day', 'workday'))
) STRICT;

-- A line that somebody keeps without any duty: no rule, digest or sweep sees it.
CREATE TABLE capture (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  text TEXT NOT NULL,
  at INTEGER NOT NULL
) STRICT;
CREATE INDEX capture_person ON capture (person_id);

-- Texts and links that are used often; NULL: everybody's.
CREATE TABLE shelf_item (
  id INTEGER PRIMARY KEY,
  person_id INTEGER REFERENCES person (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  text TEXT NOT NULL
) STRICT;
CREATE INDEX shelf_item_person ON shelf_item (person_id);

-- On whose Desk a saved list is counted: one person's, or everybody's in a group.
CREATE TABLE tally_pin (
  id INTEGER PRIMARY KEY,
  list_id INTEGER NOT NULL,
  person_id INTEGER REFERENCES person (id) ON DELETE CASCADE,
  group_id INTEGER,
  CHECK (person_id IS NULL <> (group_id IS NULL)),
  UNIQUE (list_id, person_id, group_id)
) STRICT;

-- What somebody has promised and that ends today stands on their Desk.
CREATE INDEX promise_open ON promise (person_id, until_at) WHERE state = 'open';
