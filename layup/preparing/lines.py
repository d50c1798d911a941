"""Lines of a preparation, and the kinds of ground that they differ by."""

from layup.preparing.before_pot import PrepLine

# Past this a fast solvent is gone before it is wiped off (memory).
LARGE_AREA_M2 = 1.5
WOOD = ("bare plywood", "timber")
LAMINATE = ("sanded laminate", "cured polyester", "cured epoxy")
POROUS = ("concrete", "foam core", "polystyrene foam")
DUST = "Dust holds the resin off the ground"
COMMON, MEMORY = "common practice", "memory"


def line_of(code: str, words: str, why: str, source: str, *, gate: bool = False) -> PrepLine:
    """One line: what is done, why, and the kind of source. A `gate` keeps the first pot shut.

    >>> line_of("dust", "Dust off", DUST, COMMON).gate
    False
    """
    return PrepLine(id=code, words=words, why=why, source=source, gate=gate)
