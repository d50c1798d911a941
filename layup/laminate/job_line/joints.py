"""The joints of a job line, with their tabbing and what thickens them."""

import re
from collections.abc import Callable

from layup.errors import LayupError
from layup.job import Joint, TabStrip
from layup.laminate.job_line.reading import Reading, begin, called, change, exactly, kept, new_id, plies_said
from layup.laminate.job_line.sizes import Length, first_word, lengths

_RADIUS = re.compile(r"\bR ?(\d+(?:\.\d+)?)(?: ?mm)?\s*[x×]?\s+(?=\d)", re.IGNORECASE)
_TAB = re.compile(r"tab(?:bing|bed)? (?P<width>\d\S*(?: ?(?:mm|cm|in))?) (?P<fabric>\d.*)", re.IGNORECASE)


def joint_said(reading: Reading, words: str) -> bool:
    """A joint with its sizes, in whatever order."""
    kind, rest = first_word(_RADIUS.sub(r"\1 mm x ", words))
    said = _JOINTS.get(kind)
    if said is None:
        return False
    read, count = lengths(rest, reading.scales)
    begin(
        reading,
        "joints",
        Joint.model_validate(
            {
                "id": new_id(),
                "name": reading.title or f"{kind.capitalize()} {len(reading.joints) + 1}",
                "use_id": reading.use_id,
                "count": count,
            }
            | said(kind, sorted(read, key=lambda length: length.m))
        ),
    )
    return True


def _fillet(kind: str, read: list[Length]) -> dict[str, object]:
    radius, run = exactly(2, kind, "12 mm x 6 m", read)
    return _measured("corner", radius_mm=radius, length_m=run)


def _glue(kind: str, read: list[Length]) -> dict[str, object]:
    width, run = exactly(2, kind, "25 mm x 3 m", read)
    return _measured("glue line", width_mm=width, length_m=run)


def _scarf(kind: str, read: list[Length]) -> dict[str, object]:
    thick, run = exactly(2, kind, "9 mm x 1.2 m", read)
    return _measured("scarf", panel_thickness_mm=thick, length_m=run)


def _gap(kind: str, read: list[Length]) -> dict[str, object]:
    width, depth, run = exactly(3, kind, "3 mm x 9 mm x 2 m", read)
    return _measured("gap", width_mm=width, depth_mm=depth, length_m=run)


_JOINTS: dict[str, Callable[[str, list[Length]], dict[str, object]]] = {
    "fillet": _fillet,
    "glue": _glue,
    "scarf": _scarf,
    "gap": _gap,
}


def _measured(kind: str, **sizes: Length) -> dict[str, object]:
    """A joint of a kind with its sizes, in the unit that each field's name tells, and the words they were typed in."""
    numbers = {name: length.m if name.endswith("_m") else length.mm for name, length in sizes.items()}
    return {"kind": kind, **numbers, "typed": {name: length.typed for name, length in sizes.items()}}


def tab_said(reading: Reading, words: str) -> bool:
    """A strip of tabbing over the fillet in hand."""
    found = _TAB.fullmatch(words)
    if not found:
        return False
    if reading.in_hand != "joints":
        raise LayupError("tabbing lies over a fillet: say the fillet first")
    (width,), _ = lengths(found["width"], reading.scales)
    plies = plies_said(reading, found["fabric"], found.start("fabric"))
    strips = [
        TabStrip(id=new_id(), fabric_id=kept(reading, ply.fabric), width_mm=width.mm, typed={"width_mm": width.typed})
        for ply in plies
        if ply.fabric
    ]
    change(reading, tabs=[*(tab.model_dump() for tab in reading.joints[-1].tabs), *(s.model_dump() for s in strips)])
    return True


def filler_said(reading: Reading, words: str) -> bool:
    """What thickens the joint in hand."""
    filler = called(reading.library.fillers, words)
    if filler is None:
        return False
    if reading.in_hand != "joints":
        raise LayupError(f"{filler.name} thickens a joint: say the joint first, such as fillet 12 mm x 6 m")
    reading.fillers[filler.id] = filler
    change(reading, filler_id=filler.id)
    return True
