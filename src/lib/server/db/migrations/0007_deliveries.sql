-- Addresses from which mail came back (RFC 3464). Kept until somebody says that it works again, or the address is changed.
CREATE TABLE returned_address (
  address TEXT PRIMARY KEY COLLATE NOCASE,
  at INTEGER NOT NULL,
  reason TEXT NOT NULL
) STRICT;

-- Whoever looks after a rule hears of a dead end once in a while, not of each.
CREATE TABLE dead_end_told (
  rule_id INTEGER PRIMARY KEY,
  at INTEGER NOT NULL
) STRICT;
