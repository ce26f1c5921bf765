-- Tasks in the order of the list as it opens, with everything that it filters by: its first page reads so many entries as it shows, and a few more.
CREATE INDEX task_by_due ON task (coalesce(due_date, '9999'), coalesce(due_time, '99'), id, set_aside, status_id, private, project_id,
  owner_id, created_by, former_owner_id, due_date, due_time, start_date, section_id, priority, rhythm, round);
