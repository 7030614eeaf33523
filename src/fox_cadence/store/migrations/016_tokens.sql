-- For scripts on a network: what stands in the place of a password.
CREATE TABLE script_token (
    name TEXT PRIMARY KEY COLLATE NOCASE,
    token_hash TEXT NOT NULL UNIQUE, -- SHA-256 of what the script keeps
    made_at TEXT NOT NULL,
    until TEXT NOT NULL DEFAULT '',
    used_at TEXT NOT NULL DEFAULT ''
) STRICT;
