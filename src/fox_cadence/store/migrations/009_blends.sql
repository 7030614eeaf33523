-- Blends of voices the user keeps under a name; the id tells what they are mixed of.
CREATE TABLE blend (
    voice_id TEXT PRIMARY KEY,
    name TEXT NOT NULL UNIQUE
) STRICT;
