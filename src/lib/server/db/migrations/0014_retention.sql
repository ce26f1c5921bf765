-- The words of a message are kept for a year; who was told of what, when, by which way and how that ended stays.
ALTER TABLE message ADD COLUMN words_kept INTEGER NOT NULL DEFAULT 1 CHECK (words_kept IN (0, 1));
CREATE INDEX message_words ON message (leaves_at) WHERE words_kept = 1;
