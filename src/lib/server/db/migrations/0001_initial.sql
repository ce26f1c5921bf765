-- Instants are INTEGER milliseconds UTC, dates TEXT YYYY-MM-DD, times TEXT HH:MM, zones TEXT IANA names as given.

CREATE TABLE setting (
  id INTEGER PRIMARY KEY,
  key TEXT NOT NULL UNIQUE,
  value TEXT NOT NULL CHECK (json_valid(value))
) STRICT;

CREATE TABLE calendar (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  week TEXT NOT NULL CHECK (json_valid(week))
) STRICT;

-- Exceptions by date: closed (no intervals) or other hours.
CREATE TABLE calendar_day (
  id INTEGER PRIMARY KEY,
  calendar_id INTEGER NOT NULL REFERENCES calendar (id) ON DELETE CASCADE,
  date TEXT NOT NULL,
  name TEXT,
  intervals TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(intervals)),
  UNIQUE (calendar_id, date)
) STRICT;

CREATE TABLE person (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  email TEXT,
  zone TEXT NOT NULL,
  calendar_id INTEGER NOT NULL REFERENCES calendar (id),
  manager_id INTEGER REFERENCES person (id),
  active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1)),
  -- An administrator does what a coordinator does, and looks after access and settings.
  role TEXT NOT NULL DEFAULT 'owner' CHECK (role IN ('owner', 'manager', 'coordinator', 'administrator')),
  phone TEXT,
  -- Intervals of their day in which they want no notice, on their wall.
  quiet TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(quiet)),
  -- Most messages on one of their dates; what is more leaves together at the next opening.
  daily_cap INTEGER CHECK (daily_cap IS NULL OR daily_cap BETWEEN 1 AND 1000),
  -- When their digests leave, on their wall: what is put off waits for them.
  digest_due TEXT,
  digest_overdue TEXT,
  -- What was theirs has been taken out everywhere.
  erased INTEGER NOT NULL DEFAULT 0 CHECK (erased IN (0, 1)),
  -- The name under which the chat knows somebody, and by which channels they want to hear of what: a list by kind of notice.
  chat TEXT,
  channels TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(channels))
) STRICT;
-- One person however an address is spelled.
CREATE UNIQUE INDEX person_email ON person (lower(trim(email))) WHERE email IS NOT NULL;
CREATE INDEX person_calendar ON person (calendar_id);
CREATE INDEX person_manager ON person (manager_id);

CREATE TABLE project (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  zone TEXT,
  calendar_id INTEGER REFERENCES calendar (id),
  pinned INTEGER NOT NULL DEFAULT 0 CHECK (pinned IN (0, 1)),
  description TEXT NOT NULL DEFAULT '',
  state TEXT NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'called off', 'closed')),
  -- Its tasks are things with dates but no work: never overdue, no status to finish.
  register INTEGER NOT NULL DEFAULT 0 CHECK (register IN (0, 1))
) STRICT;

CREATE TABLE status (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  phase TEXT NOT NULL CHECK (phase IN ('waiting to start', 'under way', 'stuck on others', 'finished', 'closed')),
  position INTEGER NOT NULL
) STRICT;

