"""A job as a file: read with caps that a hostile file cannot pass, upgraded by steps, written as plain JSON."""

import json
import re
from collections.abc import Callable, Iterator
from typing import Annotated, Any

from pydantic import BeforeValidator, ValidationError

from layup.castings import Pour
from layup.document import DEEPEST, MOST_BYTES, require_an_end
from layup.errors import LayupError, OutOfRange, Unreadable, problems_of
from layup.job import (
    FIRST_USE,
    VERSION,
    Coat,
    JobSpec,
    Joint,
    Part,
    Ply,
    ResinInUse,
)


class Refused(LayupError):
    """A file that is no job: every fault with its field's path."""

    def __init__(self, faults: list[tuple[str, str]]):
        path, message = faults[0]
        super().__init__(message, path)
        self.faults = faults


def _several_resins(document: dict[str, Any]) -> dict[str, Any]:
    """From one resin a job to several in use. What a person went on past was said of the one there was."""
    chemistry = document.get("chemistry", {})
    if not isinstance(chemistry, dict):
        raise Refused([("chemistry", "must be an object")])
    # Gathered once: a hostile file may hold every id that is tried.
    use_id, taken = FIRST_USE, {each for each in _ids_in(document) if isinstance(each, str)}
    while use_id in taken:
        use_id += "-1"
    new = {key: value for key, value in document.items() if key != "chemistry"}
    new |= {"version": 2, "resins": [{"id": use_id, **chemistry}]}
    if isinstance(overrides := document.get("overrides"), list):
        new["overrides"] = [_about_the_resin(each, use_id) for each in overrides]
    return new


def _ids_in(node: object) -> Iterator[object]:
    children = node.values() if isinstance(node, dict) else node if isinstance(node, list) else ()
    if isinstance(node, dict) and "id" in node:
        yield node["id"]
    for child in children:
        yield from _ids_in(child)


def _about_the_resin(override: object, use_id: str) -> object:
    if not isinstance(override, dict):
        return override
    about = override.get("about")
    if not isinstance(about, str) or not about.startswith("chemistry/"):
        return override
    return override | {"about": f"resins/{use_id}/{about.removeprefix('chemistry/')}"}


# One function a step: UPGRADES[n] turns a document of version n into one of version n + 1.
UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: _several_resins}


def schema() -> dict[str, Any]:
    """The published schema of a job file, with its own address.

    >>> schema()["$id"]
    'urn:inch-cradle:job:2'
    """
    own = {"$schema": "https://json-schema.org/draft/2020-12/schema", "$id": f"urn:inch-cradle:job:{VERSION}"}
    return own | _described(JobSpec.model_json_schema())


def may_stand_empty() -> list[str]:
    """The numbers of a job that may stand empty where their words are kept beside them, so that one that is refused holds
    up nothing else.

    >>> "length_m" in may_stand_empty(), "count" in may_stand_empty()
    (True, False)
    """
    fields = (part["properties"] for part in schema()["$defs"].values() if "typed" in part.get("properties", {}))
    found = {name for each in fields for name, field in each.items() if _is_number_or_nothing(field)}
    return sorted(found)


def fresh() -> dict[str, dict[str, Any]]:
    """A part, a joint, a casting, a ply, a coat and a resin in use of which nothing is said yet: what stands in their fields then.

    >>> fresh()["joint"]["squeeze_out"], fresh()["part"]["substrate"]
    (0.2, 'bare plywood')
    """
    things = {
        "part": Part(id="x"),
        "joint": Joint(id="x"),
        "pour": Pour(id="x"),
        "resin": ResinInUse(id="x"),
        "ply": Ply(id="x", fabric_id="x"),
        "coat": Coat(kind="fill", resin_gsm=100),
    }
    said = {name: thing.model_dump(mode="json", exclude={"id"}) for name, thing in things.items()}
    said["ply"]["fabric_id"] = ""
    return said


def _is_number_or_nothing(field: dict[str, Any]) -> bool:
    kinds = {each.get("type") for each in field.get("anyOf", ())}
    return "null" in kinds and bool(kinds & {"number", "integer"})


