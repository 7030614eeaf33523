-- Font files of the user's, kept for all projects; the files lie in the data folder by the hash of their bytes.
CREATE TABLE own_font (
    hash TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    weight INTEGER NOT NULL,
    signs INTEGER NOT NULL,
    added_at TEXT NOT NULL
) STRICT;
