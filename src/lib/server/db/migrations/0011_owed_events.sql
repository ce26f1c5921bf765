-- What happened to tasks in a change of very many, and rules that listen have not heard yet: they hear it part by part.
CREATE TABLE owed_event (
  id INTEGER PRIMARY KEY,
  change_id INTEGER NOT NULL REFERENCES change (id),
  actor_id INTEGER,
  -- What happened to one task, each with its place among all that the change made happen.
  events TEXT NOT NULL CHECK (json_valid(events))
) STRICT;
CREATE INDEX owed_event_change ON owed_event (change_id);
