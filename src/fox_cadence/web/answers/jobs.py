"""Jobs."""

from fox_cadence.store.jobs import JobRow
from fox_cadence.web.answers.shapes import JobJson


def job_json(job: JobRow) -> JobJson:
    """How far a job is, and what it came to."""
    return {
        "id": job.id,
        "kind": job.kind,
        "state": job.state,
        "done": job.done,
        "total": job.total,
        "note": job.note,
        "result": job.result,
    }
