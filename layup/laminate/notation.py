"""The quick line: a ply stack as one line of typing, read with what was understood and written back again.

[count x] weight[unit] kind [angle] [@ strip] [+mm] [psi 0.45], ...

A core may go by its thickness, `10 mm core` or `3/8 in core`; a coat stands in its place by the resin in it,
`150 fill coat`. A wider edge is in millimetres, or in inches where it says so, `+2in`.
"""

import re
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from difflib import get_close_matches
from fractions import Fraction
from functools import cache
from math import isclose

from layup.architecture import Architecture
from layup.errors import Unreadable
from layup.fabric_words import kinds
from layup.job import MOST_PLIES, Coat
from layup.library import generic
from layup.materials import Fabric, SourceKind
from layup.scales import METRIC, Scales
from layup.units import areal_weight_doubt, convert, figures

# A typed weight is a fabric's own within what a name is rounded by; past it, it is another fabric.
MIXED_G_PER_ML = 1.1  # of a mixed laminating resin (memory)
_SAME_WEIGHT_GSM = 0.5
_SOLD_BY = re.compile(r"[\d.]+ oz\b")
# How far the ounces that a fabric is sold by are rounded from its weight (common practice: 8.85 is sold as 9).
_TRADE_ROUNDS = 0.04
_MAY_FOLLOW = "after the fabric may follow an angle such as 45, @ and a strip, +50 for a wider edge, psi 0.45"
_NEAREST_OFFERED = 2
_THICKEST_BARE_CORE_MM = 60
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
_INCH_MM = convert(1, "in", "mm")
_THICK = ("mm", "in", '"', "″")
_MAT_CODE_OZ_PER_FT2 = {"08": 0.75, "10": 1.0, "15": 1.5}


@dataclass(frozen=True)
class QuickPly:
    """One ply as written: its fabric or its coat and what was said about it. `extra_mm` is added on each side.

    `strip` names the strip of the part it lies on; all of the part where it is empty.
    """

    fabric: Fabric | None = None
    angle: str = ""
    extra_mm: float = 0.0
    fibre_weight_fraction: float | None = None
    strip: str = ""
    coat: Coat | None = None


@dataclass(frozen=True)
class QuickProblem:
    """A stretch of the line, from `start` to `end`, that could not be taken, with texts offered in its place."""

    start: int
    end: int
    message: str
    offers: tuple[str, ...] = ()


@dataclass(frozen=True)
class QuickLine:
    plies: tuple[QuickPly, ...]
    problems: tuple[QuickProblem, ...]
    notes: tuple[str, ...]


class _Doubt(Exception):
    def __init__(self, message: str, start: int, end: int, offers: tuple[str, ...] = ()):
        super().__init__(message)
        self.problem = QuickProblem(start, end, message, offers)


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
                    raise _Doubt(f"more than {MOST_PLIES} plies in one part", at, at + len(segment))
                plies += [ply] * count
                notes += [note] if note and note not in notes else []
            except _Doubt as doubt:
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
        raise _Doubt("begin with the weight, such as 450 csm", start, end)
    count = int(head["count"] or 1)
    if not 1 <= count <= MOST_PLIES:
        raise _Doubt(f"1 to {MOST_PLIES} plies", start, end)
    rest_at = head.end()
    coat, past_coat = _named(segment, rest_at, _coat_of())
    if coat:
        resin_gsm, note = _coat_gsm(head, coat, scales, start, end)
        taken = Coat(kind=coat, resin_gsm=resin_gsm)
        ply = _read_tail(segment, past_coat, at, QuickPly(coat=taken), strips)
        if ply.angle or ply.fibre_weight_fraction:
            raise _Doubt(
                "a coat has no angle and no fibre share: it takes its weight, @ strip and a wider edge such as +50",
                start,
                end,
            )
        return count, ply, note
    kind, rest_at = _read_kind(segment, rest_at, at)
    code = re.fullmatch(r"(\d\d)(\d\d)", head["weight"])
    is_trade_code = bool(
        code and not head["unit"] and code[2] in _MAT_CODE_OZ_PER_FT2 and kind in ("", "combi", "biax")
    )
    if is_trade_code:
        fabric, note = _trade_code(code, fabrics, own_ids)
    else:
        if not kind:
            raise _Doubt(f"say which fabric: {head['weight']} {_spoken_kinds()}?", start, end)
        if head["fluid"]:
            offers = (f"{head['weight']} oz {kind}",)
            raise _Doubt("fluid ounces measure resin, and this is a fabric: say oz, or g/m²", start, end, offers)
        found = [fabric for fabric in fabrics if fabric.kind == kind]
        fabric, note = _fabric(head["weight"], head["unit"] or "", kind, found, scales.fabric_unit, own_ids, start, end)
    try:
        return count, _read_tail(segment, rest_at, at, QuickPly(fabric), strips), note
    except _Doubt as doubt:
        # A word of the fabric's name may be misspelled: the whole of its words is held against what is known.
        words = _words_from(segment, head.end())
        near = () if doubt.problem.offers or not words else _nearest(" ".join(word[0] for word in words))
        if not near or len(words) < 2:
            raise
        raise _Doubt(str(doubt), at + words[0].start(), at + words[-1].end(), near) from doubt


