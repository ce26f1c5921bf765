-- What is stale is planned anew in the order in which it rings next: when that is, as the plan had it before. 0 comes first.
ALTER TABLE replan ADD COLUMN first_at INTEGER NOT NULL DEFAULT 0;
CREATE INDEX replan_first ON replan (first_at, task_id);
