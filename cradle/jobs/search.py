"""What a shop's people look for: jobs, their parts, joints and pours, products, lots, notes, by any of their words."""

import unicodedata
from collections.abc import Iterable, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass
from typing import Literal

from django.db import OperationalError

from cradle.jobs.models import Job, JobRevision
from cradle.shops.models import Shop

FoundKind = Literal["job", "part", "joint", "pour", "product", "lot", "note"]
MOST_FOUND = 60
MOST_ASKED = 120
_AT_A_TIME = 100
# Where a document keeps the things that are looked for by their names.
_THINGS: tuple[tuple[FoundKind, str], ...] = (("part", "parts"), ("joint", "joints"), ("pour", "pours"))


@dataclass(frozen=True)
class Line:
    """One thing that may be found: what it is called, and the words it is found by besides."""

    kind: FoundKind
    id: str
    name: str
    of: str = ""
    job: Job | None = None


def folded(words: str) -> str:
    """Words as they are compared: small letters, without accents.

    >>> folded("Chêne, PORT")
    'chene, port'
    """
    if words.isascii():
        return words.lower()
    parted = unicodedata.normalize("NFKD", words.casefold())
    return "".join(letter for letter in parted if not unicodedata.combining(letter))


def matching(asked: str, lines: Iterable[Line]) -> Iterator[Line]:
    """The lines that hold every word asked for; jobs first, and whose name begins with it."""
    wanted = folded(asked).split()
    found = [line for line in lines if wanted and _holds(line, wanted)]
    yield from sorted(
        found, key=lambda line: (line.kind != "job", not folded(line.name).startswith(wanted[0]), line.name)
    )


def _holds(line: Line, wanted: Sequence[str]) -> bool:
    """Every word, in the name or beside it; of a thing in a job one of them in its own, or each would be found by its job's."""
    name = folded(line.name)
    if line.job is not None and not any(word in name for word in wanted):
        return False
    whole = f"{name} {folded(line.of)}"
    return all(word in whole for word in wanted)


def lines_of_jobs(shop: Shop) -> Iterator[Line]:
    """All that is found of a shop's jobs, also those that are put away."""
    jobs = list(shop.jobs.filter(deleted_at=None).with_newest().defer("strips").order_by("-newest_at"))
    _bring_up_to_date(jobs)
    for job in jobs:
        lines = job.found_by.get("lines", [])
        name = lines[0][2] if lines else ""
        for kind, thing_id, words in lines:
            yield Line(kind, thing_id, words, "" if kind == "job" else name, job)


def _key(job: Job) -> str:
    return f"{job.newest_pk} {job.newest_edit}"


def _bring_up_to_date(jobs: list[Job]) -> None:
    """What jobs are found by, made anew of those that were saved since."""
    stale = [job for job in jobs if job.found_by.get("key") != _key(job)]
    for at in range(0, len(stale), _AT_A_TIME):
        some = stale[at : at + _AT_A_TIME]
        revisions = JobRevision.objects.in_bulk(job.newest_pk for job in some)
        for job in some:
            job.found_by = {"key": _key(job), "lines": list(_lines(revisions[job.newest_pk]))}
        # A disk that takes no more still answers what was asked.
        with suppress(OperationalError):
            Job.objects.bulk_update(some, ["found_by"])


def _lines(revision: JobRevision) -> Iterator[list[str]]:
    """Out of the document as it stands, which an older version of the program may have written."""
    yield ["job", str(revision.job_id), revision.name()]
    document = revision.document if isinstance(revision.document, dict) else {}
    for kind, chapter in _THINGS:
        things = document.get(chapter)
        for thing in things if isinstance(things, list) else ():
            if isinstance(thing, dict) and thing.get("name"):
                yield [kind, str(thing.get("id", "")), str(thing["name"])]