def _coat_gsm(head: re.Match, coat: str, scales: Scales, start: int, end: int) -> tuple[float, str]:
    """What a coat weighs, g/m², and what is to be said of it: a film of fluid ounces over an area is weighed."""
    weight, unit = _number(head["weight"]), (head["unit"] or "").lower()
    if unit in _THICK:
        such = "0.5 fl oz/ft²" if scales.fabric_unit == "oz" else "150"
        raise _Doubt(f"a coat goes by what is in it: say so much, such as {such} {coat}", start, end)
    note = ""
    if head["fluid"]:
        whose = "imperial" if "imp" in unit else "us" if "us" in unit else scales.fluid_ounce
        ounce = "US fl oz" if whose == "us" else "Imperial fl oz"
        per = f"{head['per'][:2]}²"
        weight_gsm = round(_film_gsm(weight, ounce, per), 1)
        film_mm = _film_gsm(weight, ounce, per) / MIXED_G_PER_ML / 1000
        note = (
            f"{head['weight']} {ounce}/{per} = {scales.words('areal_weight', weight_gsm)}, a film of "
            f"{scales.words('thickness', film_mm)}, at {scales.words('density', MIXED_G_PER_ML)}"
        )
    elif unit.startswith("oz") or (not unit and scales.fabric_unit == "oz"):
        per = unit.partition("/")[2].replace("2", "²") or "ft²"
        by_weight = convert(weight, f"oz/{per}", "g/m²")
        offers = (f"{head['weight']} fl oz/{per} {coat}", f"{by_weight:.0f} g/m² {coat}")
        raise _Doubt(
            f"an ounce of resin may be a volume or a weight: {head['weight']} fl oz/{per}, or "
            f"{scales.words('areal_weight', by_weight)}?",
            start,
            end,
            offers,
        )
    else:
        weight_gsm = weight
    if not 10 <= weight_gsm <= 2000:
        raise _Doubt(
            f"{scales.words('areal_weight', weight_gsm)} is no coat: {scales.words('areal_weight', 10)} to "
            f"{scales.words('areal_weight', 2000)}",
            start,
            end,
        )
    return weight_gsm, note


def _film_gsm(ounces: float, ounce: str, per: str) -> float:
    return ounces * convert(1, ounce, "ml") / convert(1, per, "m²") * MIXED_G_PER_ML


def _number(words: str) -> float:
    """A number as it is typed, with the fraction of an inch.

    >>> _number("1 3/8"), _number("0.5")
    (1.375, 0.5)
    """
    return float(sum(map(Fraction, words.split())))


def _spoken_kinds() -> str:
    names = [kind for kind, entry in kinds().items() if entry.get("spoken", True)]
    return ", ".join(names[:-1]) + " or " + names[-1]


def _words_from(segment: str, rest_at: int) -> list[re.Match]:
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
        raise _Doubt(message, at + words[0].start(), at + words[-1].end(), _nearest(named))
    return "", rest_at


def _nearest(words: str) -> tuple[str, ...]:
    """What was most likely meant by words that name no fabric and no coat."""
    known = [*_kind_of(), *_coat_of()]
    return tuple(get_close_matches(words.lower(), known, n=_NEAREST_OFFERED, cutoff=0.6))


def _exactly(fabrics: Iterable[Fabric], weight_gsm: float) -> Fabric | None:
    """The fabric that a weight names, the first of several alike."""
    same = [fabric for fabric in fabrics if abs(fabric.areal_weight_gsm - weight_gsm) <= _SAME_WEIGHT_GSM]
    return min(same, key=lambda fabric: abs(fabric.areal_weight_gsm - weight_gsm), default=None)


