"""A job line read: `name: size, what it is laid on, plies, resin; another part; fillet 12 mm x 6 m; pour 900 x 60 x 25 mm`.

Semicolons part what has a stack of its own, or is joined or poured; commas part what is said of it. A part may have a
name of its own before a colon.
"""

import re
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Protocol, TypeVar
from uuid import uuid4

from pydantic import ValidationError

from layup.castings import Pour
from layup.errors import LayupError, words_for
from layup.job import FIRST_USE, MOST_RESINS, JobMaterials, JobSpec, Joint, Part, Practice, ResinInUse, TabStrip
from layup.job_line.sizes import Length, first_word, lengths, shape_said
from layup.job_line.words import LIES_IN, PROCESSES, RESINS, SURFACES
from layup.laminate.notation import parse_line
from layup.laminate.quick_ply import Doubt, QuickPly, QuickProblem
from layup.laminate.stack_words import with_stack
from layup.materials import Fabric, Filler, ResinSystem
from layup.scales import METRIC, Scales
from layup.shapes import Patch
from layup.shelf import Library

_MAY_STAND = "this is no size, ply, surface, resin or joint: say it as in 2.4 x 1.1 m, 600 biax, plywood, epoxy, slow, fillet 12 mm x 6 m"
MOST_NAME_LETTERS, MOST_THINGS = 120, 60
_OF_THEM = re.compile(r"(\d{1,3}) (?:of them|alike)")
_DEEP = re.compile(r"(?P<depth>\S.*?) deep")
_TAB = re.compile(r"tab(?:bing|bed)? (?P<width>\d\S*(?: ?(?:mm|cm|in))?) (?P<fabric>\d.*)", re.IGNORECASE)


class _Named(Protocol):
    @property
    def name(self) -> str: ...


Thing = TypeVar("Thing", bound=_Named)


@dataclass(frozen=True)
class JobLine:
    """A job as the line says it, and the stretches of it that could not be taken."""

    job: JobSpec
    problems: tuple[QuickProblem, ...]


@dataclass
class _Reading:
    """What has been read so far; `part`, `joint` and `pour` are of the clause in hand."""

    library: Library
    own_ids: frozenset[str]
    scales: Scales
    uses: list[ResinInUse] = field(default_factory=lambda: [ResinInUse(id=FIRST_USE)])
    parts: list[Part] = field(default_factory=list)
    joints: list[Joint] = field(default_factory=list)
    pours: list[Pour] = field(default_factory=list)
    stacks: dict[str, list[QuickPly]] = field(default_factory=dict)
    fabrics: dict[str, Fabric] = field(default_factory=dict)
    fillers: dict[str, Filler] = field(default_factory=dict)
    resins: dict[str, ResinSystem] = field(default_factory=dict)
    # What the clause in hand is of: a list above, whose last it is.
    in_hand: str = ""
    title: str = ""
    use_id: str = ""


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
    reading = _Reading(library, frozenset(own_ids), scales)
    problems: list[QuickProblem] = []
    if len(name.strip()) > MOST_NAME_LETTERS:
        problems.append(QuickProblem(0, len(name), f"a name has {MOST_NAME_LETTERS} letters at most"))
        name = ""
    at = len(name) + 1
    for clause in rest.split(";") if colon else ():
        problems += _read_clause(reading, clause, at)
        at += len(clause) + 1
    return JobLine(_job(reading, name.strip(), practice or Practice()), tuple(problems))


def _job(reading: _Reading, name: str, practice: Practice) -> JobSpec:
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


def _read_clause(reading: _Reading, clause: str, at: int) -> Iterator[QuickProblem]:
    title, colon, rest = clause.rpartition(":")
    reading.in_hand, reading.use_id, reading.title = "", "", title.strip()
    at += len(title) + len(colon)
    for item in _items(rest, reading.scales):
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


def _items(clause: str, scales: Scales) -> list[str]:
    """What stands between commas; where decimals follow a comma, one between two digits is of a number."""
    return re.split(r",(?!\d)|(?<!\d)," if scales.customs.decimal_comma else ",", clause)


def _read_item(reading: _Reading, words: str) -> None:
    for read in (_surface, _resin, _hardener, _joint, _tab, _pour, _deep, _filler, _count, _size, _process):
        if read(reading, words):
            return
    _ply(reading, words)


def _last(reading: _Reading, words: str) -> Part:
    """The part in hand; one is begun where the clause has none yet, on what the one before it lies on."""
    if reading.in_hand not in ("", "parts"):
        raise LayupError(f"“{words}” is of a surface: put a ; before it")
    if not reading.in_hand:
        begun = Part(id=_new_id(), name=reading.title, use_id=reading.use_id)
        if reading.parts:
            before = reading.parts[-1]
            begun = begun.model_copy(update={"substrate": before.substrate, "process": before.process})
        _begin(reading, "parts", begun)
    return reading.parts[-1]


