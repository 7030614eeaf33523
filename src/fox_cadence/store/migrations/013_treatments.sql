-- Treatments of voices that the user keeps for all projects.
CREATE TABLE treatment (name TEXT PRIMARY KEY COLLATE NOCASE, document TEXT NOT NULL) STRICT;
