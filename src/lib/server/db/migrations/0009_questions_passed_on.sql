-- Whom a question that is open waits for instead, since what they held was handed over; while that is not taken back.
CREATE TABLE question_passed (
  id INTEGER PRIMARY KEY,
  question_id INTEGER NOT NULL REFERENCES question (id) ON DELETE CASCADE,
  person_id INTEGER NOT NULL REFERENCES person (id),
  change_id INTEGER NOT NULL REFERENCES change (id)
) STRICT;
CREATE INDEX question_passed_question ON question_passed (question_id);