def _begin(reading: _Reading, kind: str, thing: Part | Joint | Pour) -> None:
    if len(reading.parts) + len(reading.joints) + len(reading.pours) == MOST_THINGS:
        raise LayupError(f"a line takes {MOST_THINGS} surfaces, joints and castings at most: add the rest in the job")
    getattr(reading, kind).append(thing)
    reading.in_hand = kind


def _change(reading: _Reading, **said: object) -> None:
    """The thing in hand with what is said of it."""
    things = getattr(reading, reading.in_hand)
    things[-1] = things[-1].model_validate(things[-1].model_dump() | said)


def _surface(reading: _Reading, words: str) -> bool:
    substrate = SURFACES.get(words.lower())
    if substrate is None or reading.in_hand == "pours":
        return False
    if reading.in_hand != "joints":
        _last(reading, words)
    _change(reading, substrate=substrate)
    return True


def _process(reading: _Reading, words: str) -> bool:
    process = PROCESSES.get(words.lower())
    if process:
        _last(reading, words)
        _change(reading, process=process)
    return process is not None


def _resin(reading: _Reading, words: str) -> bool:
    """A resin by its name or its kind; the first that is said is the job's, another is of the clause that says it."""
    resin = _called(reading.library.resins, words) or _of_kind(reading.library.resins, words)
    if resin is None:
        return False
    reading.resins[resin.id] = resin
    first = reading.uses[0]
    if not first.resin_id:
        reading.uses[0] = first.model_copy(update={"resin_id": resin.id})
        return True
    use = next((use for use in reading.uses if use.resin_id == resin.id), None)
    if use is None:
        if len(reading.uses) == MOST_RESINS:
            raise LayupError(f"a job has {MOST_RESINS} resins at most")
        use = ResinInUse(id=_new_id(), word=words, resin_id=resin.id)
        reading.uses.append(use)
    reading.use_id = "" if use.id == FIRST_USE else use.id
    if reading.in_hand:
        _change(reading, use_id=reading.use_id)
    return True


def _of_kind(resins: Sequence[ResinSystem], words: str) -> ResinSystem | None:
    family, made_for = RESINS.get(words.lower(), ("", ""))
    return next((resin for resin in resins if (resin.family, resin.made_for) == (family, made_for)), None)


def _hardener(reading: _Reading, words: str) -> bool:
    """A hardener by its name, of the resin in hand."""
    at = next((at for at, use in enumerate(reading.uses) if use.id == (reading.use_id or FIRST_USE)), 0)
    resin = reading.resins.get(reading.uses[at].resin_id)
    hardener = resin and _called(resin.hardeners, words)
    if hardener:
        reading.uses[at] = reading.uses[at].model_copy(update={"hardener_id": hardener.id})
    elif words.lower() in ("fast", "medium", "slow", "extra slow"):
        of = f"{resin.name} has no hardener of that name" if resin else "say the resin before its hardener"
        raise LayupError(of)
    return bool(hardener)


def _joint(reading: _Reading, words: str) -> bool:
    kind, rest = first_word(words)
    said = _JOINTS.get(kind)
    if said is None:
        return False
    read, count = lengths(rest, reading.scales)
    _begin(
        reading,
        "joints",
        Joint.model_validate(
            {
                "id": _new_id(),
                "name": reading.title or f"{kind.capitalize()} {len(reading.joints) + 1}",
                "use_id": reading.use_id,
                "count": count,
            }
            | said(kind, sorted(read, key=lambda length: length.m))
        ),
    )
    return True


def _fillet(kind: str, read: list[Length]) -> dict[str, object]:
    radius, run = _exactly(2, kind, "12 mm x 6 m", read)
    return _measured("corner", radius_mm=radius, length_m=run)


def _glue(kind: str, read: list[Length]) -> dict[str, object]:
    width, run = _exactly(2, kind, "25 mm x 3 m", read)
    return _measured("glue line", width_mm=width, length_m=run)


def _scarf(kind: str, read: list[Length]) -> dict[str, object]:
    thick, run = _exactly(2, kind, "9 mm x 1.2 m", read)
    return _measured("scarf", panel_thickness_mm=thick, length_m=run)


def _gap(kind: str, read: list[Length]) -> dict[str, object]:
    width, depth, run = _exactly(3, kind, "3 mm x 9 mm x 2 m", read)
    return _measured("gap", width_mm=width, depth_mm=depth, length_m=run)


_JOINTS: dict[str, Callable[[str, list[Length]], dict[str, object]]] = {
    "fillet": _fillet,
    "glue": _glue,
    "scarf": _scarf,
    "gap": _gap,
}


def _exactly(count: int, kind: str, such: str, read: list[Length]) -> list[Length]:
    if len(read) != count:
        raise LayupError(f"a {kind} takes {count} sizes, such as {kind} {such}")
    return read