CREATE TABLE task (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  description TEXT NOT NULL DEFAULT '',
  project_id INTEGER REFERENCES project (id),
  owner_id INTEGER REFERENCES person (id),
  status_id INTEGER NOT NULL REFERENCES status (id),
  priority TEXT NOT NULL DEFAULT 'ordinary' CHECK (priority IN ('low', 'ordinary', 'high', 'pressing')),
  -- Dates that people write are three columns each; a time has the zone that it was written in.
  due_date TEXT,
  due_time TEXT,
  due_zone TEXT,
  original_due_date TEXT,
  original_due_time TEXT,
  original_due_zone TEXT,
  start_date TEXT,
  start_time TEXT,
  start_zone TEXT,
  created_at INTEGER NOT NULL,
  created_by INTEGER,
  touched_at INTEGER NOT NULL,
  finished_at INTEGER,
  round INTEGER NOT NULL DEFAULT 0,
  import_key TEXT,
  -- Seen by its owner alone; without one by whoever made it.
  private INTEGER NOT NULL DEFAULT 0 CHECK (private IN (0, 1)),
  -- The date on which people want to be reminded of it.
  remind_date TEXT,
  remind_time TEXT CHECK (remind_time IS NULL OR remind_date IS NOT NULL),
  remind_zone TEXT CHECK (remind_time IS NULL = (remind_zone IS NULL)),
  percent INTEGER CHECK (percent IS NULL OR percent BETWEEN 0 AND 100),
  -- Whose subtask it is. Not a reference: undo may bring a subtask back before its parent.
  parent_id INTEGER,
  section_id INTEGER,
  -- Time must be logged before it counts as done with.
  log_time INTEGER NOT NULL DEFAULT 0 CHECK (log_time IN (0, 1)),
  -- No sweep may take it.
  keep INTEGER NOT NULL DEFAULT 0 CHECK (keep IN (0, 1)),
  -- Where it stands when it is not in the list; no rule sees it there.
  set_aside TEXT CHECK (set_aside IN ('parked', 'archived', 'binned')),
  set_aside_at INTEGER CHECK (set_aside IS NULL = (set_aside_at IS NULL)),
  -- When a parked task is looked at again, and whose it was.
  review_date TEXT,
  former_owner_id INTEGER,
  -- How it comes back: {"n":1,"unit":"week"} or {"rrule":"FREQ=…"}; counted from what; on closed days; reused or copied.
  rhythm TEXT CHECK (rhythm IS NULL OR json_valid(rhythm)),
  renew_from TEXT CHECK (renew_from IN ('due', 'finish', 'calendar')),
  renew_closed_day TEXT NOT NULL DEFAULT 'as-is',
  renew_copy INTEGER NOT NULL DEFAULT 0 CHECK (renew_copy IN (0, 1)),
  -- Where the rhythm began (the 31st is remembered through February), and the due date on it before a closed-day rule moved it.
  rhythm_origin TEXT,
  rhythm_date TEXT,
  -- When it came to its owner.
  assigned_at INTEGER NOT NULL DEFAULT 0,
  -- Since when a task has its due date, workspace clock; NULL: since it was made. A ladder starts again with a new date.
  due_since INTEGER,
  CHECK (due_time IS NULL = (due_zone IS NULL)),
  CHECK (due_time IS NULL OR due_date IS NOT NULL),
  CHECK (start_time IS NULL = (start_zone IS NULL)),
  CHECK (start_time IS NULL OR start_date IS NOT NULL)
) STRICT;
CREATE INDEX task_due ON task (due_date, id);
CREATE INDEX task_owner ON task (owner_id);
CREATE INDEX task_project ON task (project_id);
CREATE UNIQUE INDEX task_import_key ON task (import_key) WHERE import_key IS NOT NULL;
CREATE INDEX task_parent ON task (parent_id) WHERE parent_id IS NOT NULL;
CREATE INDEX task_aside ON task (set_aside, set_aside_at) WHERE set_aside IS NOT NULL;
-- Everything that a list filters and sorts by, so that counting and sorting read this alone and not the tasks themselves.
CREATE INDEX task_listed ON task (set_aside, status_id, due_date, due_time, owner_id, project_id, priority, private, created_by,
  section_id, start_date, created_at, touched_at, round, rhythm, name);
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
-- What is parked is nobody's; it comes back to whoever has it here.
CREATE TRIGGER task_parked_of_nobody BEFORE UPDATE OF set_aside, owner_id ON task
  WHEN NEW.set_aside = 'parked' AND NEW.owner_id IS NOT NULL
  BEGIN SELECT raise(ABORT, 'a parked task has no owner'); END;
CREATE TRIGGER task_made_parked_of_nobody BEFORE INSERT ON task
  WHEN NEW.set_aside = 'parked' AND NEW.owner_id IS NOT NULL
  BEGIN SELECT raise(ABORT, 'a parked task has no owner'); END;

