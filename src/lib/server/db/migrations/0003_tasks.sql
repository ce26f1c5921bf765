-- The whole of a task. Dates that people write are three columns each, as before.
ALTER TABLE task ADD COLUMN remind_date TEXT;
ALTER TABLE task ADD COLUMN remind_time TEXT CHECK (remind_time IS NULL OR remind_date IS NOT NULL);
ALTER TABLE task ADD COLUMN remind_zone TEXT CHECK (remind_time IS NULL = (remind_zone IS NULL));
ALTER TABLE task ADD COLUMN percent INTEGER CHECK (percent IS NULL OR percent BETWEEN 0 AND 100);
-- Whose subtask it is. Not a reference: undo may bring a subtask back before its parent.
ALTER TABLE task ADD COLUMN parent_id INTEGER;
ALTER TABLE task ADD COLUMN section_id INTEGER;
-- Time must be logged before it counts as done with.
ALTER TABLE task ADD COLUMN log_time INTEGER NOT NULL DEFAULT 0 CHECK (log_time IN (0, 1));
-- No sweep may take it.
ALTER TABLE task ADD COLUMN keep INTEGER NOT NULL DEFAULT 0 CHECK (keep IN (0, 1));
-- Where it stands when it is not in the list; no rule sees it there.
ALTER TABLE task ADD COLUMN set_aside TEXT CHECK (set_aside IN ('parked', 'archived', 'binned'));
ALTER TABLE task ADD COLUMN set_aside_at INTEGER CHECK (set_aside IS NULL = (set_aside_at IS NULL));
-- When a parked task is looked at again, and whose it was.
ALTER TABLE task ADD COLUMN review_date TEXT;
ALTER TABLE task ADD COLUMN former_owner_id INTEGER;
-- How it comes back: {"n":1,"unit":"week"} or {"rrule":"FREQ=…"}; counted from what; on closed days; reused or copied.
ALTER TABLE task ADD COLUMN rhythm TEXT CHECK (rhythm IS NULL OR json_valid(rhythm));
ALTER TABLE task ADD COLUMN renew_from TEXT CHECK (renew_from IN ('due', 'finish', 'calendar'));
ALTER TABLE task ADD COLUMN renew_closed_day TEXT NOT NULL DEFAULT 'as-is';
ALTER TABLE task ADD COLUMN renew_copy INTEGER NOT NULL DEFAULT 0 CHECK (renew_copy IN (0, 1));
-- Where the rhythm began (the 31st is remembered through February), and the due date on it before a closed-day rule moved it.
ALTER TABLE task ADD COLUMN rhythm_origin TEXT;
ALTER TABLE task ADD COLUMN rhythm_date TEXT;

CREATE INDEX task_parent ON task (parent_id) WHERE parent_id IS NOT NULL;
CREATE INDEX task_aside ON task (set_aside, set_aside_at) WHERE set_aside IS NOT NULL;
-- Everything that a list filters and sorts by, so that counting and sorting read this alone and not the tasks themselves.
CREATE INDEX task_listed ON task (set_aside, status_id, due_date, due_time, owner_id, project_id, priority, private, created_by,
  section_id, start_date, created_at, touched_at, round, rhythm, name);

-- Owners besides the first, who leads.
CREATE TABLE co_owner (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  person_id INTEGER NOT NULL REFERENCES person (id),
  position INTEGER NOT NULL,
  UNIQUE (task_id, person_id)
) STRICT;
CREATE INDEX co_owner_person ON co_owner (person_id);

CREATE TABLE task_tag (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  name TEXT NOT NULL,
  UNIQUE (task_id, name)
) STRICT;
CREATE INDEX task_tag_name ON task_tag (lower(name), task_id);

CREATE TABLE comment (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  person_id INTEGER,
  at INTEGER NOT NULL,
  text TEXT NOT NULL
) STRICT;
CREATE INDEX comment_task ON comment (task_id, at);

CREATE TABLE time_entry (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  person_id INTEGER,
  at INTEGER NOT NULL,
  minutes INTEGER NOT NULL CHECK (minutes BETWEEN 1 AND 144000),
  note TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX time_entry_task ON time_entry (task_id, at);

-- Fields of the workspace's own. A deadline has a status that meets it.
CREATE TABLE field (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('text', 'number', 'yes or no', 'one choice', 'many choices', 'person', 'people',
    'date', 'date with time', 'date range', 'link')),
  choices TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(choices)),
  met_by_status_id INTEGER REFERENCES status (id),
  position INTEGER NOT NULL
) STRICT;
CREATE UNIQUE INDEX field_name ON field (lower(trim(name)));
CREATE TABLE field_value (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  field_id INTEGER NOT NULL REFERENCES field (id) ON DELETE CASCADE,
  value TEXT NOT NULL CHECK (json_valid(value)),
  UNIQUE (task_id, field_id)
) STRICT;

-- A task is connected with another task, or with a project besides its own.
CREATE TABLE task_link (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  to_task_id INTEGER,
  to_project_id INTEGER REFERENCES project (id),
  CHECK ((to_task_id IS NULL) <> (to_project_id IS NULL))
) STRICT;
CREATE INDEX task_link_task ON task_link (task_id);
CREATE INDEX task_link_to_task ON task_link (to_task_id);
CREATE INDEX task_link_to_project ON task_link (to_project_id);