def _measured(kind: str, **sizes: Length) -> dict[str, object]:
    """A joint of a kind with its sizes, in the unit that each field's name tells, and the words they were typed in."""
    numbers = {name: length.m if name.endswith("_m") else length.mm for name, length in sizes.items()}
    return {"kind": kind, **numbers, "typed": {name: length.typed for name, length in sizes.items()}}


def _tab(reading: _Reading, words: str) -> bool:
    """A strip of tabbing over the fillet in hand."""
    found = _TAB.fullmatch(words)
    if not found:
        return False
    if reading.in_hand != "joints":
        raise LayupError("tabbing lies over a fillet: say the fillet first")
    (width,), _ = lengths(found["width"], reading.scales)
    plies = _plies(reading, found["fabric"], found.start("fabric"))
    strips = [
        TabStrip(id=_new_id(), fabric_id=_kept(reading, ply.fabric), width_mm=width.mm, typed={"width_mm": width.typed})
        for ply in plies
        if ply.fabric
    ]
    _change(reading, tabs=[*(tab.model_dump() for tab in reading.joints[-1].tabs), *(s.model_dump() for s in strips)])
    return True


def _pour(reading: _Reading, words: str) -> bool:
    kind, rest = first_word(words)
    if words.lower().startswith("pour disc "):
        kind, rest = "pour disc", words[len("pour disc ") :]
    if kind in ("pour", "pour disc"):
        read, count = lengths(rest, reading.scales)
        if kind == "pour":
            length, width, depth = _exactly(3, kind, "900 x 60 x 25 mm", read)
            sizes: dict[str, object] = {"length_m": length.m, "width_mm": width.mm, "depth_mm": depth.mm}
            typed = {"length_m": length.typed, "width_mm": width.typed, "depth_mm": depth.typed}
        else:
            across, depth = _exactly(2, kind, "300 mm x 20 mm", read)
            sizes = {"shape": "disc", "diameter_mm": across.mm, "depth_mm": depth.mm}
            typed = {"diameter_mm": across.typed, "depth_mm": depth.typed}
        name = reading.title or f"Pour {len(reading.pours) + 1}"
        made = {"id": _new_id(), "name": name, "use_id": reading.use_id, "count": count, "typed": typed} | sizes
        _begin(reading, "pours", Pour.model_validate(made))
        return True
    lies_in = LIES_IN.get(words.lower())
    if lies_in and reading.in_hand == "pours":
        _change(reading, lies_in=lies_in)
        return True
    return False


def _deep(reading: _Reading, words: str) -> bool:
    """How deep a patch is ground."""
    found = _DEEP.fullmatch(words)
    if not found:
        return False
    shape = _last(reading, words).shape
    if not isinstance(shape, Patch):
        raise LayupError("a depth is of a patch: say the patch first, such as patch 80 x 140 mm")
    (depth,), _ = lengths(found["depth"], reading.scales)
    typed = shape.typed | {"depth_mm": depth.typed}
    deep = shape.model_copy(update={"depth_mm": depth.mm, "typed": typed})
    _change(reading, shape=deep.model_dump())
    return True


def _filler(reading: _Reading, words: str) -> bool:
    filler = _called(reading.library.fillers, words)
    if filler is None:
        return False
    if reading.in_hand != "joints":
        raise LayupError(f"{filler.name} thickens a joint: say the joint first, such as fillet 12 mm x 6 m")
    reading.fillers[filler.id] = filler
    _change(reading, filler_id=filler.id)
    return True


def _count(reading: _Reading, words: str) -> bool:
    found = _OF_THEM.fullmatch(words.lower())
    if words.lower() not in ("pair", "a pair") and not found:
        return False
    if not reading.in_hand:
        raise LayupError("say first of what, such as 2.4 x 1.1 m")
    if found:
        _change(reading, count=int(found[1]))
    else:
        _last(reading, words)
        _change(reading, pair=True)
    return True


def _size(reading: _Reading, words: str) -> bool:
    said = shape_said(words, reading.scales)
    if said is None:
        return False
    shape, count = said
    _last(reading, words)
    _change(reading, shape=shape.model_dump(), count=count)
    return True


def _ply(reading: _Reading, words: str) -> None:
    if not words[:1].isdigit():
        raise LayupError(_MAY_STAND)
    part = _last(reading, words)
    reading.stacks.setdefault(part.id, []).extend(_plies(reading, words, 0))


def _plies(reading: _Reading, words: str, at: int) -> tuple[QuickPly, ...]:
    line = parse_line(words, reading.library.fabrics, scales=reading.scales, own_ids=reading.own_ids)
    if line.problems:
        problem = line.problems[0]
        raise Doubt(problem.message, at + problem.start, at + problem.end, problem.offers)
    return line.plies


def _kept(reading: _Reading, fabric: Fabric) -> str:
    reading.fabrics[fabric.id] = fabric
    return fabric.id


def _called(things: Sequence[Thing], words: str) -> Thing | None:
    """The thing of that name."""
    return next((thing for thing in things if thing.name.lower() == words.lower()), None)


def _new_id() -> str:
    return uuid4().hex[:12]