def _sold_by(fabrics: Iterable[Fabric], ounces: str, unit: str) -> Fabric | None:
    """The fabric that is sold by so many ounces: its weight rounds to them, as they are typed."""
    digits, typed = len(ounces.partition(".")[2]), float(ounces)
    weights = [(convert(fabric.areal_weight_gsm, "g/m²", unit), fabric) for fabric in fabrics]
    near = [pair for pair in weights if round(pair[0], digits) == typed and abs(pair[0] / typed - 1) < _TRADE_ROUNDS]
    return min(near, key=lambda pair: abs(pair[0] - typed), default=(0.0, None))[1]


def _like(fabrics: Sequence[Fabric], weight_gsm: float, own_ids: Collection[str]) -> Fabric | None:
    """The fabric nearest in weight, of the shop's own rolls where it has any."""
    own = [fabric for fabric in fabrics if fabric.id in own_ids]
    return min(own or fabrics, key=lambda fabric: abs(fabric.areal_weight_gsm - weight_gsm), default=None)


def _made_to_weight(like: Fabric, weight_gsm: float, sold_as: str = "", **changes) -> Fabric:
    """A fabric like another, of a weight, by the name it is sold under: by its grams, or as it was typed."""
    name = kinds()[like.kind]["words"][0]
    weight_gsm = round(weight_gsm, 1)
    return like.model_copy(
        update={
            "id": f"{like.kind}-{weight_gsm:g}",
            "name": f"{sold_as or f'{weight_gsm:.0f}'} {name}",
            "areal_weight_gsm": weight_gsm,
            "sources": like.sources | {"areal_weight_gsm": SourceKind.DATA_SHEET},
        }
        | changes
    )


def _fabric(
    weight: str,
    unit: str,
    kind: str,
    fabrics: Sequence[Fabric],
    fabric_unit: str,
    own_ids: Collection[str],
    start: int,
    end: int,
) -> tuple[Fabric, str]:
    """The fabric of a kind, `fabrics` all of it, that a weight names, with what is to be said of it."""
    base = _like(fabrics, 0, own_ids)
    if base is None:
        raise _Doubt(f"no {kinds()[kind]['meaning']} on the shelf", start, end)
    if unit.lower() in _THICK or (base.core_thickness_mm and not unit and _number(weight) <= _THICKEST_BARE_CORE_MM):
        return _core_by_thickness(weight, unit.lower(), kind, fabrics, base, start, end), ""
    spelled = (unit or fabric_unit).lower().replace("2", "²")
    per = "oz/ft²" if base.ounce_base == "square foot" else "oz/yd²"
    taken = "g/m²" if spelled in ("g/m²", "gsm", "g") else per if spelled == "oz" else spelled
    weight_gsm = convert(_number(weight), taken, "g/m²")
    doubt = areal_weight_doubt(weight_gsm, _number(weight), taken, base.ounce_base)
    if doubt:
        other = per if taken == "g/m²" else "g/m²"
        offers = (f"{weight} {other} {kind}",) if doubt.endswith("?") else ()
        raise _Doubt(doubt, start, end, offers)
    in_grams = fabric_unit == "g/m²"
    note = f"{weight} {taken} = {weight_gsm:.0f} g/m²" if taken != "g/m²" and in_grams else ""
    per_ounce = fabric_unit == "oz" and taken.startswith("oz")
    exact = _exactly(fabrics, weight_gsm) or (_sold_by(fabrics, weight, taken) if per_ounce else None)
    if exact:
        return exact, note
    like = _like(fabrics, weight_gsm, own_ids)
    if like.core_thickness_mm:
        message = f"no core of {{={weight_gsm:.0f} g/m²}} is known: say how thick it is"
        raise _Doubt(message, start, end, (f"{like.core_thickness_mm:g} mm {kind}",))
    share = f", mat share {like.mat_share:g}" if like.architecture is Architecture.COMBINATION else ""
    typed = note or (f"{figures(weight_gsm, 4)} g/m²" if in_grams else f"{weight} {taken}")
    sold_as = f"{weight} oz" if taken.startswith("oz") else ""
    return _made_to_weight(like, weight_gsm, sold_as), f"{typed}: planned as typed, else like {like.name}{share}"


