-- A fourth role: an administrator does what a coordinator does, and looks after access and settings.
ALTER TABLE person ADD COLUMN role_now TEXT NOT NULL DEFAULT 'owner'
  CHECK (role_now IN ('owner', 'manager', 'coordinator', 'administrator'));
UPDATE person SET role_now = role;
ALTER TABLE person DROP COLUMN role;
ALTER TABLE person RENAME COLUMN role_now TO role;
-- Somebody must: whoever was the first coordinator.
UPDATE person SET role = 'administrator' WHERE id = (SELECT min(id) FROM person WHERE role = 'coordinator' AND active = 1);

ALTER TABLE person ADD COLUMN phone TEXT;
-- Intervals of their day in which they want no notice, on their wall.
ALTER TABLE person ADD COLUMN quiet TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(quiet));
-- Most messages on one of their dates; what is more leaves together at the next opening.
ALTER TABLE person ADD COLUMN daily_cap INTEGER CHECK (daily_cap IS NULL OR daily_cap BETWEEN 1 AND 1000);
-- When their digests leave, on their wall: what is put off waits for them.
ALTER TABLE person ADD COLUMN digest_due TEXT;
ALTER TABLE person ADD COLUMN digest_overdue TEXT;
-- What was theirs has been taken out everywhere.
ALTER TABLE person ADD COLUMN erased INTEGER NOT NULL DEFAULT 0 CHECK (erased IN (0, 1));

-- Moves to another zone, each from a date on.
CREATE TABLE person_zone (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  from_date TEXT NOT NULL,
  zone TEXT NOT NULL,
  UNIQUE (person_id, from_date)
) STRICT;

-- Leave on the person's wall: both dates are included; a half day has a time, 2026-03-09T13:00.
CREATE TABLE leave (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  from_at TEXT NOT NULL,
  until_at TEXT NOT NULL,
  stand_in_id INTEGER REFERENCES person (id),
  note TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX leave_person ON leave (person_id);
CREATE INDEX leave_stand_in ON leave (stand_in_id);

CREATE TABLE team_group (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX team_group_name ON team_group (lower(trim(name)));
CREATE TABLE group_member (
  id INTEGER PRIMARY KEY,
  group_id INTEGER NOT NULL REFERENCES team_group (id) ON DELETE CASCADE,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  UNIQUE (group_id, person_id)
) STRICT;
CREATE INDEX group_member_person ON group_member (person_id);

-- People outside, who sometimes hear of a date; they never sign in.
CREATE TABLE contact (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  email TEXT,
  phone TEXT,
  zone TEXT NOT NULL,
  note TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE TABLE contact_link (
  id INTEGER PRIMARY KEY,
  contact_id INTEGER NOT NULL REFERENCES contact (id) ON DELETE CASCADE,
  project_id INTEGER REFERENCES project (id),
  task_id INTEGER REFERENCES task (id) ON DELETE CASCADE,
  CHECK ((project_id IS NULL) <> (task_id IS NULL))
) STRICT;
CREATE INDEX contact_link_contact ON contact_link (contact_id);
CREATE INDEX contact_link_project ON contact_link (project_id);
CREATE INDEX contact_link_task ON contact_link (task_id);

-- Other weeks of a calendar, each from a date on.
CREATE TABLE calendar_week (
  id INTEGER PRIMARY KEY,
  calendar_id INTEGER NOT NULL REFERENCES calendar (id) ON DELETE CASCADE,
  from_date TEXT NOT NULL,
  week TEXT NOT NULL CHECK (json_valid(week)),
  UNIQUE (calendar_id, from_date)
) STRICT;

-- Seen by its owner alone; without one by whoever made it.
ALTER TABLE task ADD COLUMN private INTEGER NOT NULL DEFAULT 0 CHECK (private IN (0, 1));

-- Who reads a notice in the end, where that is not the person it was meant for.
ALTER TABLE notice ADD COLUMN reader_id INTEGER;
-- Carries a link that lets somebody in: its text is taken out once it has left.
ALTER TABLE message ADD COLUMN secret INTEGER NOT NULL DEFAULT 0 CHECK (secret IN (0, 1));

-- What a rule does while its recipient is on leave.
UPDATE rule_version SET definition = json_set(definition, '$.tell.away', 'stand-in')
  WHERE json_extract(definition, '$.tell.away') IS NULL;

DROP INDEX notice_leaving;
CREATE INDEX notice_leaving ON notice (leaves_at) WHERE state IN ('planned', 'held', 'folded');
CREATE INDEX message_reader ON message (reader_id, leaves_at);

CREATE INDEX session_person ON session (person_id);

-- The journal may be touched for one thing: to take a person's name out of it, or to clear the demo's sample data.
DROP TRIGGER journal_keeps;
DROP TRIGGER journal_stays;
CREATE TRIGGER journal_keeps BEFORE UPDATE ON journal
  WHEN NOT EXISTS (SELECT 1 FROM engine_state WHERE key = 'erasing')
  BEGIN SELECT raise(ABORT, 'the journal is append-only'); END;
CREATE TRIGGER journal_stays BEFORE DELETE ON journal
  WHEN NOT EXISTS (SELECT 1 FROM engine_state WHERE key = 'erasing')
  BEGIN SELECT raise(ABORT, 'the journal is append-only'); END;
