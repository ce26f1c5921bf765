-- A schedule rings on the clock of each owner, project or recipient: a zone, and the calendar that says which days are closed.

-- The next ring of each schedule on each clock; empty is the one clock of a schedule that has no other.
DROP TABLE schedule_plan;
CREATE TABLE schedule_plan (
  rule_id INTEGER NOT NULL,
  lead_id TEXT NOT NULL,
  clock TEXT NOT NULL,
  next_at INTEGER NOT NULL,
  PRIMARY KEY (rule_id, lead_id, clock)
) STRICT, WITHOUT ROWID;
CREATE INDEX schedule_next ON schedule_plan (next_at);

-- On which clock a schedule rings for a task, and for whom: 0 is the run. Of another version of its rule it is no change of clock.
CREATE TABLE schedule_seat (
  task_id INTEGER NOT NULL,
  rule_id INTEGER NOT NULL,
  lead_id TEXT NOT NULL,
  person_id INTEGER NOT NULL,
  version_id INTEGER NOT NULL,
  clock TEXT NOT NULL,
  PRIMARY KEY (task_id, rule_id, lead_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX schedule_seat_clock ON schedule_seat (rule_id, lead_id, clock, task_id);

-- What rings for a task as soon as it is planned, because the clock that it has come to was past it.
CREATE TABLE schedule_owed (
  rule_id INTEGER NOT NULL,
  lead_id TEXT NOT NULL,
  clock TEXT NOT NULL,
  task_id INTEGER NOT NULL,
  at INTEGER NOT NULL,
  PRIMARY KEY (rule_id, lead_id, clock, task_id)
) STRICT, WITHOUT ROWID;

-- Until now such a schedule rang on the workspace's clock, whatever was chosen: it goes on as it rang.
UPDATE rule_version SET definition = json_set(definition, '$.leads', (
  SELECT json_group_array(CASE WHEN json_extract(value, '$.kind') = 'schedule' AND json_extract(value, '$.zone.of') <> 'named'
    THEN json_set(value, '$.zone', json('{"of":"workspace"}')) ELSE json(value) END)
  FROM json_each(definition, '$.leads')))
WHERE EXISTS (SELECT 1 FROM json_each(definition, '$.leads')
  WHERE json_extract(value, '$.kind') = 'schedule' AND json_extract(value, '$.zone.of') IN ('recipient', 'owner', 'project'));
