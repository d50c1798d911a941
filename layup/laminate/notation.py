"""The quick line: a ply stack as one line of typing, read with what was understood.

[count x] weight[unit] kind [angle] [@ strip] [+mm] [psi 0.45], ...

A core may go by its thickness, `10 mm core` or `3/8 in core`; a coat stands in its place by the resin in it,
`150 fill coat`. A wider edge is in millimetres, or in inches where it says so, `+2in`.
"""

import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from difflib import get_close_matches
from functools import cache

from layup.fabric_words import kinds
from layup.job import MOST_PLIES, Coat
from layup.laminate.named_fabric import MAT_CODE_OZ_PER_FT2, THICK, fabric_named, fabric_of_code
from layup.laminate.quick_ply import (
    INCH_MM,
    MIXED_G_PER_ML,
    Doubt,
    QuickLine,
    QuickPly,
    QuickProblem,
    film_gsm,
    number_of,
)
from layup.library import generic
from layup.materials import Fabric
from layup.scales import METRIC, Scales
from layup.units import convert

_MAY_FOLLOW = "after the fabric may follow an angle such as 45, @ and a strip, +50 for a wider edge, psi 0.45"
_NEAREST_OFFERED = 2
_TOKEN = re.compile(r"[^\s,]+")
_INCHES = r"(?:\d+\s+)?\d+/[1-9]\d*"
_HEAD = re.compile(
    r"\s*(?:(?P<count>\d+)\s*[x×]\s*)?"
    rf"(?P<weight>{_INCHES}(?=\s*(?:in\b|\"|″))|\d+(?:\.\d+)?)\s*"
    r"(?:(?P<unit>g/m²|g/m2|gsm|g|oz/yd²|oz/yd2|oz/ft²|oz/ft2|oz|mm|in\b|\"|″"
    r"|(?P<fluid>(?:(?:us|imp|imperial)\s*)?fl\.?\s*oz)\s*/\s*(?P<per>ft²|ft2|yd²|yd2))(?![a-z/]))?\s*",
    re.IGNORECASE,
)
_TAIL = re.compile(
    r"(?P<angle>[±+-]?\d{1,2}(?:/\d{1,2})?°?)(?=\s|$)|@\s*(?P<strip>[^\s+]+)|psi\s*(?P<psi>\d*\.?\d+)\s*(?P<pct>%)?",
    re.IGNORECASE,
)
_EXTRA = re.compile(
    rf"\+\s*(?:(?P<inches>{_INCHES}|\d+(?:\.\d+)?)\s*(?:in|\"|″)|(?P<extra>\d+(?:\.\d+)?)\s*(?:mm)?)(?=\s|$)",
    re.IGNORECASE,
)


@cache
def _kind_of() -> dict[str, str]:
    return {word: kind for kind, entry in kinds().items() for word in entry["words"]}


@cache
def _coat_of() -> dict[str, str]:
    return {word: coat.kind for coat in generic().coats for word in coat.words}


def parse_line(
    text: str,
    fabrics: Sequence[Fabric],
    *,
    scales: Scales = METRIC,
    strips: Sequence[str] = (),
    own_ids: Collection[str] = (),
) -> QuickLine:
    """Read a quick line against the fabrics at hand; what cannot be read is reported where it stands.

    A weight that no fabric of the kind has makes a fabric of that kind and weight, its weight a data sheet's, and says
    so; it is else like the nearest in weight, of the shop's own rolls, `own_ids`, where it has any of the kind.
    `scales` say what unit a bare number is in, whose fluid ounce is meant, and how what is said is said. `strips` are the
    named strips that `@` may point at.

    >>> from layup.library import generic
    >>> line = parse_line("2x 450 csm, 10 oz cloth +50, 300 clth", generic().fabrics)
    >>> [ply.fabric.name for ply in line.plies]
    ['450 chopped mat', '450 chopped mat', '10 oz cloth']
    >>> line.problems[0].message
    '“clth” is no fabric known here: type csm, cloth, wr, biax, combi, uni, carbon, tape, veil, core or peel'
    """
    plies: list[QuickPly] = []
    problems: list[QuickProblem] = []
    notes: list[str] = []
    at = 0
    for segment in text.split(","):
        if segment.strip():
            try:
                count, ply, note = _read_ply(segment, at, fabrics, scales, strips, own_ids)
                if len(plies) + count > MOST_PLIES:
                    raise Doubt(f"more than {MOST_PLIES} plies in one part", at, at + len(segment))
                plies += [ply] * count
                notes += [note] if note and note not in notes else []
            except Doubt as doubt:
                problems.append(replace(doubt.problem, message=scales.said(doubt.problem.message)))
        at += len(segment) + 1
    return QuickLine(tuple(plies), tuple(problems), tuple(map(scales.said, notes)))


