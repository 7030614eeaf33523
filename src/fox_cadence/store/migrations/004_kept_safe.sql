-- A deleted project stays until it is deleted for good.
ALTER TABLE project ADD COLUMN deleted_at TEXT;

-- What a job was asked for, so that one an end of the application broke off can be taken up again.
ALTER TABLE job ADD COLUMN request TEXT NOT NULL DEFAULT ''; -- JSON; empty for one that can't be
ALTER TABLE job ADD COLUMN attempt INTEGER NOT NULL DEFAULT 1;

-- Takes and clips that were cleaned away: their files lie in the folder "discarded" for a day.
CREATE TABLE discarded (
    kind TEXT NOT NULL CHECK (kind IN ('take', 'clip')),
    id TEXT NOT NULL, -- of the take, or the hash of the clip
    path TEXT NOT NULL, -- where its file or folder was, from the data folder
    bytes INTEGER NOT NULL,
    line TEXT NOT NULL, -- JSON of the whole row of its table
    discarded_at TEXT NOT NULL,
    PRIMARY KEY (kind, id)
) STRICT;
