"""The same job with one step less resin in its glass."""

from layup.job import JobSpec, ResinContent

_NEXT: dict[ResinContent, ResinContent] = {"generous": "as the table", "as the table": "lean", "by fabric": "lean"}


def leaner(job: JobSpec) -> JobSpec | None:
    """The job one step of the practice switch leaner; None where it is as lean as the switch goes.

    >>> leaner(JobSpec(name="Deck")).practice.resin_content
    'lean'
    """
    step = _NEXT.get(job.practice.resin_content)
    if step is None:
        return None
    return job.model_copy(update={"practice": job.practice.model_copy(update={"resin_content": step})})