-- Moves of a due date to a later one, with who moved it.
CREATE TABLE slip (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  at INTEGER NOT NULL,
  by_id INTEGER,
  from_due TEXT NOT NULL,
  to_due TEXT NOT NULL,
  round INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX slip_task ON slip (task_id);

-- Which status a task had, from when until when (NULL: still).
CREATE TABLE status_span (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  status_id INTEGER NOT NULL,
  from_at INTEGER NOT NULL,
  until_at INTEGER
) STRICT;
CREATE INDEX status_span_task ON status_span (task_id, from_at);
-- A task is in one status at a time.
CREATE UNIQUE INDEX status_span_open ON status_span (task_id) WHERE until_at IS NULL;

CREATE TABLE rule (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  description TEXT NOT NULL DEFAULT '',
  keeper_id INTEGER REFERENCES person (id),
  state TEXT NOT NULL DEFAULT 'draft' CHECK (state IN ('draft', 'on', 'off', 'faulty')),
  position INTEGER NOT NULL,
  live_version INTEGER,
  draft_version INTEGER,
  -- The change that turned it on: nothing that came in before is made up for.
  on_change INTEGER,
  -- The built-in rule by which reminders on tasks ring: each task gives its own leads.
  kind TEXT NOT NULL DEFAULT 'rule' CHECK (kind IN ('rule', 'reminders')),
  -- When the live version became live.
  live_at INTEGER,
  -- Why a faulty one does not ring.
  fault TEXT,
  -- Rules stand in groups, by the name of the group; '' stands for none.
  group_name TEXT NOT NULL DEFAULT ''
) STRICT;

-- What a rule said, version by version; never rewritten once it has been live.
CREATE TABLE rule_version (
  id INTEGER PRIMARY KEY,
  rule_id INTEGER NOT NULL REFERENCES rule (id) ON DELETE CASCADE,
  number INTEGER NOT NULL,
  definition TEXT NOT NULL CHECK (json_valid(definition)),
  created_at INTEGER NOT NULL,
  created_by INTEGER,
  UNIQUE (rule_id, number)
) STRICT;

-- The kept plan: the next ring instant (steps 1 to 4) of each task, lead and recipient.
CREATE TABLE plan (
  task_id INTEGER NOT NULL,
  rule_id INTEGER NOT NULL,
  lead_id TEXT NOT NULL,
  recipient_id INTEGER NOT NULL,
  ring_at INTEGER NOT NULL,
  origin_day INTEGER NOT NULL,
  anchor_value TEXT NOT NULL,
  due_at INTEGER NOT NULL,
  -- Which repeat of a lead rings; recipient 0 stands for the run of the ring.
  ordinal INTEGER NOT NULL DEFAULT 0,
  lead_order INTEGER NOT NULL DEFAULT 0,
  -- A ring that would be late may be told earlier: ring_at is then the minute that it is brought forward to, and this its ring instant.
  brought_from INTEGER,
  PRIMARY KEY (task_id, rule_id, lead_id, recipient_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX plan_ring ON plan (ring_at);
CREATE INDEX plan_rule ON plan (rule_id);

-- Tasks whose plan is stale, and why: a tick re-plans all of them before it rings anything.
CREATE TABLE replan (
  task_id INTEGER PRIMARY KEY,
  cause TEXT NOT NULL CHECK (cause IN ('created', 'date moved', 'other')),
  change_id INTEGER NOT NULL,
  actor_id INTEGER,
  -- What is stale is planned anew in the order in which it rings next: when that is, as the plan had it before. 0 comes first.
  first_at INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX replan_first ON replan (first_at, task_id);

CREATE TABLE ring (
  id INTEGER PRIMARY KEY,
  rule_id INTEGER NOT NULL,
  lead_id TEXT NOT NULL,
  ordinal INTEGER NOT NULL DEFAULT 0,
  subject_kind TEXT NOT NULL DEFAULT 'task',
  subject_id INTEGER NOT NULL,
  anchor_value TEXT NOT NULL,
  round INTEGER NOT NULL DEFAULT 0,
  ring_at INTEGER NOT NULL,
  UNIQUE (rule_id, lead_id, ordinal, subject_kind, subject_id, anchor_value, round)
) STRICT;
CREATE INDEX ring_subject ON ring (subject_kind, subject_id);

-- A run of a ring: where it stands and when it goes on. The ring of a schedule, or of a press over a Watch, has one that holds the stages.
CREATE TABLE run (
  id INTEGER PRIMARY KEY,
  ring_id INTEGER NOT NULL UNIQUE REFERENCES ring (id),
  parent_id INTEGER,
  rule_id INTEGER NOT NULL,
  rule_version_id INTEGER NOT NULL,
  -- The instruction to go on with.
  step INTEGER NOT NULL DEFAULT 0,
  next_at INTEGER,
  state TEXT NOT NULL CHECK (state IN ('running', 'asking', 'ended', 'stopped')),
  -- Why it was stopped, or what it came to: “rang for nobody”.
  outcome TEXT,
  actor_id INTEGER,
  -- Goes on even if Watch no longer matches.
  regardless INTEGER NOT NULL DEFAULT 0 CHECK (regardless IN (0, 1)),
  -- What it changed itself of its task, in order; of a parent its stages.
  own TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(own)),
  stages TEXT CHECK (stages IS NULL OR json_valid(stages)),
  started_at INTEGER NOT NULL,
  ended_at INTEGER
) STRICT;
CREATE INDEX run_next ON run (next_at) WHERE state IN ('running', 'asking');
CREATE INDEX run_rule ON run (rule_id, started_at);
CREATE INDEX run_parent ON run (parent_id) WHERE parent_id IS NOT NULL;

CREATE TABLE notice (
  id INTEGER PRIMARY KEY,
  ring_id INTEGER NOT NULL REFERENCES ring (id),
  recipient_id INTEGER NOT NULL,
  snooze INTEGER NOT NULL DEFAULT 0,
  state TEXT NOT NULL CHECK (state IN ('planned', 'held', 'folded', 'sending', 'sent', 'failed', 'in doubt', 'unrung', 'withdrawn')),
  reason TEXT,
  ring_at INTEGER NOT NULL,
  leaves_at INTEGER,
  origin_day INTEGER NOT NULL,
  late_bell INTEGER NOT NULL DEFAULT 0 CHECK (late_bell IN (0, 1)),
  acted_at INTEGER,
  why TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(why)),
  ended_at INTEGER,
  -- Who reads a notice in the end, where that is not the person it was meant for.
  reader_id INTEGER,
  -- A notice is of one Tell, by the id of its step; it can be a copy of what another got.
  step_id TEXT NOT NULL DEFAULT 'tell',
  copied TEXT NOT NULL DEFAULT 'to' CHECK (copied IN ('to', 'cc', 'bcc')),
  kind TEXT NOT NULL DEFAULT 'reminder',
  -- Urgent or a must: swallows nothing and is not swallowed.
  forced INTEGER NOT NULL DEFAULT 0 CHECK (forced IN (0, 1)),
  -- It is kept back because its rule was about to send far more than was foreseen.
  rush_id INTEGER,
  -- By which of its recipients a Tell came to whoever is told: when that one comes to be somebody else, it is told to them.
  named TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(named))
) STRICT;
CREATE INDEX notice_ring ON notice (ring_id);
CREATE INDEX notice_recipient ON notice (recipient_id, leaves_at);
CREATE INDEX notice_leaving ON notice (leaves_at) WHERE state IN ('planned', 'held', 'folded');
CREATE INDEX notice_rush ON notice (rush_id) WHERE rush_id IS NOT NULL;
-- What rang, or should have, while the application did not run is looked up by its instant.
CREATE INDEX notice_rung ON notice (ring_at);
-- A notice that left, or is about to, occupies its key; unrung and withdrawn ones are history.
CREATE UNIQUE INDEX notice_key ON notice (ring_id, step_id, recipient_id, snooze)
  WHERE state IN ('planned', 'held', 'folded', 'sending', 'sent', 'in doubt', 'failed') OR (state = 'unrung' AND reason = 'same moment');

CREATE TABLE message (
  id INTEGER PRIMARY KEY,
  reader_id INTEGER NOT NULL,
  message_id TEXT NOT NULL UNIQUE,
  leaves_at INTEGER NOT NULL,
  subject TEXT NOT NULL,
  text TEXT NOT NULL,
  html TEXT NOT NULL,
  -- Carries a link that lets somebody in: its text is taken out once it has left.
  secret INTEGER NOT NULL DEFAULT 0 CHECK (secret IN (0, 1)),
  importance TEXT NOT NULL DEFAULT 'ordinary' CHECK (importance IN ('ordinary', 'high')),
  -- Files that go along: a list of name, type and text.
  attachments TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(attachments)),
  -- Where a message leads, for channels that carry one link.
  link TEXT NOT NULL DEFAULT '',
  -- The words of a message are kept for a year; who was told of what, when, by which way and how that ended stays.
  words_kept INTEGER NOT NULL DEFAULT 1 CHECK (words_kept IN (0, 1))
) STRICT;
CREATE INDEX message_reader ON message (reader_id, leaves_at);
CREATE INDEX message_words ON message (leaves_at) WHERE words_kept = 1;

