-- What became of work, apart from the jobs that did it: those are forgotten in time.
CREATE TABLE line_failure (
    project_id TEXT NOT NULL,
    line_id TEXT NOT NULL,
    reason TEXT NOT NULL, -- why its last try to be voiced failed, in words
    PRIMARY KEY (project_id, line_id)
) STRICT;

CREATE TABLE docket (
    project_id TEXT NOT NULL,
    kind TEXT NOT NULL, -- of the work that made it: the newest of each is kept
    document TEXT NOT NULL, -- JSON: the files that were made, what could not be made, notes
    made_at TEXT NOT NULL,
    PRIMARY KEY (project_id, kind)
) STRICT;

INSERT OR REPLACE INTO line_failure (project_id, line_id, reason)
SELECT job.project_id, json_extract(each.value, '$.line'), json_extract(each.value, '$.reason')
FROM job, json_each(job.result, '$.failed') AS each
WHERE job.kind = 'voice' AND job.state = 'done' AND json_extract(each.value, '$.line') IS NOT NULL
    AND job.made_at = (
        SELECT MAX(other.made_at) FROM job AS other
        WHERE other.project_id = job.project_id AND other.kind = 'voice' AND other.state = 'done'
    );

INSERT OR REPLACE INTO docket (project_id, kind, document, made_at)
SELECT project_id, kind, result, made_at FROM job
WHERE kind IN ('export', 'line sounds', 'bundle') AND state = 'done'
ORDER BY made_at;
