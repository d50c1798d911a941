"""The surfaces of a job line: what they are, how they are laid, how large and how many they are, their plies."""

import re

from layup.errors import LayupError
from layup.laminate.job_line.reading import Reading, change, part_in_hand, plies_said
from layup.laminate.job_line.sizes import lengths, name_before, shape_said
from layup.laminate.job_line.words import PROCESSES, SURFACES
from layup.laminate.quick_ply import Doubt
from layup.library import generic
from layup.shapes import Patch

_MAY_STAND = "this is no size, ply, surface, resin or joint: say it as in 2.4 x 1.1 m, 600 biax, plywood, epoxy, slow, fillet 12 mm x 6 m"
_COATS = {word for coat in generic().coats for word in coat.words}
_LAYERS = re.compile(r"(\d{1,3}) (?:layers?|plies|ply|times)(?: of)? ", re.IGNORECASE)
_OF_THEM = re.compile(r"(\d{1,3}) (?:of them|alike)")
_DEEP = re.compile(r"(?P<depth>\S.*?) deep")


def surface_said(reading: Reading, words: str) -> bool:
    """What it is laid on, or what the faces of a joint are."""
    substrate = SURFACES.get(words.lower())
    if substrate is None or reading.in_hand == "pours":
        return False
    if reading.in_hand != "joints":
        part_in_hand(reading, words)
    change(reading, substrate=substrate)
    return True


def process_said(reading: Reading, words: str) -> bool:
    """How it is laid."""
    process = PROCESSES.get(words.lower())
    if process:
        part_in_hand(reading, words)
        change(reading, process=process)
    return process is not None


def size_said(reading: Reading, words: str) -> bool:
    """A shape with its sizes, with a name before it or none."""
    said = shape_said(words, reading.scales)
    name = ""
    if said is None:
        name, size = name_before(words)
        said = shape_said(size, reading.scales) if name else None
    if said is None:
        return False
    shape, count = said
    part_in_hand(reading, words)
    change(reading, shape=shape.model_dump(), count=count, **({"name": name} if name else {}))
    return True


def depth_said(reading: Reading, words: str) -> bool:
    """How deep a patch is ground."""
    found = _DEEP.fullmatch(words)
    if not found:
        return False
    shape = part_in_hand(reading, words).shape
    if not isinstance(shape, Patch):
        raise LayupError("a depth is of a patch: say the patch first, such as patch 80 x 140 mm")
    (depth,), _ = lengths(found["depth"], reading.scales)
    typed = shape.typed | {"depth_mm": depth.typed}
    deep = shape.model_copy(update={"depth_mm": depth.mm, "typed": typed})
    change(reading, shape=deep.model_dump())
    return True


def count_said(reading: Reading, words: str) -> bool:
    """A pair, or so many alike."""
    found = _OF_THEM.fullmatch(words.lower())
    if words.lower() not in ("pair", "a pair") and not found:
        return False
    if not reading.in_hand:
        raise LayupError("say first of what, such as 2.4 x 1.1 m")
    if found:
        change(reading, count=int(found[1]))
    else:
        part_in_hand(reading, words)
        change(reading, pair=True)
    return True


def ply_said(reading: Reading, words: str) -> None:
    """A ply of the quick line. Raises Doubt or LayupError for what nothing here is called."""
    layers = _LAYERS.match(words)
    if layers:
        raise Doubt("say how many as 4x", 0, layers.end(), (f"{layers[1]}x ",))
    if words.lower() in _COATS:
        raise Doubt("say how much of it, in g/m²", 0, len(words), (f"600 {words}",))
    if not words[:1].isdigit():
        raise LayupError(_MAY_STAND)
    part = part_in_hand(reading, words)
    reading.stacks.setdefault(part.id, []).extend(plies_said(reading, words, 0))