CREATE TABLE message_notice (
  message_id INTEGER NOT NULL REFERENCES message (id),
  notice_id INTEGER NOT NULL UNIQUE REFERENCES notice (id),
  PRIMARY KEY (message_id, notice_id)
) STRICT, WITHOUT ROWID;

-- Leases, waits and attempts run on the machine clock; leaves_at of the message on the workspace clock.
CREATE TABLE delivery (
  id INTEGER PRIMARY KEY,
  message_id INTEGER NOT NULL REFERENCES message (id),
  channel TEXT NOT NULL,
  address TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('queued', 'leased', 'accepted', 'failed')),
  attempt INTEGER NOT NULL DEFAULT 0,
  next_attempt_at INTEGER NOT NULL,
  lease_until INTEGER,
  -- An attempt ended without our knowing how: the next one may be a repeat.
  in_doubt INTEGER NOT NULL DEFAULT 0 CHECK (in_doubt IN (0, 1)),
  last_answer TEXT,
  ended_at INTEGER,
  -- One to all recipients together has several deliveries of one message, each for one of its readers.
  reader_id INTEGER,
  -- First attempts go in the order of their instants; their next attempt is at 0, so that they come before any other.
  leaves_at INTEGER NOT NULL DEFAULT 0,
  -- What came back about a text message that was taken: when it had arrived. Workspace clock.
  arrived_at INTEGER,
  -- When its reader looked at it in the application. Workspace clock.
  seen_at INTEGER,
  UNIQUE (message_id, channel, address)
) STRICT;
CREATE INDEX delivery_next ON delivery (channel, next_attempt_at, leaves_at, id) WHERE state = 'queued';
CREATE INDEX delivery_leased ON delivery (lease_until) WHERE state = 'leased';
-- Those that are tried again or have failed are shown; most never are.
CREATE INDEX delivery_failing ON delivery (leaves_at) WHERE state = 'failed' OR (state IN ('queued', 'leased') AND attempt > 0);
CREATE INDEX delivery_in_app ON delivery (reader_id, id) WHERE channel = 'in-app';

