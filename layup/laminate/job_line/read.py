"""A job line read: `name: size, what it is laid on, plies, resin; another part; fillet 12 mm x 6 m; pour 900 x 60 x 25 mm`.

Semicolons part what has a stack of its own, or is joined or poured; commas part what is said of it. A part may have a
name of its own before a colon.
"""

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from pydantic import ValidationError

from layup.errors import LayupError, words_for
from layup.job import JobMaterials, JobSpec, Practice
from layup.laminate.job_line.joints import filler_said, joint_said, tab_said
from layup.laminate.job_line.pours import pour_said
from layup.laminate.job_line.reading import Reading
from layup.laminate.job_line.resins import dose_said, hardener_said, resin_said
from layup.laminate.job_line.sizes import NoUnit
from layup.laminate.job_line.surfaces import count_said, depth_said, ply_said, process_said, size_said, surface_said
from layup.laminate.quick_ply import Doubt, QuickProblem
from layup.laminate.stack_words import with_stack
from layup.scales import METRIC, Scales
from layup.shelf import Library

MOST_NAME_LETTERS = 120


@dataclass(frozen=True)
class JobLine:
    """A job as the line says it, and the stretches of it that could not be taken."""

    job: JobSpec
    problems: tuple[QuickProblem, ...]


def read_job_line(
    text: str,
    library: Library,
    *,
    own_ids: Iterable[str] = (),
    practice: Practice | None = None,
    scales: Scales = METRIC,
) -> JobLine:
    """A job from one line. Without a colon the whole line is the job's name; what cannot be read is told where it stands.

    Of a resin that is only called by its kind, the first of the library is taken: a shop's own stand before the generic
    ones. What is not said is asked by the plan, as of any job, but for the surface, which is that of the part before.

    >>> from layup.library import generic
    >>> line = read_job_line("Hatch: 600 x 900 mm, mould, 2x 300 cloth, epoxy, slow", generic())
    >>> part = line.job.parts[0]
    >>> line.job.name, part.shape.length_m, part.substrate, len(part.plies), line.problems
    ('Hatch', 0.9, 'waxed mould', 2, ())
    """
    name, colon, rest = text.partition(":")
    reading = Reading(library, frozenset(own_ids), scales)
    problems: list[QuickProblem] = []
    if len(name.strip()) > MOST_NAME_LETTERS:
        problems.append(QuickProblem(0, len(name), f"a name has {MOST_NAME_LETTERS} letters at most"))
        name = ""
    at = len(name) + 1
    for clause in rest.split(";") if colon else ():
        problems += _read_clause(reading, clause, at)
        at += len(clause) + 1
    return JobLine(_job(reading, name.strip(), practice or Practice()), tuple(problems))


def _job(reading: Reading, name: str, practice: Practice) -> JobSpec:
    # A lone part needs no name beside the job's.
    parts = [part if part.name else part.model_copy(update={"name": name}) for part in reading.parts]
    if len(parts) > 1:
        parts = [
            part if part.name != name else part.model_copy(update={"name": f"{name} {number}"})
            for number, part in enumerate(parts, 1)
        ]
    used = JobMaterials(
        fabrics=tuple(reading.fabrics.values()),
        resins=tuple(reading.resins.values()),
        fillers=tuple(reading.fillers.values()),
    )
    job = JobSpec(
        name=name or "New job",
        practice=practice,
        materials=used,
        resins=tuple(reading.uses),
        parts=tuple(parts),
        joints=tuple(reading.joints),
        pours=tuple(reading.pours),
    )
    for part_id, plies in reading.stacks.items():
        job = with_stack(job, part_id, plies)
    return job


def _read_clause(reading: Reading, clause: str, at: int) -> Iterator[QuickProblem]:
    title, colon, rest = clause.rpartition(":")
    reading.in_hand, reading.use_id, reading.title = "", "", title.strip()
    at += len(title) + len(colon)
    for item in _items(rest, reading):
        words = item.strip()
        start = at + len(item) - len(item.lstrip())
        if words:
            try:
                _read_item(reading, words)
            except Doubt as doubt:
                problem = doubt.problem
                yield replace(
                    problem,
                    start=problem.start + start,
                    end=problem.end + start,
                    message=reading.scales.said(problem.message),
                )
            except NoUnit as unsaid:
                yield QuickProblem(start, start + len(words), unsaid.message, unsaid.offers)
            except LayupError as refused:
                yield QuickProblem(start, start + len(words), reading.scales.said(refused.message))
            except ValidationError as cannot_be:
                yield QuickProblem(start, start + len(words), _refused(cannot_be))
        at += len(item) + 1


def _refused(cannot_be: ValidationError) -> str:
    """Which size or number cannot be, and why."""
    detail = cannot_be.errors()[0]
    field = str(detail["loc"][-1])
    name, parted, unit = field.rpartition("_")
    said = f"the {name.replace('_', ' ')}, in {unit}," if parted else f"the {field}"
    return f"{said} {words_for(detail)}"


def _items(clause: str, reading: Reading) -> list[str]:
    """What stands between commas. Commas may be of a product's name; and where decimals follow one, of a number."""
    named = {resin.name.lower() for resin in reading.library.resins}
    parted = re.split(r",(?!\d)|(?<!\d)," if reading.scales.customs.decimal_comma else ",", clause)
    items, at = [], 0
    while at < len(parted):
        ends = range(len(parted), at + 1, -1)
        end = next((end for end in ends if ",".join(parted[at:end]).strip().lower() in named), at + 1)
        items.append(",".join(parted[at:end]))
        at = end
    return items


def _read_item(reading: Reading, words: str) -> None:
    for read in (
        surface_said,
        resin_said,
        hardener_said,
        dose_said,
        joint_said,
        tab_said,
        pour_said,
        depth_said,
        filler_said,
        count_said,
        size_said,
        process_said,
    ):
        if read(reading, words):
            return
    ply_said(reading, words)
