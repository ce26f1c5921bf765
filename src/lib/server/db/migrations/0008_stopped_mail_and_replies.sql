-- Of which kinds a message is, where its reader can stop mail of them; none where they cannot.
ALTER TABLE message ADD COLUMN kinds TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(kinds));

-- Mail that its reader has stopped by a link in it; of somebody outside (below zero) everything, else one kind.
CREATE TABLE mail_stop (
  reader_id INTEGER NOT NULL,
  kind TEXT NOT NULL,
  -- What they had chosen before, a list of channels; null where nothing was chosen.
  before TEXT,
  -- Workspace clock.
  at INTEGER NOT NULL,
  PRIMARY KEY (reader_id, kind)
) STRICT, WITHOUT ROWID;

-- What somebody, or their mail program, answered to a message: shown, and never acted upon.
CREATE TABLE reply (
  id INTEGER PRIMARY KEY,
  message_id INTEGER NOT NULL REFERENCES message (id) ON DELETE CASCADE,
  -- Of the answer: the same one that comes twice is one.
  own_id TEXT NOT NULL,
  from_name TEXT NOT NULL,
  from_address TEXT NOT NULL,
  -- A program sent it: an out-of-office answer.
  automatic INTEGER NOT NULL CHECK (automatic IN (0, 1)),
  text TEXT NOT NULL,
  -- Workspace clock.
  at INTEGER NOT NULL,
  UNIQUE (message_id, own_id)
) STRICT;