-- Every write of a person or a rule, with the rows as they were and as they became: undo and hindsight read it.
CREATE TABLE change (
  id INTEGER PRIMARY KEY,
  at INTEGER NOT NULL,
  actor_id INTEGER,
  source TEXT NOT NULL CHECK (source IN ('person', 'link', 'api', 'import', 'bulk', 'rule', 'sweep', 'renewal', 'undo', 'set-up')),
  title TEXT NOT NULL,
  undone_by INTEGER REFERENCES change (id),
  -- What a rule did has the change that set it off, and the run that did it.
  caused_by INTEGER REFERENCES change (id),
  rule_id INTEGER,
  run_id INTEGER
) STRICT;
CREATE INDEX change_caused_by ON change (caused_by) WHERE caused_by IS NOT NULL;
CREATE INDEX change_run ON change (run_id) WHERE run_id IS NOT NULL;
CREATE INDEX change_rule ON change (rule_id) WHERE rule_id IS NOT NULL;

CREATE TABLE change_row (
  id INTEGER PRIMARY KEY,
  change_id INTEGER NOT NULL REFERENCES change (id),
  table_name TEXT NOT NULL,
  row_id INTEGER NOT NULL,
  before TEXT CHECK (before IS NULL OR json_valid(before)),
  after TEXT CHECK (after IS NULL OR json_valid(after))
) STRICT;
CREATE INDEX change_row_change ON change_row (change_id);
CREATE INDEX change_row_row ON change_row (table_name, row_id);
-- What hangs on a task is looked up of changes that may have written very many rows.
CREATE INDEX change_row_parts ON change_row (change_id) WHERE table_name IN ('task_tag', 'co_owner', 'field_value');

