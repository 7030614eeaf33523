-- Dockets that the user keeps for all projects.
CREATE TABLE kept_docket (name TEXT PRIMARY KEY COLLATE NOCASE, document TEXT NOT NULL) STRICT;
