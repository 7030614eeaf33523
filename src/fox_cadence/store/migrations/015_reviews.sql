-- Pages of one finished revision for somebody else. The secret of the address is kept as it is: what it opens,
-- a video, lies beside this file.
CREATE TABLE review_link (
    id TEXT PRIMARY KEY,
    secret TEXT NOT NULL UNIQUE,
    project_id TEXT NOT NULL,
    revision INTEGER NOT NULL,
    file TEXT NOT NULL, -- its own copy, in reviews/ID/
    shown TEXT NOT NULL, -- JSON of core.review.Shown
    password_hash TEXT NOT NULL DEFAULT '', -- argon2id
    until TEXT NOT NULL DEFAULT '',
    once INTEGER NOT NULL DEFAULT 0,
    made_at TEXT NOT NULL,
    taken_at TEXT NOT NULL DEFAULT '',
    revoked_at TEXT NOT NULL DEFAULT ''
) STRICT;

CREATE INDEX review_link_of_project ON review_link (project_id, made_at);

-- Browsers that were let in: by a password, or as the one that may.
CREATE TABLE review_visit (
    token_hash TEXT PRIMARY KEY, -- SHA-256 of what the browser keeps
    link_id TEXT NOT NULL REFERENCES review_link (id) ON DELETE CASCADE,
    made_at TEXT NOT NULL
) STRICT;

CREATE TABLE review_note (
    id TEXT PRIMARY KEY,
    link_id TEXT NOT NULL REFERENCES review_link (id) ON DELETE CASCADE,
    project_id TEXT NOT NULL,
    at_s REAL NOT NULL, -- seconds of the file
    moment TEXT NOT NULL, -- JSON of core.review.Moment, or null
    author TEXT NOT NULL,
    text TEXT NOT NULL,
    made_at TEXT NOT NULL,
    answer TEXT NOT NULL DEFAULT '',
    answered_at TEXT NOT NULL DEFAULT '',
    done_at TEXT NOT NULL DEFAULT ''
) STRICT;

CREATE INDEX review_note_of_link ON review_note (link_id, at_s);

CREATE TABLE review_log (
    link_id TEXT NOT NULL REFERENCES review_link (id) ON DELETE CASCADE,
    at TEXT NOT NULL,
    what TEXT NOT NULL,
    address TEXT NOT NULL
) STRICT;

CREATE INDEX review_log_of_link ON review_log (link_id, at);