def _read_ply(
    segment: str,
    at: int,
    fabrics: Sequence[Fabric],
    scales: Scales,
    strips: Sequence[str],
    own_ids: Collection[str],
) -> tuple[int, QuickPly, str]:
    start = at + len(segment) - len(segment.lstrip())
    end = at + len(segment.rstrip())
    head = _HEAD.match(segment)
    if not head:
        raise Doubt("begin with the weight, such as 450 csm", start, end)
    count = int(head["count"] or 1)
    if not 1 <= count <= MOST_PLIES:
        raise Doubt(f"1 to {MOST_PLIES} plies", start, end)
    rest_at = head.end()
    coat, past_coat = _named(segment, rest_at, _coat_of())
    if coat:
        resin_gsm, note = _coat_gsm(head, coat, scales, start, end)
        taken = Coat(kind=coat, resin_gsm=resin_gsm)
        ply = _read_tail(segment, past_coat, at, QuickPly(coat=taken), strips)
        if ply.angle or ply.fibre_weight_fraction:
            raise Doubt(
                "a coat has no angle and no fibre share: it takes its weight, @ strip and a wider edge such as +50",
                start,
                end,
            )
        return count, ply, note
    kind, rest_at = _read_kind(segment, rest_at, at)
    code = re.fullmatch(r"(\d\d)(\d\d)", head["weight"])
    if code and not head["unit"] and code[2] in MAT_CODE_OZ_PER_FT2 and kind in ("", "combi", "biax"):
        fabric, note = fabric_of_code(code, fabrics, own_ids)
    else:
        if not kind:
            raise Doubt(f"say which fabric: {head['weight']} {_spoken_kinds()}?", start, end)
        if head["fluid"]:
            offers = (f"{head['weight']} oz {kind}",)
            raise Doubt("fluid ounces measure resin, and this is a fabric: say oz, or g/m²", start, end, offers)
        found = [fabric for fabric in fabrics if fabric.kind == kind]
        fabric, note = fabric_named(
            head["weight"], head["unit"] or "", kind, found, scales.fabric_unit, own_ids, start, end
        )
    try:
        return count, _read_tail(segment, rest_at, at, QuickPly(fabric), strips), note
    except Doubt as doubt:
        # A word of the fabric's name may be misspelled: the whole of its words is held against what is known.
        words = _words_from(segment, head.end())
        near = () if doubt.problem.offers or not words else _nearest(" ".join(word[0] for word in words))
        if not near or len(words) < 2:
            raise
        raise Doubt(str(doubt), at + words[0].start(), at + words[-1].end(), near) from doubt


def _coat_gsm(head: re.Match[str], coat: str, scales: Scales, start: int, end: int) -> tuple[float, str]:
    """What a coat weighs, g/m², and what is to be said of it: a film of fluid ounces over an area is weighed."""
    weight, unit = number_of(head["weight"]), (head["unit"] or "").lower()
    if unit in THICK:
        such = "0.5 fl oz/ft²" if scales.fabric_unit == "oz" else "150"
        raise Doubt(f"a coat goes by what is in it: say so much, such as {such} {coat}", start, end)
    note = ""
    if head["fluid"]:
        whose = "imperial" if "imp" in unit else "us" if "us" in unit else scales.fluid_ounce
        ounce = "US fl oz" if whose == "us" else "Imperial fl oz"
        per = f"{head['per'][:2]}²"
        weight_gsm = round(film_gsm(weight, ounce, per), 1)
        film_mm = film_gsm(weight, ounce, per) / MIXED_G_PER_ML / 1000
        note = (
            f"{head['weight']} {ounce}/{per} = {scales.words('areal_weight', weight_gsm)}, a film of "
            f"{scales.words('thickness', film_mm)}, at {scales.words('density', MIXED_G_PER_ML)}"
        )
    elif unit.startswith("oz") or (not unit and scales.fabric_unit == "oz"):
        per = unit.partition("/")[2].replace("2", "²") or "ft²"
        by_weight = convert(weight, f"oz/{per}", "g/m²")
        offers = (f"{head['weight']} fl oz/{per} {coat}", f"{by_weight:.0f} g/m² {coat}")
        raise Doubt(
            f"an ounce of resin may be a volume or a weight: {head['weight']} fl oz/{per}, or "
            f"{scales.words('areal_weight', by_weight)}?",
            start,
            end,
            offers,
        )
    else:
        weight_gsm = weight
    if not 10 <= weight_gsm <= 2000:
        raise Doubt(
            f"{scales.words('areal_weight', weight_gsm)} is no coat: {scales.words('areal_weight', 10)} to "
            f"{scales.words('areal_weight', 2000)}",
            start,
            end,
        )
    return weight_gsm, note


