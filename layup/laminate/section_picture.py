"""What is also printed, as SVG: the laminate cut through, to scale in thickness."""

from xml.sax.saxutils import escape, quoteattr

from layup.laminate.outcome import PartResult, PlyResult
from layup.materials import Architecture
from layup.scales import METRIC, Scales

WIDTH, LEFT, RIGHT, TOP, BOTTOM, GROUND = 720, 90, 430, 40, 460, 50
_LABEL_GAP = 34
_RESIN, _CORE, _INK, _SOFT = "#F2D08C", "#DCD3BE", "#12252B", "#4E6168"
# Hatch of each architecture: tile width, tile height, path.
_MAT = (34, 22, "M3 5l7 3M20 3l5 6M12 14l8-2M27 16l5-4M5 19l6-5")
_WEAVE = (10, 10, "M0 2.5h5M5 7.5h5M7.5 0v5M2.5 5v5")
_CROSS = (9, 9, "M0 0l9 9M9 0L0 9")
_HATCHES: dict[str, tuple[int, int, str]] = {
    "coat": (12, 6, "M0 3h3"),
    Architecture.CHOPPED_MAT: _MAT,
    Architecture.CONTINUOUS_MAT: _MAT,
    Architecture.VEIL: _MAT,
    Architecture.CHOPPED_TOW: (30, 20, "M3 4l9 4M18 3l8 5M8 14l10-3M22 16l6-5"),
    Architecture.WOVEN_CLOTH: _WEAVE,
    Architecture.WOVEN_ROVING: _WEAVE,
    Architecture.TAPE: _WEAVE,
    Architecture.SPREAD_TOW: (22, 22, "M0 0h11v11H0zM11 11h11v11H11z"),
    Architecture.UNIDIRECTIONAL: (8, 5, "M0 2.5h8"),
    Architecture.COMBINATION: (16, 16, "M0 0l16 16M16 0L0 16M3 8h4M10 3l3 2"),
    Architecture.CORE: (26, 22, "M4 4a2.4 2.4 0 1 0 .1 0M17 9a2 2 0 1 0 .1 0M9 16a2.2 2.2 0 1 0 .1 0"),
}


def section_svg(part: PartResult, scales: Scales = METRIC) -> str:
    """A part's section as an SVG document: plies hatched by architecture, a rule in the unit asked for, their names.

    Every piece of text is escaped. Each ply's group carries the ply's id.

    >>> from layup.library import generic
    >>> section_svg(PartResult.model_construct(name="Deck", substrate="timber", plies=(), thickness_mm=0.0))[:4]
    '<svg'
    """
    plies = [ply for ply in part.plies if ply.stays and ply.thickness_mm]
    total = part.thickness_mm or 1.0
    scale = (BOTTOM - TOP) / total
    body = [f'<text x="{LEFT}" y="22" font-size="17" font-weight="600" fill="{_INK}">{escape(part.name)}</text>']
    body += _rule(part.thickness_mm, scale, scales)
    label_under = float(BOTTOM + 20)
    below = 0.0
    for ply in plies:
        top = BOTTOM - (below + ply.thickness_mm) * scale
        middle = top + ply.thickness_mm * scale / 2
        label_under = min(middle, label_under - _LABEL_GAP)
        body.append(_ply(ply, top, ply.thickness_mm * scale, middle, label_under, scales))
        below += ply.thickness_mm
    body.append(
        f'<rect x="{LEFT}" y="{BOTTOM}" width="{RIGHT - LEFT}" height="{GROUND}" fill="#E7D8B8" stroke="{_INK}"/>'
        f'<text x="{RIGHT + 40}" y="{BOTTOM + 30}" font-size="15" fill="{_INK}">{escape(part.substrate)}</text>'
    )
    patterns = "".join(_pattern(architecture) for architecture in dict.fromkeys(ply.architecture for ply in plies))
    title = f"Section through {part.name or 'the part'}, {scales.words('thickness', part.thickness_mm)}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{WIDTH}" height="{BOTTOM + GROUND + 20}" '
        f'viewBox="0 0 {WIDTH} {BOTTOM + GROUND + 20}" '
        f'font-family="sans-serif"><title>{escape(title)}</title><defs>{patterns}</defs>{"".join(body)}</svg>'
    )


def _pattern(architecture: str) -> str:
    wide, tall, path = _HATCHES.get(architecture, _CROSS)
    return (
        f'<pattern id={_ref(architecture)} width="{wide}" height="{tall}" patternUnits="userSpaceOnUse">'
        f'<path d="{path}" fill="none" stroke="{_SOFT}" stroke-width="1.2"/></pattern>'
    )


def _ref(architecture: str) -> str:
    return quoteattr("hatch-" + architecture.replace(" ", "-"))


def _ply(ply: PlyResult, top: float, tall: float, middle: float, label: float, scales: Scales) -> str:
    box = f'x="{LEFT}" y="{top:.2f}" width="{RIGHT - LEFT}" height="{tall:.2f}"'
    fill = _CORE if ply.architecture is Architecture.CORE else _RESIN
    hatch = "hatch-" + ply.architecture.replace(" ", "-")
    angle = f" ±{ply.angle}" if ply.angle else ""
    resin = f"{scales.words('areal_weight', ply.resin_gsm)} resin · {scales.words('thickness', ply.thickness_mm)}"
    return (
        f'<g id={quoteattr("ply-" + ply.id)}><rect {box} fill="{fill}"/>'
        f'<rect {box} fill="url(#{hatch})" stroke="{_INK}"/>'
        f'<path d="M{RIGHT + 6} {middle:.2f}L{RIGHT + 24} {label:.2f}h10" fill="none" stroke="{_INK}"/>'
        f'<text x="{RIGHT + 40}" y="{label:.2f}" font-size="15" fill="{_INK}">{escape(ply.name + angle)}</text>'
        f'<text x="{RIGHT + 40}" y="{label + 15:.2f}" font-size="12.5" fill="{_SOFT}">{escape(resin)}</text></g>'
    )


def _rule(total_mm: float, scale: float, scales: Scales) -> list[str]:
    """The rule up the side: four to ten marks in the unit asked for."""
    rung = scales.table()["thickness"][0]
    shown = total_mm * rung.factor
    steps = (0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.25, 0.5, 1, 2, 5, 10, 20)
    step = next((step for step in steps if shown / step <= 9), 50)
    marks = [f'<path d="M{LEFT - 12} {BOTTOM}V{TOP}" stroke="{_SOFT}"/>']
    for number in range(int(shown / step + 1e-9) + 1):
        y = BOTTOM - number * step / rung.factor * scale
        marks.append(
            f'<path d="M{LEFT - 20} {y:.2f}h8" stroke="{_SOFT}"/><text x="{LEFT - 24}" y="{y + 5:.2f}" '
            f'text-anchor="end" font-size="13" fill="{_SOFT}">{number * step:g}</text>'
        )
    return [*marks, f'<text x="{LEFT - 24}" y="{BOTTOM + 22}" text-anchor="end" font-size="13">{rung.unit}</text>']
