-- A task is in one status at a time. Where an undo left two stretches open, the one that began last is the one that holds.
UPDATE status_span SET until_at = (
  SELECT min(later.from_at) FROM status_span later
  WHERE later.task_id = status_span.task_id AND (later.from_at, later.id) > (status_span.from_at, status_span.id)
)
WHERE until_at IS NULL AND EXISTS (
  SELECT 1 FROM status_span later
  WHERE later.task_id = status_span.task_id AND later.until_at IS NULL
    AND (later.from_at, later.id) > (status_span.from_at, status_span.id)
);
CREATE UNIQUE INDEX status_span_open ON status_span (task_id) WHERE until_at IS NULL;

-- What is parked is nobody's; it comes back to whoever has it here.
UPDATE task SET former_owner_id = owner_id, owner_id = NULL WHERE set_aside = 'parked' AND owner_id IS NOT NULL;
CREATE TRIGGER task_parked_of_nobody BEFORE UPDATE OF set_aside, owner_id ON task
  WHEN NEW.set_aside = 'parked' AND NEW.owner_id IS NOT NULL
  BEGIN SELECT raise(ABORT, 'a parked task has no owner'); END;
CREATE TRIGGER task_made_parked_of_nobody BEFORE INSERT ON task
  WHEN NEW.set_aside = 'parked' AND NEW.owner_id IS NOT NULL
  BEGIN SELECT raise(ABORT, 'a parked task has no owner'); END;