def _spoken_kinds() -> str:
    names = [kind for kind, entry in kinds().items() if entry.get("spoken", True)]
    return ", ".join(names[:-1]) + " or " + names[-1]


def _words_from(segment: str, rest_at: int) -> list[re.Match[str]]:
    words = []
    for token in _TOKEN.finditer(segment, rest_at):
        if re.match(r"[\d±@+-]|psi\b", token[0], re.IGNORECASE):
            break
        words.append(token)
    return words


def _named(segment: str, rest_at: int, known: Mapping[str, str]) -> tuple[str, int]:
    """What the longest known run of words stands for, with where it ends."""
    words = _words_from(segment, rest_at)
    for length in range(len(words), 0, -1):
        kind = known.get(" ".join(word[0].lower() for word in words[:length]))
        if kind:
            return kind, words[length - 1].end()
    return "", rest_at


def _read_kind(segment: str, rest_at: int, at: int) -> tuple[str, int]:
    kind, past_kind = _named(segment, rest_at, _kind_of())
    if kind:
        return kind, past_kind
    words = _words_from(segment, rest_at)
    if words:
        named = segment[words[0].start() : words[-1].end()]
        message = f"“{named}” is no fabric known here: type {_spoken_kinds()}"
        raise Doubt(message, at + words[0].start(), at + words[-1].end(), _nearest(named))
    return "", rest_at


def _nearest(words: str) -> tuple[str, ...]:
    """What was most likely meant by words that name no fabric and no coat."""
    known = [*_kind_of(), *_coat_of()]
    return tuple(get_close_matches(words.lower(), known, n=_NEAREST_OFFERED, cutoff=0.6))


def _read_tail(segment: str, position: int, at: int, of: QuickPly, strips: Sequence[str]) -> QuickPly:
    angle, extra_mm, psi, strip = "", 0.0, None, ""
    while segment[position:].strip():
        position += len(segment[position:]) - len(segment[position:].lstrip())
        match = _EXTRA.match(segment, position) or _TAIL.match(segment, position)
        here, there = at + position, at + (match.end() if match else len(segment.rstrip()))
        if not match:
            raise Doubt(f"“{segment[position:].strip()}” is not understood: {_MAY_FOLLOW}", here, there)
        found = match.groupdict()
        if found.get("extra") or found.get("inches"):
            extra_mm = float(found["extra"]) if found["extra"] else round(number_of(found["inches"]) * INCH_MM, 3)
            if extra_mm > 2000:
                raise Doubt("an edge wider than {=2000 mm} a side is not likely", here, there)
        elif found.get("angle"):
            angle = found["angle"].lstrip("±+").rstrip("°")
            if any(abs(int(number)) > 90 for number in angle.split("/")):
                raise Doubt("an angle is from −90 to 90", here, there)
        elif found.get("strip"):
            strip = next((name for name in strips if name.lower() == found["strip"].lower()), "")
            if not strip:
                known = f": it has {', '.join(strips)}" if strips else ": name one under Measure"
                offers = tuple(f"@ {name}" for name in strips[:4])
                raise Doubt(f"this part has no strip called “{found['strip']}”{known}", here, there, offers)
        else:
            psi = float(found["psi"]) / (100 if found["pct"] else 1)
            if not 0.1 <= psi <= 0.8:
                raise Doubt("psi is the fibre's share of the weight, 0.1 to 0.8", here, there)
        position = match.end()
    return replace(of, angle=angle, extra_mm=extra_mm, fibre_weight_fraction=psi, strip=strip)
