-- What is parked comes back by itself on its review date, to whoever parked it.
ALTER TABLE task ADD COLUMN parked_by INTEGER REFERENCES person (id);

CREATE TABLE chore_wider (
  task_id INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('renew', 'purge', 'promise', 'review')),
  at INTEGER NOT NULL,
  PRIMARY KEY (task_id, kind)
) STRICT, WITHOUT ROWID;
INSERT INTO chore_wider SELECT task_id, kind, at FROM chore;
DROP TABLE chore;
ALTER TABLE chore_wider RENAME TO chore;
CREATE INDEX chore_at ON chore (at);

-- On whose wall that is is known to the application: it is asked a day early, and puts it off to its moment.
INSERT INTO chore (task_id, kind, at)
SELECT id, 'review', unixepoch(review_date, '-1 day') * 1000 FROM task
WHERE set_aside = 'parked' AND review_date IS NOT NULL;
