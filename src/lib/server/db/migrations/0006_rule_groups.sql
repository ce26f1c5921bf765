-- Rules stand in groups, by the name of the group; '' stands for none.
ALTER TABLE rule ADD COLUMN group_name TEXT NOT NULL DEFAULT '';
