-- What an undo asks: what a change set off, what was withdrawn because of it, and what is not made up for once it is taken back.

-- The change within which a run began; what the run does later goes back with that change.
ALTER TABLE run ADD COLUMN set_off_by INTEGER REFERENCES change (id);
CREATE INDEX run_set_off_by ON run (set_off_by) WHERE set_off_by IS NOT NULL;
-- Where a run stood that was stopped because something changed: {"state":…,"nextAt":…}.
ALTER TABLE run ADD COLUMN stood TEXT CHECK (stood IS NULL OR json_valid(stood));

-- The change that made up for a notice, or gave it to somebody in another's place.
ALTER TABLE notice ADD COLUMN set_off_by INTEGER REFERENCES change (id);
CREATE INDEX notice_set_off_by ON notice (set_off_by) WHERE set_off_by IS NOT NULL;
-- How a notice waited that ended because something changed.
ALTER TABLE notice ADD COLUMN waited TEXT CHECK (waited IS NULL OR waited IN ('planned', 'held', 'folded'));
CREATE INDEX notice_waited ON notice (ended_at) WHERE waited IS NOT NULL;

-- An undo brought a task, a project, a rule or the whole workspace back: what rang for it until then is not made up for.
CREATE TABLE not_made_up (
  kind TEXT NOT NULL CHECK (kind IN ('task', 'project', 'rule', 'workspace')),
  id INTEGER NOT NULL,
  -- Workspace clock.
  until_at INTEGER NOT NULL,
  PRIMARY KEY (kind, id)
) STRICT, WITHOUT ROWID;

-- A task whose change was taken back is planned anew, and owes nothing that has passed.
CREATE TABLE replan_wider (
  task_id INTEGER PRIMARY KEY,
  cause TEXT NOT NULL CHECK (cause IN ('created', 'date moved', 'other', 'undone')),
  change_id INTEGER NOT NULL,
  actor_id INTEGER,
  -- What is stale is planned anew in the order in which it rings next: when that is, as the plan had it before. 0 comes first.
  first_at INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO replan_wider SELECT task_id, cause, change_id, actor_id, first_at FROM replan;
DROP TABLE replan;
ALTER TABLE replan_wider RENAME TO replan;
CREATE INDEX replan_first ON replan (first_at, task_id);

-- What an undo took back is looked up by it.
CREATE INDEX change_undone_by ON change (undone_by) WHERE undone_by IS NOT NULL;
CREATE INDEX journal_told ON journal (change_id) WHERE kind = 'told of an undo';