-- Append-only record of everything that happened besides changes of data.
CREATE TABLE journal (
  id INTEGER PRIMARY KEY,
  at INTEGER NOT NULL,
  machine_at INTEGER NOT NULL,
  kind TEXT NOT NULL,
  change_id INTEGER,
  data TEXT NOT NULL CHECK (json_valid(data))
) STRICT;
CREATE TRIGGER journal_keeps BEFORE UPDATE ON journal
  WHEN NOT EXISTS (SELECT 1 FROM engine_state WHERE key = 'erasing')
  BEGIN SELECT raise(ABORT, 'the journal is append-only'); END;
CREATE TRIGGER journal_stays BEFORE DELETE ON journal
  WHEN NOT EXISTS (SELECT 1 FROM engine_state WHERE key = 'erasing')
  BEGIN SELECT raise(ABORT, 'the journal is append-only'); END;

CREATE TABLE password (
  person_id INTEGER PRIMARY KEY REFERENCES person (id),
  hash TEXT NOT NULL
) STRICT;

CREATE TABLE session (
  token_hash TEXT PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id),
  expires_at INTEGER NOT NULL
) STRICT;
CREATE INDEX session_person ON session (person_id);

-- Links that work once, by the hash of their token.
CREATE TABLE one_time_link (
  token_hash TEXT PRIMARY KEY,
  purpose TEXT NOT NULL,
  person_id INTEGER,
  expires_at INTEGER NOT NULL
) STRICT;

CREATE TABLE sign_in_failure (
  email TEXT PRIMARY KEY,
  count INTEGER NOT NULL,
  last_at INTEGER NOT NULL
) STRICT;

-- An upload on its way into tasks; rows are staged here and nothing else changes until it is confirmed.
CREATE TABLE import_job (
  id INTEGER PRIMARY KEY,
  token TEXT NOT NULL UNIQUE,
  person_id INTEGER NOT NULL,
  file_name TEXT NOT NULL,
  created_at INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('reading', 'ready', 'done', 'refused')),
  settings TEXT NOT NULL CHECK (json_valid(settings)),
  error TEXT
) STRICT;

CREATE TABLE import_row (
  job_id INTEGER NOT NULL REFERENCES import_job (id) ON DELETE CASCADE,
  line INTEGER NOT NULL,
  cells TEXT NOT NULL CHECK (json_valid(cells)),
  PRIMARY KEY (job_id, line)
) STRICT, WITHOUT ROWID;

-- What the engine keeps for itself: where a moved clock stands, the tzdata that the plan was made with.
CREATE TABLE engine_state (
  key TEXT PRIMARY KEY,
  value TEXT NOT NULL CHECK (json_valid(value))
) STRICT, WITHOUT ROWID;

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
  kind TEXT NOT NULL
    CHECK (kind IN ('text', 'number', 'yes or no', 'one choice', 'many choices', 'person', 'people', 'date', 'date with time', 'date range', 'link')),
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

