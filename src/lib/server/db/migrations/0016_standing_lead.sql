-- How long before the due date of everything of theirs people want to be reminded: n is negative before it, 0 at it.
CREATE TABLE standing_lead (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  n INTEGER NOT NULL,
  unit TEXT NOT NULL CHECK (unit IN ('minute', 'hour', 'day', 'workday')),
  UNIQUE (person_id, n, unit)
) STRICT;
