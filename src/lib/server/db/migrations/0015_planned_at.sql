-- When somebody planned a task, workspace clock: a plan that was made when the work had begun holds against its start.
ALTER TABLE placement ADD COLUMN planned_at INTEGER;
UPDATE placement SET planned_at = placed_at WHERE plan IS NOT NULL;
