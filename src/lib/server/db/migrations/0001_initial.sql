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
  role TEXT NOT NULL DEFAULT 'owner' CHECK (role IN ('owner', 'manager', 'coordinator')),
  active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1))
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
  pinned INTEGER NOT NULL DEFAULT 0 CHECK (pinned IN (0, 1))
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
  CHECK (due_time IS NULL = (due_zone IS NULL)),
  CHECK (due_time IS NULL OR due_date IS NOT NULL),
  CHECK (start_time IS NULL = (start_zone IS NULL)),
  CHECK (start_time IS NULL OR start_date IS NOT NULL)
) STRICT;
CREATE INDEX task_due ON task (due_date, id);
CREATE INDEX task_owner ON task (owner_id);
CREATE INDEX task_project ON task (project_id);
CREATE UNIQUE INDEX task_import_key ON task (import_key) WHERE import_key IS NOT NULL;

-- Moves of a due date to a later one, with who moved it.
CREATE TABLE slip (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  at INTEGER NOT NULL,
  by_id INTEGER,
  from_due TEXT NOT NULL,
  to_due TEXT NOT NULL
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
  on_change INTEGER
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
  PRIMARY KEY (task_id, rule_id, lead_id, recipient_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX plan_ring ON plan (ring_at);
CREATE INDEX plan_rule ON plan (rule_id);

-- Tasks whose plan is stale, and why: a tick re-plans all of them before it rings anything.
CREATE TABLE replan (
  task_id INTEGER PRIMARY KEY,
  cause TEXT NOT NULL CHECK (cause IN ('created', 'date moved', 'other')),
  change_id INTEGER NOT NULL,
  actor_id INTEGER
) STRICT;

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

CREATE TABLE run (
  id INTEGER PRIMARY KEY,
  ring_id INTEGER NOT NULL UNIQUE REFERENCES ring (id),
  rule_version_id INTEGER NOT NULL,
  step INTEGER NOT NULL DEFAULT 0,
  next_at INTEGER,
  state TEXT NOT NULL CHECK (state IN ('running', 'ended')),
  started_at INTEGER NOT NULL
) STRICT;

CREATE TABLE notice (
  id INTEGER PRIMARY KEY,
  ring_id INTEGER NOT NULL REFERENCES ring (id),
  step INTEGER NOT NULL DEFAULT 0,
  -- The person it was meant for, whoever reads it in the end.
  recipient_id INTEGER NOT NULL,
  snooze INTEGER NOT NULL DEFAULT 0,
  state TEXT NOT NULL CHECK (state IN
    ('planned', 'held', 'folded', 'sending', 'sent', 'failed', 'in doubt', 'unrung', 'withdrawn')),
  reason TEXT,
  ring_at INTEGER NOT NULL,
  leaves_at INTEGER,
  origin_day INTEGER NOT NULL,
  late_bell INTEGER NOT NULL DEFAULT 0 CHECK (late_bell IN (0, 1)),
  acted_at INTEGER,
  why TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(why)),
  ended_at INTEGER
) STRICT;
-- A notice that left, or is about to, occupies its key; unrung and withdrawn ones are history.
CREATE UNIQUE INDEX notice_key ON notice (ring_id, step, recipient_id, snooze)
  WHERE state IN ('planned', 'held', 'folded', 'sending', 'sent', 'in doubt', 'failed');
CREATE INDEX notice_ring ON notice (ring_id);
CREATE INDEX notice_leaving ON notice (leaves_at) WHERE state IN ('planned', 'held');
CREATE INDEX notice_recipient ON notice (recipient_id, leaves_at);

CREATE TABLE message (
  id INTEGER PRIMARY KEY,
  reader_id INTEGER NOT NULL,
  message_id TEXT NOT NULL UNIQUE,
  leaves_at INTEGER NOT NULL,
  subject TEXT NOT NULL,
  text TEXT NOT NULL,
  html TEXT NOT NULL
) STRICT;

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
  UNIQUE (message_id, channel, address)
) STRICT;
CREATE INDEX delivery_next ON delivery (next_attempt_at) WHERE state IN ('queued', 'leased');

-- Every write of a person or a rule, with the rows as they were and as they became: undo and hindsight read it.
CREATE TABLE change (
  id INTEGER PRIMARY KEY,
  at INTEGER NOT NULL,
  actor_id INTEGER,
  source TEXT NOT NULL CHECK (source IN
    ('person', 'link', 'api', 'import', 'bulk', 'rule', 'sweep', 'renewal', 'undo', 'set-up')),
  title TEXT NOT NULL,
  undone_by INTEGER REFERENCES change (id)
) STRICT;
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

-- Append-only record of everything that happened besides changes of data.
CREATE TABLE journal (
  id INTEGER PRIMARY KEY,
  at INTEGER NOT NULL,
  machine_at INTEGER NOT NULL,
  kind TEXT NOT NULL,
  change_id INTEGER,
  data TEXT NOT NULL CHECK (json_valid(data))
) STRICT;
CREATE TRIGGER journal_keeps BEFORE UPDATE ON journal BEGIN SELECT raise(ABORT, 'the journal is append-only'); END;
CREATE TRIGGER journal_stays BEFORE DELETE ON journal BEGIN SELECT raise(ABORT, 'the journal is append-only'); END;

CREATE TABLE password (
  person_id INTEGER PRIMARY KEY REFERENCES person (id),
  hash TEXT NOT NULL
) STRICT;
CREATE TABLE session (
  token_hash TEXT PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id),
  expires_at INTEGER NOT NULL
) STRICT;
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