def _core_by_thickness(
    typed: str, unit: str, kind: str, fabrics: Sequence[Fabric], base: Fabric, start: int, end: int
) -> Fabric:
    if not base.core_thickness_mm:
        raise _Doubt("only a core goes by its thickness: say what a fabric weighs", start, end)
    thickness_mm = round(_number(typed) * (1 if unit in ("", "mm") else _INCH_MM), 3)
    if not unit:
        asked = f"is it {thickness_mm:g} mm thick?"
        raise _Doubt(
            f"{thickness_mm:g} g/m² is lighter than any core: {asked}", start, end, (f"{thickness_mm:g} mm core",)
        )
    if not 0 < thickness_mm <= 200:
        raise _Doubt("a core is up to {200 mm} thick", start, end)
    like = min(fabrics, key=lambda fabric: abs(fabric.core_thickness_mm - thickness_mm))
    if isclose(like.core_thickness_mm, thickness_mm, rel_tol=1e-3):
        return like
    weight_gsm = like.areal_weight_gsm * thickness_mm / like.core_thickness_mm
    if not 15 <= weight_gsm <= 2500:
        raise _Doubt(f"no core of {{={thickness_mm:g} mm}} is known, and like {like.name} none is likely", start, end)
    return like.model_copy(
        update={
            "id": f"{kind}-{thickness_mm:g}mm",
            "name": f"{typed} {'mm' if unit == 'mm' else 'in'} {kinds()[kind]['words'][0]}",
            "core_thickness_mm": thickness_mm,
            "areal_weight_gsm": round(weight_gsm, 1),
            "sources": like.sources | {"core_thickness_mm": SourceKind.DATA_SHEET},
        }
    )


def _trade_code(code: re.Match, fabrics: Sequence[Fabric], own_ids: Collection[str]) -> tuple[Fabric, str]:
    """A four-digit trade name of a stitched combination is two weights (common practice)."""
    stitched_gsm = convert(float(code[1]), "oz/yd²", "g/m²")
    mat_gsm = convert(_MAT_CODE_OZ_PER_FT2[code[2]], "oz/ft²", "g/m²")
    total, share = stitched_gsm + mat_gsm, mat_gsm / (stitched_gsm + mat_gsm)
    note = (
        f"{code[0]} = {{={stitched_gsm:.0f} g/m²}} biaxial + {{={mat_gsm:.0f} g/m²}} mat = {{={total:.0f} g/m²}}, "
        f"mat share {share:.2f}"
    )
    combinations = [fabric for fabric in fabrics if fabric.kind == "combi"]
    exact = _exactly(combinations, total)
    if exact:
        return exact, note
    like = _like(combinations, total, own_ids)
    if like is None:
        raise Unreadable("no combination on the shelf")
    return _made_to_weight(like, total, code[0], mat_share=round(share, 3)), note


def _read_tail(segment: str, position: int, at: int, of: QuickPly, strips: Sequence[str]) -> QuickPly:
    angle, extra_mm, psi, strip = "", 0.0, None, ""
    while segment[position:].strip():
        position += len(segment[position:]) - len(segment[position:].lstrip())
        match = _EXTRA.match(segment, position) or _TAIL.match(segment, position)
        here, there = at + position, at + (match.end() if match else len(segment.rstrip()))
        if not match:
            raise _Doubt(f"“{segment[position:].strip()}” is not understood: {_MAY_FOLLOW}", here, there)
        found = match.groupdict()
        if found.get("extra") or found.get("inches"):
            extra_mm = float(found["extra"]) if found["extra"] else round(_number(found["inches"]) * _INCH_MM, 3)
            if extra_mm > 2000:
                raise _Doubt("an edge wider than {=2000 mm} a side is not likely", here, there)
        elif found.get("angle"):
            angle = found["angle"].lstrip("±+").rstrip("°")
            if any(abs(int(number)) > 90 for number in angle.split("/")):
                raise _Doubt("an angle is from −90 to 90", here, there)
        elif found.get("strip"):
            strip = next((name for name in strips if name.lower() == found["strip"].lower()), "")
            if not strip:
                known = f": it has {', '.join(strips)}" if strips else ": name one under Measure"
                offers = tuple(f"@ {name}" for name in strips[:4])
                raise _Doubt(f"this part has no strip called “{found['strip']}”{known}", here, there, offers)
        else:
            psi = float(found["psi"]) / (100 if found["pct"] else 1)
            if not 0.1 <= psi <= 0.8:
                raise _Doubt("psi is the fibre's share of the weight, 0.1 to 0.8", here, there)
        position = match.end()
    return replace(of, angle=angle, extra_mm=extra_mm, fibre_weight_fraction=psi, strip=strip)


