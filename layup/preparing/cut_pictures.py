"""A roll with its pieces, to scale: laid out once as plain boxes in millimetres, painted as SVG and on paper."""

from dataclasses import dataclass
from xml.sax.saxutils import escape

from layup.preparing.before_pot import CutRoll
from layup.scales import METRIC, Scales

_INK, _SOFT, _PIECE = "#12252B", "#4E6168", "#FFFFFF"
_TEXT_SHARE = 0.42
_LEAST_TEXT_MM, _MOST_TEXT_MM = 24.0, 120.0


@dataclass(frozen=True)
class Box:
    """One piece on its roll: where it lies along and across, mm, its words and how large they may be."""

    along_mm: float
    across_mm: float
    length_mm: float
    width_mm: float
    number: str
    size: str
    text_mm: float


def boxes(roll: CutRoll, scales: Scales) -> list[Box]:
    """The pieces of a roll as boxes, the roll lying along the page."""
    return [
        Box(
            along_mm=piece.y_mm,
            across_mm=piece.x_mm,
            length_mm=piece.along_mm,
            width_mm=piece.across_mm,
            number=str(piece.number) if piece.number else "spare",
            size=f"{scales.number('cut', piece.along_mm)} × {scales.number('cut', piece.across_mm)}",
            text_mm=max(_LEAST_TEXT_MM, min(_MOST_TEXT_MM, _TEXT_SHARE * min(piece.across_mm, piece.along_mm / 1.6))),
        )
        for piece in roll.pieces
    ]


def roll_words(roll: CutRoll, scales: Scales) -> str:
    """A roll in a line: what it is, what comes off it, what of that is waste.

    >>> roll_words(CutRoll.model_construct(fabric_name="300 cloth", number=1, roll_width_mm=1270, run_m=4.2,
    ...     waste_share=0.08), METRIC)
    '300 cloth, roll 1, 1,270 mm wide: 4.2 m off the roll, 8 % waste'
    """
    return (
        f"{roll.fabric_name}, roll {roll.number}, {scales.words('cut', roll.roll_width_mm)} wide: "
        f"{scales.words('roll_run', roll.run_m)} off the roll, {100 * roll.waste_share:.0f} % waste"
    )


def roll_svg(roll: CutRoll, scales: Scales = METRIC) -> str:
    """A roll with its pieces as an SVG document in millimetres. Every piece of text is escaped."""
    run, width = roll.run_m * 1000, roll.roll_width_mm
    margin = 60
    body = [
        f'<rect x="0" y="0" width="{run:.0f}" height="{width:.0f}" fill="#DFE5E1" stroke="{_INK}" stroke-width="4"/>'
    ]
    for box in boxes(roll, scales):
        middle = box.across_mm + box.width_mm / 2
        body.append(
            f'<g><rect x="{box.along_mm:.0f}" y="{box.across_mm:.0f}" width="{box.length_mm:.0f}" '
            f'height="{box.width_mm:.0f}" fill="{_PIECE}" stroke="{_INK}" stroke-width="3"/>'
            f'<text x="{box.along_mm + box.length_mm / 2:.0f}" y="{middle + box.text_mm * 0.1:.0f}" '
            f'text-anchor="middle" font-size="{box.text_mm:.0f}" font-weight="700" fill="{_INK}">{escape(box.number)}</text>'
            f'<text x="{box.along_mm + box.length_mm / 2:.0f}" y="{middle + box.text_mm * 0.75:.0f}" '
            f'text-anchor="middle" font-size="{box.text_mm * 0.5:.0f}" fill="{_SOFT}">{escape(box.size)}</text></g>'
        )
    title = escape(roll_words(roll, scales))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{(run + 2 * margin) / 10:.0f}mm" '
        f'height="{(width + 2 * margin + 60) / 10:.0f}mm" viewBox="{-margin} {-margin - 60} {run + 2 * margin:.0f} '
        f'{width + 2 * margin + 60:.0f}" font-family="sans-serif"><title>{title}</title>'
        f'<text x="0" y="-40" font-size="56" fill="{_INK}">{title}</text>{"".join(body)}</svg>'
    )
