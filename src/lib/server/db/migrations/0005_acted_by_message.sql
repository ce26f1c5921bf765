-- By which message somebody acted who pressed a link in it.
ALTER TABLE change ADD COLUMN message_id INTEGER REFERENCES message (id);
