-- How lines will be said, as it was foreseen: times in ticks (JSON) by the key of the voicing request.
CREATE TABLE known_length (
    key TEXT PRIMARY KEY,
    document TEXT NOT NULL
) STRICT;
