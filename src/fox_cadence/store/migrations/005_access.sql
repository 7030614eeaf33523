-- For listening on a network: the one password, hashed by argon2, and who has signed in.
CREATE TABLE password (
    one INTEGER PRIMARY KEY CHECK (one = 1),
    hash TEXT NOT NULL,
    set_at TEXT NOT NULL
) STRICT;

CREATE TABLE session (
    token_hash TEXT PRIMARY KEY, -- SHA-256 of what the browser keeps
    made_at TEXT NOT NULL
) STRICT;
