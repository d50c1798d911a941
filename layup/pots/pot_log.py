"""What a pot did against what was promised: the ratio really made, the gel really seen."""

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class PotHistory:
    """One pot's story. Minutes count from the pour; errors are percent, None where nothing was written down."""

    used_in_min: float | None
    gelled_in_min: float | None
    gel_error_pct: float | None
    made_b_per_a: float | None
    ratio_error_pct: float | None


def minutes_between(start: datetime | None, end: datetime | None) -> float | None:
    """Minutes from one moment to another, or None where either is not known.

    >>> minutes_between(datetime(2026, 5, 1, 9, 0), datetime(2026, 5, 1, 9, 24))
    24.0
    """
    return (end - start).total_seconds() / 60 if start and end else None


def pot_history(
    poured: datetime | None,
    used_by: datetime | None,
    gelled_at: datetime | None,
    predicted_life_min: float,
    part_a_g: float | None,
    part_b_g: float | None,
    wanted_b_per_a: float | None,
) -> PotHistory:
    """Compare a pot's times and masses with its plan. A gel later than predicted is a positive error. Exact.

    >>> nine = datetime(2026, 5, 1, 9, 0)
    >>> story = pot_history(nine, None, datetime(2026, 5, 1, 9, 30), 24, 290, 131, 0.45)
    >>> story.gelled_in_min, round(story.gel_error_pct), round(story.ratio_error_pct, 2)
    (30.0, 25, 0.38)
    """
    gelled_in = minutes_between(poured, gelled_at)
    made = part_b_g / part_a_g if part_a_g and part_b_g is not None else None
    return PotHistory(
        used_in_min=minutes_between(poured, used_by),
        gelled_in_min=gelled_in,
        gel_error_pct=100 * (gelled_in / predicted_life_min - 1) if gelled_in is not None else None,
        made_b_per_a=made,
        ratio_error_pct=100 * (made / wanted_b_per_a - 1) if made is not None and wanted_b_per_a else None,
    )