-- A reminder that somebody set on a task, for themselves or (without a person) for whoever owns it.
CREATE TABLE reminder (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  person_id INTEGER REFERENCES person (id),
  -- {"anchor":"due","n":-15,"unit":"minute"}, or a moment of its own {"date":…,"time":…,"zone":…}.
  timing TEXT NOT NULL CHECK (json_valid(timing)),
  set_by INTEGER
) STRICT;
CREATE INDEX reminder_task ON reminder (task_id);

-- Rounds of a recurring task that are over: when it was due, and when it was finished (NULL: it was not).
CREATE TABLE task_round (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  round INTEGER NOT NULL,
  due TEXT,
  finished_at INTEGER,
  skipped TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(skipped))
) STRICT;
CREATE INDEX task_round_task ON task_round (task_id, round);
ALTER TABLE slip ADD COLUMN round INTEGER NOT NULL DEFAULT 0;

-- What a task will do by itself, and when: come back by the calendar, leave the bin for good.
CREATE TABLE chore (
  task_id INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('renew', 'purge')),
  at INTEGER NOT NULL,
  PRIMARY KEY (task_id, kind)
) STRICT, WITHOUT ROWID;
CREATE INDEX chore_at ON chore (at);

ALTER TABLE project ADD COLUMN description TEXT NOT NULL DEFAULT '';
ALTER TABLE project ADD COLUMN state TEXT NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'called off', 'closed'));
-- Its tasks are things with dates but no work: never overdue, no status to finish.
ALTER TABLE project ADD COLUMN register INTEGER NOT NULL DEFAULT 0 CHECK (register IN (0, 1));
CREATE TABLE project_member (
  id INTEGER PRIMARY KEY,
  project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  role TEXT NOT NULL DEFAULT '',
  UNIQUE (project_id, person_id)
) STRICT;
CREATE INDEX project_member_person ON project_member (person_id);
CREATE TABLE section (
  id INTEGER PRIMARY KEY,
  project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  position INTEGER NOT NULL
) STRICT;
CREATE INDEX section_project ON section (project_id, position);

-- A way of looking at the list that somebody keeps: the address's parameters.
CREATE TABLE saved_list (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  query TEXT NOT NULL,
  shared INTEGER NOT NULL DEFAULT 0 CHECK (shared IN (0, 1))
) STRICT;
CREATE INDEX saved_list_person ON saved_list (person_id);

-- Words of names, descriptions and comments, without regard to case and accents.
CREATE VIRTUAL TABLE task_text USING fts5 (name, description, content = 'task', content_rowid = 'id',
  tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
INSERT INTO task_text (rowid, name, description) SELECT id, name, description FROM task;
CREATE TRIGGER task_text_added AFTER INSERT ON task BEGIN
  INSERT INTO task_text (rowid, name, description) VALUES (new.id, new.name, new.description);
END;
CREATE TRIGGER task_text_gone AFTER DELETE ON task BEGIN
  INSERT INTO task_text (task_text, rowid, name, description) VALUES ('delete', old.id, old.name, old.description);
END;
CREATE TRIGGER task_text_changed AFTER UPDATE OF name, description ON task BEGIN
  INSERT INTO task_text (task_text, rowid, name, description) VALUES ('delete', old.id, old.name, old.description);
  INSERT INTO task_text (rowid, name, description) VALUES (new.id, new.name, new.description);
END;
CREATE VIRTUAL TABLE comment_text USING fts5 (text, content = 'comment', content_rowid = 'id',
  tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
CREATE TRIGGER comment_text_added AFTER INSERT ON comment BEGIN
  INSERT INTO comment_text (rowid, text) VALUES (new.id, new.text);
END;
CREATE TRIGGER comment_text_gone AFTER DELETE ON comment BEGIN
  INSERT INTO comment_text (comment_text, rowid, text) VALUES ('delete', old.id, old.text);
END;
CREATE TRIGGER comment_text_changed AFTER UPDATE OF text ON comment BEGIN
  INSERT INTO comment_text (comment_text, rowid, text) VALUES ('delete', old.id, old.text);
  INSERT INTO comment_text (rowid, text) VALUES (new.id, new.text);
END;

-- The built-in rule by which reminders on tasks ring: each task gives its own leads.
ALTER TABLE rule ADD COLUMN kind TEXT NOT NULL DEFAULT 'rule' CHECK (kind IN ('rule', 'reminders'));
INSERT INTO rule (name, description, state, position, kind, on_change)
  VALUES ('Reminders set on tasks', 'Rings what people set on single tasks.', 'on', 0, 'reminders', 0);
INSERT INTO rule_version (rule_id, number, created_at, definition)
  SELECT id, 1, 0, json('{"watch":{"projects":null,"phases":["waiting to start","under way","stuck on others"],'
    || '"priorities":["low","ordinary","high","pressing"]},"leads":[],'
    || '"tell":{"to":"owner","channel":"mail","reach":"outside quiet hours","away":"wait",'
    || '"subject":"‹task›: ‹days left›","body":"Good day ‹first name›,\n\nyou wanted to be reminded of ‹task› (‹project›). It is ‹days left›: ‹due›.\n\n‹link›"}}')
  FROM rule WHERE kind = 'reminders';
UPDATE rule SET live_version = (SELECT v.id FROM rule_version v WHERE v.rule_id = rule.id) WHERE kind = 'reminders';
