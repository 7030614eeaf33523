-- Styles of captions and titles that the user keeps for all projects.
CREATE TABLE caption_style (name TEXT PRIMARY KEY COLLATE NOCASE, document TEXT NOT NULL) STRICT;
