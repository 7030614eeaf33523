-- Drawn pictures that were made into clips, by what was asked for; and the clips the user keeps for all projects.
CREATE TABLE drawn_clip (key TEXT PRIMARY KEY, hash TEXT NOT NULL) STRICT;
CREATE TABLE shelf_clip (
    hash TEXT PRIMARY KEY,
    title TEXT NOT NULL,
    words TEXT NOT NULL,
    licence TEXT NOT NULL,
    commercial INTEGER NOT NULL,
    added_at TEXT NOT NULL
) STRICT;