-- What a task does by itself, and when: it comes back, leaves the bin, or its promise ends.
CREATE TABLE chore (
  task_id INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('renew', 'purge', 'promise')),
  at INTEGER NOT NULL,
  PRIMARY KEY (task_id, kind)
) STRICT, WITHOUT ROWID;
CREATE INDEX chore_at ON chore (at);

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
  shared INTEGER NOT NULL DEFAULT 0 CHECK (shared IN (0, 1)),
  -- A kept list may be counted on the Bell tower.
  counted INTEGER NOT NULL DEFAULT 0 CHECK (counted IN (0, 1))
) STRICT;
CREATE INDEX saved_list_person ON saved_list (person_id);

-- Words of names, descriptions and comments, without regard to case and accents.
CREATE VIRTUAL TABLE task_text USING fts5 (name, description, content = 'task', content_rowid = 'id',
  tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');

CREATE VIRTUAL TABLE comment_text USING fts5 (text, content = 'comment', content_rowid = 'id',
  tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');

-- Rules that were turned on, or became live anew, since everything was last planned.
CREATE TABLE turned_on (
  rule_id INTEGER PRIMARY KEY
) STRICT;

-- The next ring of each schedule.
CREATE TABLE schedule_plan (
  rule_id INTEGER NOT NULL,
  lead_id TEXT NOT NULL,
  next_at INTEGER NOT NULL,
  PRIMARY KEY (rule_id, lead_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX schedule_next ON schedule_plan (next_at);

-- What each step of a run found and did, in order.
CREATE TABLE run_step (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES run (id) ON DELETE CASCADE,
  step_id TEXT NOT NULL,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  at INTEGER NOT NULL,
  input TEXT NOT NULL CHECK (json_valid(input)),
  output TEXT NOT NULL CHECK (json_valid(output))
) STRICT;
CREATE INDEX run_step_run ON run_step (run_id);

-- Acts that are done once for a task in its round, with the task that they made.
CREATE TABLE rule_once (
  id INTEGER PRIMARY KEY,
  rule_id INTEGER NOT NULL,
  step_id TEXT NOT NULL,
  task_id INTEGER NOT NULL,
  round INTEGER NOT NULL,
  made_task_id INTEGER,
  UNIQUE (rule_id, step_id, task_id, round)
) STRICT;
-- What a rule has made is not made again of that.
CREATE INDEX rule_once_made ON rule_once (made_task_id) WHERE made_task_id IS NOT NULL;

-- “After asking”: what is asked before a step acts, and what was answered.
CREATE TABLE question (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES run (id),
  step_id TEXT NOT NULL,
  task_id INTEGER NOT NULL,
  person_id INTEGER,
  text TEXT NOT NULL,
  asked_at INTEGER NOT NULL,
  answer_by INTEGER NOT NULL,
  otherwise TEXT NOT NULL CHECK (otherwise IN ('yes', 'no')),
  answer TEXT CHECK (answer IN ('yes', 'no', 'change')),
  answered_at INTEGER,
  answered_by INTEGER
) STRICT;
CREATE INDEX question_task ON question (task_id);
CREATE INDEX question_open ON question (run_id) WHERE answer IS NULL;

-- What is quiet, from when until when.
CREATE TABLE hush (
  id INTEGER PRIMARY KEY,
  subject_kind TEXT NOT NULL CHECK (subject_kind IN ('task', 'project', 'person', 'rule')),
  subject_id INTEGER NOT NULL,
  from_at INTEGER NOT NULL,
  until_at INTEGER NOT NULL CHECK (until_at > from_at),
  by_id INTEGER,
  note TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX hush_subject ON hush (subject_kind, subject_id);

-- Who wanted no reminder of a task, from when until when: what would have rung in such a time is not made up for later.
CREATE TABLE no_reminder (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  person_id INTEGER NOT NULL REFERENCES person (id),
  from_at INTEGER NOT NULL DEFAULT 0,
  until_at INTEGER CHECK (until_at > from_at)
) STRICT;
CREATE UNIQUE INDEX no_reminder_open ON no_reminder (task_id, person_id) WHERE until_at IS NULL;
CREATE INDEX no_reminder_task ON no_reminder (task_id);

CREATE TABLE reader_list (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  recipients TEXT NOT NULL CHECK (json_valid(recipients))
) STRICT;

CREATE TABLE message_template (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  subject TEXT NOT NULL,
  body TEXT NOT NULL
) STRICT;

-- Everybody outside the team who is told of something, by address; notices know them by this id, negated.
CREATE TABLE outside (
  id INTEGER PRIMARY KEY,
  address TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL DEFAULT ''
) STRICT;

-- A rule that was about to send far more than was foreseen, and what its keeper said.
CREATE TABLE rush (
  id INTEGER PRIMARY KEY,
  rule_id INTEGER NOT NULL,
  at INTEGER NOT NULL,
  count INTEGER NOT NULL,
  expected INTEGER NOT NULL,
  answer TEXT CHECK (answer IN ('send', 'gather', 'do not ring')),
  answered_at INTEGER,
  answered_by INTEGER
) STRICT;
CREATE INDEX rush_open ON rush (rule_id) WHERE answer IS NULL;

-- Addresses from which mail came back (RFC 3464). Kept until somebody says that it works again, or the address is changed.
CREATE TABLE returned_address (
  address TEXT PRIMARY KEY COLLATE NOCASE,
  at INTEGER NOT NULL,
  reason TEXT NOT NULL
) STRICT;

-- Whoever looks after a rule hears of a dead end once in a while, not of each.
CREATE TABLE dead_end_told (
  rule_id INTEGER PRIMARY KEY,
  at INTEGER NOT NULL
) STRICT;

-- Secrets that the application keeps for itself. They are no settings, and stand in no change record.
CREATE TABLE secret (
  name TEXT PRIMARY KEY,
  value BLOB NOT NULL
) STRICT;

-- Links in messages that have done what they do: each works once.
CREATE TABLE act_used (
  token_hash BLOB PRIMARY KEY,
  notice_id INTEGER NOT NULL,
  act TEXT NOT NULL,
  person_id INTEGER NOT NULL,
  at INTEGER NOT NULL,
  -- A link in a digest is about one of its tasks, not about a notice.
  digest_run_id INTEGER
) STRICT;

-- Acknowledgements of late work, with the dates that were promised. Workspace clock.
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
  state TEXT NOT NULL CHECK (state IN ('asked', 'refused', 'open', 'over', 'kept', 'broken')),
  -- A promise for later than the due date waits for a yes: whoever said it, and when.
  answered_by INTEGER REFERENCES person (id),
  answered_at INTEGER
) STRICT;
CREATE INDEX promise_task ON promise (task_id, id);
CREATE INDEX promise_asked ON promise (id) WHERE state = 'asked';

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
  state TEXT NOT NULL CHECK (state IN ('looking', 'ready', 'running', 'halted', 'done', 'stopped', 'passed', 'undoing', 'undone')),
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

-- The built-in rule by which reminders on tasks ring: each task gives its own leads.
INSERT INTO rule (name, description, state, position, kind, on_change)
  VALUES ('Reminders set on tasks', 'Rings what people set on single tasks.', 'on', 0, 'reminders', 0);
INSERT INTO rule_version (rule_id, number, created_at, definition)
  SELECT id, 1, 0, json('{"watch":{"projects":null,"phases":["waiting to start","under way","stuck on others"],'
    || '"priorities":["low","ordinary","high","pressing"]},"leads":[],'
    || '"tell":{"to":"owner","channel":"mail","reach":"outside quiet hours","away":"wait",'
    || '"subject":"‹task›: ‹days left›","body":"Good day ‹first name›,\n\nyou wanted to be reminded of ‹task› (‹project›). It is ‹days left›: ‹due›.\n\n‹link›"}}')
  FROM rule WHERE kind = 'reminders';
UPDATE rule SET live_version = (SELECT v.id FROM rule_version v WHERE v.rule_id = rule.id) WHERE kind = 'reminders';

INSERT INTO digest (name, description, state, position, definition, on_at)
VALUES ('Your day', 'To each person at the digest times on their own page.', 'on', 1, '{}', 0);