def quick_words(
    *, weight: str, kind: str, angle: str = "", strip: str = "", extra_mm: str = "", psi_pct: str = ""
) -> str:
    """One ply's words for the quick line from the cells of a table; an empty cell says nothing.

    >>> quick_words(weight="300", kind="cloth", angle="45", extra_mm="50", psi_pct="47.5")
    '300 g/m² cloth 45 +50 psi 47.5%'
    """
    words = [f"{weight} g/m²", kind.replace(",", " "), angle.replace(",", " ")]
    words += [f"@ {strip}"] if strip else []
    words += [f"+{extra_mm}"] if extra_mm and extra_mm != "0" else []
    words += [f"psi {psi_pct}%"] if psi_pct else []
    return " ".join(word for word in words if word)


def format_line(plies: Sequence[QuickPly], scales: Scales = METRIC) -> str:
    """Write plies back as a quick line; `parse_line` of the result, in the same scales, gives the same plies.

    >>> from layup.library import generic
    >>> format_line(parse_line("450 mat, 450 csm, 600 biaxial 45 +50", generic().fabrics).plies)
    '2x 450 csm, 600 biax 45 +50'
    >>> US = Scales("US", fabric_unit="oz")
    >>> format_line(parse_line("1.5 csm, 18 biax +2in", generic(in_ounces=True).fabrics, scales=US).plies, US)
    '1.5 oz csm, 18 oz biax +2in'
    """
    runs: list[tuple[QuickPly, int]] = []
    for ply in plies:
        if runs and runs[-1][0] == ply:
            runs[-1] = (ply, runs[-1][1] + 1)
        else:
            runs.append((ply, 1))
    return ", ".join(_write(ply, count, scales) for ply, count in runs)


def _write(ply: QuickPly, count: int, scales: Scales) -> str:
    words = [f"{count}x"] if count > 1 else []
    words += _of_what(ply, scales)
    words += [ply.angle] if ply.angle else []
    words += [f"@ {ply.strip}"] if ply.strip else []
    words += [f"+{_wider(ply.extra_mm, scales)}"] if ply.extra_mm else []
    words += [f"psi {ply.fibre_weight_fraction:g}"] if ply.fibre_weight_fraction is not None else []
    return " ".join(words)


def _of_what(ply: QuickPly, scales: Scales) -> list[str]:
    by_ounces = scales.fabric_unit == "oz"
    if ply.coat:
        return [
            _coat_words(ply.coat.resin_gsm, scales) if by_ounces else f"{ply.coat.resin_gsm:g}",
            f"{ply.coat.kind} coat",
        ]
    word = kinds()[ply.fabric.kind]["words"][0]
    thickness_mm = ply.fabric.core_thickness_mm
    if thickness_mm:
        return [_thick(thickness_mm, scales), word]
    return [_in_ounces(ply.fabric) if by_ounces else f"{ply.fabric.areal_weight_gsm:g}", word]


def _coat_words(resin_gsm: float, scales: Scales) -> str:
    """A coat as the film that it is measured as."""
    ounce = "US fl oz" if scales.fluid_ounce == "us" else "Imperial fl oz"
    gsm_per_ounce = _film_gsm(1, ounce, "ft²")
    written = _shortest(resin_gsm / gsm_per_ounce, lambda ounces: round(ounces * gsm_per_ounce, 1) == resin_gsm)
    return f"{written} fl oz/ft²"


def _thick(thickness_mm: float, scales: Scales) -> str:
    if scales.unit_set == "metric":
        return f"{thickness_mm:g} mm"
    return f"{_in_inches(thickness_mm, within_mm=5e-4 * thickness_mm)} in"


def _wider(extra_mm: float, scales: Scales) -> str:
    if scales.unit_set == "metric":
        return f"{extra_mm:g}"
    return f"{_in_inches(extra_mm, within_mm=5e-4)}in"


def _in_inches(length_mm: float, *, within_mm: float) -> str:
    return _shortest(length_mm / _INCH_MM, lambda inches: abs(inches * _INCH_MM - length_mm) <= within_mm)


def _shortest(value: float, read_back: Callable[[float], bool]) -> str:
    """The number with the fewest decimals that reads back as what it stands for."""
    written = (f"{value:.{digits}f}" for digits in range(8))
    return next((words for words in written if read_back(float(words))), f"{value:.8f}")


def _in_ounces(fabric: Fabric) -> str:
    """The ounces that a fabric's own name says, else those of its weight."""
    sold = _SOLD_BY.match(fabric.name)
    if sold:
        return sold[0]
    unit = "oz/ft²" if fabric.ounce_base == "square foot" else "oz/yd²"
    return f"{round(convert(fabric.areal_weight_gsm, 'g/m²', unit), 2):g} oz"
