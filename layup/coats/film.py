"""A coat's film, wet and dry, and its coverage: one from another."""

from dataclasses import dataclass
from math import ceil
from statistics import fmean

from layup.errors import OutOfRange
from layup.job import Coat, CoatTool
from layup.materials import ResinSystem

# What stays on a tool or goes past the work, over what lies on it (memory).
LOSS_SHARE: dict[CoatTool, float] = {"brush": 0.05, "roller": 0.10, "squeegee": 0.03, "gun": 0.30, "poured": 0.02}
# Film and coverage that are both typed agree within so much (memory).
_AGREE_WITHIN = 0.10
MOST_COATS = 30
# Loose silica for one of mixed resin, by volume (common practice).
SLURRY_PARTS = 1.0


def spreading_rate_m2_per_l(solids_pct: float, dry_um: float) -> float:
    """How far a litre goes: 10 × solids % ÷ dry film, m²/l.

    Source: published, the theoretical spreading rate as paint sheets and ISO 12944 have it.

    >>> round(spreading_rate_m2_per_l(50, 40), 1)
    12.5
    """
    return 10 * solids_pct / dry_um


def wet_for_dry_um(dry_um: float, solids_pct: float) -> float:
    """The wet film that dries to a film, µm. Exact, by volume.

    >>> wet_for_dry_um(300, 100), wet_for_dry_um(40, 50)
    (300.0, 80.0)
    """
    return dry_um / (solids_pct / 100)


def gsm_of_film(wet_um: float, g_per_ml: float) -> float:
    """What a wet film weighs, g/m²: a micrometre over a square metre is a millilitre. Exact.

    >>> gsm_of_film(500, 1.2)
    600.0
    """
    return wet_um * g_per_ml


def liquid_g_per_ml(product: ResinSystem | None) -> float:
    """The density of a product as it is spread: its parts' in their ratio, or what it cures to where they are not known.

    >>> from layup.library import generic
    >>> round(liquid_g_per_ml(generic().resins[0]), 2)
    1.11
    """
    if product is None:
        return 1.15
    a, b = product.density_g_per_cm3, product.hardeners[0].density_g_per_cm3 if product.hardeners else None
    if a is None or not product.hardeners:
        return a or product.cured_density_g_per_cm3
    if product.ratio_volume_b_per_a and b:
        return (a + product.ratio_volume_b_per_a * b) / (1 + product.ratio_volume_b_per_a)
    if product.ratio_weight_b_per_a and b:
        return (1 + product.ratio_weight_b_per_a) / (1 / a + product.ratio_weight_b_per_a / b)
    return product.cured_density_g_per_cm3


@dataclass(frozen=True)
class CoatFilm:
    """What a coat comes to: so many alike, each so thick wet, µm, and g/m² on the work; together so thick dry; how far a
    litre goes, m²/l; the share that stays on the tool or goes past the work."""

    count: int
    each_wet_um: float
    each_gsm: float
    dry_um: float
    spreads_m2_per_l: float
    loss_share: float

    @property
    def gsm(self) -> float:
        """All of them on the work, g/m²."""
        return self.count * self.each_gsm


def film_of(coat: Coat, g_per_ml: float) -> CoatFilm:
    """A coat's film by what is typed of it: its wet film, its dry film, how far a litre goes, else its weight.

    With a dry film and a wet one it takes as many coats as make the dry one. What a gauge read of the wet film corrects the
    weight of each. Raises OutOfRange, at its own field, where film and coverage disagree.

    >>> film = film_of(Coat(kind="barrier", resin_gsm=100, dry_um=300, wet_um=130), 1.1)
    >>> film.count, round(film.each_gsm)
    (3, 143)
    """
    solids, count = coat.solids_pct / 100, coat.count
    by_coverage = 1000 / coat.covers_m2_per_l if coat.covers_m2_per_l else None
    if coat.dry_um and coat.wet_um:
        count = ceil(round(coat.dry_um / (coat.wet_um * solids), 6))
        if count > MOST_COATS:
            raise OutOfRange(
                f"it would take {count} coats: type a thicker wet film, or a thinner dry one", "coat.wet_um"
            )
    wet = coat.wet_um or (wet_for_dry_um(coat.dry_um, coat.solids_pct) / count if coat.dry_um else None)
    if wet and by_coverage and abs(by_coverage / wet - 1) > _AGREE_WITHIN:
        raise OutOfRange(
            f"by this it lies {100 * by_coverage / wet:.0f} % as thick as by the wet film: leave one of them out",
            "coat.covers_m2_per_l",
        )
    each_um = wet or by_coverage or coat.resin_gsm / g_per_ml
    laid_um = each_um * (fmean(coat.gauge_um) / each_um if coat.gauge_um else 1.0)
    return CoatFilm(
        count=count,
        each_wet_um=laid_um,
        each_gsm=gsm_of_film(laid_um, g_per_ml),
        dry_um=count * laid_um * solids,
        spreads_m2_per_l=1000 / laid_um,
        loss_share=LOSS_SHARE[coat.tool] if coat.tool else 0.0,
    )


def film_to_go_by(coat: Coat, g_per_ml: float) -> CoatFilm:
    """The film of a coat; by its wet film, or its weight, alone where what is typed besides cannot be.

    >>> film_to_go_by(Coat(kind="fill", resin_gsm=100, wet_um=200, covers_m2_per_l=8), 1.1).each_wet_um
    200.0
    """
    try:
        return film_of(coat, g_per_ml)
    except OutOfRange:
        return film_of(coat.model_copy(update={"covers_m2_per_l": None, "dry_um": None}), g_per_ml)
