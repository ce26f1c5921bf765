-- What somebody did by a link can be taken back from its page.
ALTER TABLE act_used ADD COLUMN change_id INTEGER REFERENCES change (id);
