-- Secrets that the application keeps for itself. They are no settings, and stand in no change record.
CREATE TABLE secret (
  name TEXT PRIMARY KEY,
  value BLOB NOT NULL
) STRICT;

-- Links in messages that have done what they do: each works once.
CREATE TABLE act_used (
  token_hash BLOB PRIMARY KEY,
  notice_id INTEGER NOT NULL,
  act TEXT NOT NULL,
  person_id INTEGER NOT NULL,
  at INTEGER NOT NULL
) STRICT;
