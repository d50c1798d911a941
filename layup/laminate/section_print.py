"""The laminate on paper: each part cut through, and its plies in a table."""

from collections.abc import Sequence

from reportlab.platypus import Flowable

from layup.laminate.outcome import PartResult, PlyResult
from layup.laminate.section_picture import section_drawn
from layup.paper.kit import Masthead, drawn, gap, grid, heading, printed, title, words
from layup.scales import Scales


def laminate_pdf(head: Masthead, parts: Sequence[PartResult]) -> bytes:
    """Each part's section to scale in thickness, its plies from the surface up, what it weighs.

    >>> from datetime import date
    >>> laminate_pdf(Masthead("Deck", 1, date(2026, 5, 4)), ())[:5]
    b'%PDF-'
    """
    story = [title(f"{head.job_name}: laminate")]
    for part in parts:
        story += _part(head, part)
    return printed(head, "laminate", story)


def _part(head: Masthead, part: PartResult) -> list[Flowable]:
    scales, copies = head.scales, f", {part.count} alike" if part.count > 1 else ""
    name = (part.name or "Part") + copies
    if not part.plies:
        return [heading(name), words("It has no ply yet.")]
    figures = (
        f"{scales.words('area', part.area_m2)} on {part.substrate}, {scales.words('thickness', part.thickness_mm)} thick, "
        f"fibre {scales.words('mass', part.fibre_g)}, resin in the plies {scales.words('mass', part.resin_in_plies_g)}"
        + (f", wet-out {scales.words('mass', part.wet_out_g)}" if part.wet_out_g else "")
    )
    heads = ("no.", "ply", "fibre", "resin", "fibre share", "thickness", "")
    rows = [_row(number, ply, scales) for number, ply in enumerate(part.plies, 1)]
    return [
        heading(name),
        words(figures, after=6, kept=True),
        drawn(section_drawn(part, scales), head),
        gap(6),
        grid(heads, rows, (26, 150, 70, 70, 62, 62, head.room[0] - 440), ticks=False),
        gap(12),
    ]


def _row(number: int, ply: PlyResult, scales: Scales) -> tuple[str, ...]:
    share = ply.fibre_weight_fraction
    layers = ply.layers_least, ply.layers_most
    laid = "taken off again" if not ply.stays else "" if layers == (1, 1) else f"{layers[0]} to {layers[1]} layers"
    return (
        str(number),
        ply.name + (f" ±{ply.angle}" if ply.angle else ""),
        scales.words("areal_weight", ply.fibre_gsm) if share is not None else "",
        scales.words("areal_weight", ply.resin_gsm),
        "" if share is None else f"{100 * share:.0f} %",
        scales.words("thickness", ply.thickness_mm),
        laid,
    )