_UNITS = {
    "m": "metres",
    "mm": "millimetres",
    "m2": "square metres",
    "g": "grams",
    "kg": "kilograms",
    "gsm": "grams a square metre",
    "ml": "millilitres",
    "c": "degrees Celsius",
    "pct": "per cent",
    "min": "minutes",
    "h": "hours",
    "deg": "degrees",
    "cm3": "cubic centimetres",
    "m3": "cubic metres",
    "k": "kelvins",
    "l": "litres",
    "f": "degrees Fahrenheit",
    "days": "days",
    "months": "months",
}


_UNIT = "|".join(_UNITS)
_NAMED = re.compile(rf"(.+?)(?:_({_UNIT}))?(?:_per_({_UNIT}))?")


def _described(model: dict[str, Any]) -> dict[str, Any]:
    """A schema whose every field says what it is, and in which unit: its name says both.

    >>> field = _described({"properties": {"roll_width_mm": {"type": "number"}}})["properties"]["roll_width_mm"]
    >>> field["description"]
    'Roll width, in millimetres.'
    """
    for part in (model, *model.get("$defs", {}).values()):
        for name, field in part.get("properties", {}).items():
            field.setdefault("description", _words_of(name))
    return model


def _words_of(name: str) -> str:
    named = _NAMED.fullmatch(name)
    what, unit, per = named.groups() if named else (name, None, None)
    words = what.replace("_", " ")
    told = f"{words[:1].upper()}{words[1:]}"
    of_each = f" a {_UNITS[per].removesuffix('s')}" if per else ""
    return f"{told}, in {_UNITS[unit]}{of_each}." if unit else f"{told}{of_each}."


def depth_of(text: str) -> int:
    """How deep the brackets of a JSON text nest, without building what it describes.

    >>> depth_of('{"a": [1, "]]"]}')
    2
    """
    deepest = depth = 0
    in_string = escaped = False
    for letter in text:
        if in_string:
            if escaped:
                escaped = False
            elif letter == "\\":
                escaped = True
            elif letter == '"':
                in_string = False
        elif letter == '"':
            in_string = True
        elif letter in "{[":
            depth += 1
            deepest = max(deepest, depth)
        elif letter in "}]":
            depth -= 1
    return deepest


def upgrade(document: dict[str, Any]) -> dict[str, Any]:
    """A document of an older version, brought up to this one step by step. Raises OutOfRange for a newer one."""
    version = document.get("version", VERSION)
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise OutOfRange("is no version of a job file", "version")
    if version > VERSION:
        raise OutOfRange(f"made by a newer Inch Cradle (version {version}; this one reads up to {VERSION})", "version")
    while version < VERSION:
        document = UPGRADES[version](document)
        version += 1
    return document


def read_document(document: dict[str, Any]) -> JobSpec:
    """A job from its document as it is kept, of this version or an older one. Raises ValidationError and as `upgrade`.

    >>> read_document({"version": 1, "name": "Lid", "chemistry": {"resin_id": "epoxy-2-1"}}).resins[0].resin_id
    'epoxy-2-1'
    """
    return JobSpec.model_validate(upgrade(document))


def _brought_up(sent: object) -> object:
    if not isinstance(sent, dict):
        return sent
    version = sent.get("version")
    return upgrade(sent) if type(version) is int and 0 < version < VERSION else sent


# A job as it is sent: what was typed before the program was made newer is of an older version.
AnyJob = Annotated[JobSpec, BeforeValidator(_brought_up)]


def read_job(content: bytes) -> JobSpec:
    """Read a job file. Raises Refused with every fault, Unreadable or OutOfRange where it is no job at all.

    >>> read_job(b'{"version": 1, "name": "Locker lid"}').name
    'Locker lid'
    """
    if len(content) > MOST_BYTES:
        raise OutOfRange(f"is larger than {MOST_BYTES / 1e6:g} MB: no job is")
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Unreadable("is not text: choose a job file ending in .json") from error
    if depth_of(text) > DEEPEST:
        raise OutOfRange(f"nests deeper than {DEEPEST} levels: no job does")
    try:
        document = json.loads(text)
    except ValueError as error:
        raise Unreadable("is not JSON: choose a job file ending in .json") from error
    if not isinstance(document, dict):
        raise Unreadable("holds no job")
    require_an_end(document)
    try:
        return read_document(document)
    except ValidationError as error:
        raise Refused(problems_of(error)) from error


def write_job(job: JobSpec) -> bytes:
    """A job as its file: `read_job` of it gives the same job."""
    return (job.model_dump_json(indent=1) + "\n").encode()
