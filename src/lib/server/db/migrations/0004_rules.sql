-- When a task came to its owner, and who or what made it.
ALTER TABLE task ADD COLUMN assigned_at INTEGER NOT NULL DEFAULT 0;
UPDATE task SET assigned_at = created_at;

-- When the live version of a rule became live, and why a faulty one does not ring.
ALTER TABLE rule ADD COLUMN live_at INTEGER;
ALTER TABLE rule ADD COLUMN fault TEXT;
UPDATE rule SET live_at = (SELECT at FROM change WHERE change.id = rule.on_change) WHERE on_change IS NOT NULL;

-- What a rule did has the change that set it off, and the run that did it.
ALTER TABLE change ADD COLUMN caused_by INTEGER REFERENCES change (id);
ALTER TABLE change ADD COLUMN rule_id INTEGER;
ALTER TABLE change ADD COLUMN run_id INTEGER;
CREATE INDEX change_caused_by ON change (caused_by) WHERE caused_by IS NOT NULL;
CREATE INDEX change_run ON change (run_id) WHERE run_id IS NOT NULL;
CREATE INDEX change_rule ON change (rule_id) WHERE rule_id IS NOT NULL;

-- Which repeat of a lead rings; recipient 0 stands for the run of the ring.
ALTER TABLE plan ADD COLUMN ordinal INTEGER NOT NULL DEFAULT 0;
ALTER TABLE plan ADD COLUMN lead_order INTEGER NOT NULL DEFAULT 0;

-- Rules that were turned on, or became live anew, since everything was last planned.
CREATE TABLE turned_on (rule_id INTEGER PRIMARY KEY) STRICT;

-- The next ring of each schedule.
CREATE TABLE schedule_plan (
  rule_id INTEGER NOT NULL,
  lead_id TEXT NOT NULL,
  next_at INTEGER NOT NULL,
  PRIMARY KEY (rule_id, lead_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX schedule_next ON schedule_plan (next_at);

-- A notice is of one Tell, by the id of its step; it can be a copy of what another got.
ALTER TABLE notice ADD COLUMN step_id TEXT NOT NULL DEFAULT 'tell';
ALTER TABLE notice ADD COLUMN copied TEXT NOT NULL DEFAULT 'to' CHECK (copied IN ('to', 'cc', 'bcc'));
ALTER TABLE notice ADD COLUMN kind TEXT NOT NULL DEFAULT 'reminder';
-- Urgent or a must: swallows nothing and is not swallowed.
ALTER TABLE notice ADD COLUMN forced INTEGER NOT NULL DEFAULT 0 CHECK (forced IN (0, 1));
DROP INDEX notice_key;
ALTER TABLE notice DROP COLUMN step;
CREATE UNIQUE INDEX notice_key ON notice (ring_id, step_id, recipient_id, snooze)
  WHERE state IN ('planned', 'held', 'folded', 'sending', 'sent', 'in doubt', 'failed');
DROP INDEX notice_leaving;
CREATE INDEX notice_leaving ON notice (leaves_at) WHERE state IN ('planned', 'held', 'folded');

-- One to all recipients together has several deliveries of one message, each for one of its readers.
ALTER TABLE delivery ADD COLUMN reader_id INTEGER;
UPDATE delivery SET reader_id = (SELECT reader_id FROM message WHERE message.id = delivery.message_id);

-- A run of a ring: where it stands and when it goes on. The ring of a schedule, or of a press over a Watch, has one that holds the stages.
CREATE TABLE run_now (
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
INSERT INTO run_now (id, ring_id, rule_id, rule_version_id, step, next_at, state, started_at)
  SELECT run.id, run.ring_id, ring.rule_id, run.rule_version_id, run.step, run.next_at, run.state, run.started_at
  FROM run JOIN ring ON ring.id = run.ring_id;
DROP TABLE run;
ALTER TABLE run_now RENAME TO run;
CREATE INDEX run_next ON run (next_at) WHERE state IN ('running', 'asking');
CREATE INDEX run_rule ON run (rule_id, started_at);
CREATE INDEX run_parent ON run (parent_id) WHERE parent_id IS NOT NULL;

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

-- Who wants no reminder of a task.
CREATE TABLE no_reminder (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL,
  person_id INTEGER NOT NULL REFERENCES person (id),
  UNIQUE (task_id, person_id)
) STRICT;

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

-- A notice that is kept back because its rule was about to send far more than was foreseen.
ALTER TABLE notice ADD COLUMN rush_id INTEGER;
CREATE INDEX notice_rush ON notice (rush_id) WHERE rush_id IS NOT NULL;
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
