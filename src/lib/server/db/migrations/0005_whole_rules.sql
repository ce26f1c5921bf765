-- What is stale is planned anew in the order in which it rings next: when that is, as the plan had it before. 0 comes first.
ALTER TABLE replan ADD COLUMN first_at INTEGER NOT NULL DEFAULT 0;
CREATE INDEX replan_first ON replan (first_at, task_id);

-- A message may be marked as of high importance, and carry files: a list of name, type and text.
ALTER TABLE message ADD COLUMN importance TEXT NOT NULL DEFAULT 'ordinary' CHECK (importance IN ('ordinary', 'high'));
ALTER TABLE message ADD COLUMN attachments TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(attachments));

-- A ring that would be late may be told earlier: ring_at is then the minute that it is brought forward to, and this its ring instant.
ALTER TABLE plan ADD COLUMN brought_from INTEGER;
