CREATE TABLE project (
    id TEXT PRIMARY KEY,
    made_at TEXT NOT NULL,
    head INTEGER NOT NULL
) STRICT;

-- Every state of a project, whole. Undo moves project.head to the parent, redo to the newest child.
CREATE TABLE revision (
    project_id TEXT NOT NULL REFERENCES project (id),
    number INTEGER NOT NULL,
    parent INTEGER,
    label TEXT NOT NULL,
    made_at TEXT NOT NULL,
    document BLOB NOT NULL, -- JSON of core.project.Project, zlib
    PRIMARY KEY (project_id, number)
) STRICT;

CREATE TABLE take (
    key TEXT PRIMARY KEY, -- hash of the voicing request
    id TEXT NOT NULL UNIQUE,
    sound_hash TEXT NOT NULL,
    made_at TEXT NOT NULL,
    document TEXT NOT NULL -- JSON of core.takes.Take
) STRICT;

CREATE TABLE clip (
    hash TEXT PRIMARY KEY,
    made_at TEXT NOT NULL,
    suffix TEXT NOT NULL,
    document TEXT NOT NULL -- JSON of core.project.Clip
) STRICT;

CREATE TABLE job (
    id TEXT PRIMARY KEY,
    project_id TEXT NOT NULL,
    kind TEXT NOT NULL,
    state TEXT NOT NULL CHECK (state IN ('waiting', 'running', 'done', 'failed', 'cancelled')),
    done INTEGER NOT NULL DEFAULT 0,
    total INTEGER NOT NULL DEFAULT 0,
    note TEXT NOT NULL DEFAULT '',
    result TEXT NOT NULL DEFAULT '{}',
    made_at TEXT NOT NULL
) STRICT;

CREATE INDEX job_of_project ON job (project_id, made_at);
