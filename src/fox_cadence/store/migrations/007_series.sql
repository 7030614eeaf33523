-- Projects that belong together (a series, a client) bear the same name here.
ALTER TABLE project ADD COLUMN series TEXT NOT NULL DEFAULT '';
