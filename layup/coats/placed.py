"""A coat where it lies: between which plies of which part, of what product."""

from dataclasses import dataclass

from layup.coats.film import CoatFilm
from layup.job import Coat
from layup.laminate.outcome import PlyResult
from layup.materials import ResinSystem


@dataclass(frozen=True)
class PlacedCoat:
    """A coat that could be worked out, where it lies; `on_top` where nothing is laid over it."""

    path: str
    part_id: str
    part_name: str
    copies: int
    coat: Coat
    ply: PlyResult
    film: CoatFilm
    use_id: str
    product: ResinSystem | None
    on_top: bool
