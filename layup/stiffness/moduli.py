"""How stiff a layer is along a strip, GPa, and how well that is known. ψ is fibre by weight, Vf by volume."""

from dataclasses import dataclass
from math import cos, radians

from layup.architecture import Architecture as A
from layup.as_found import MadeOfOld
from layup.laminate.outcome import PlyResult

RULES = "published (the form of class-society rules), from memory"
MIXTURES = "published (rule of mixtures with Krenchel's efficiency); moduli of fibre and resin memory"
MEMORY = "memory"

FIBRE_GPA = {"E-glass": 72.0, "carbon": 230.0, "aramid": 120.0, "basalt": 85.0, "flax": 50.0}  # memory
RESIN_GPA = 3.3  # memory
# In the plane of a core, GPa (memory): its own number wins.
_CORE_GPA = {"foam": 0.08, "balsa": 0.1}
_RANDOM = 3 / 8  # published (Krenchel): random in plane
_MATS = (A.CHOPPED_MAT, A.CONTINUOUS_MAT, A.VEIL, A.CHOPPED_TOW)
_BALANCED = (A.WOVEN_CLOTH, A.WOVEN_ROVING, A.BIAXIAL, A.SPREAD_TOW, A.TAPE)
# The share of the weight of a cloth of both that is mat (memory).
_HALF = 0.5


@dataclass(frozen=True)
class Modulus:
    """Along the strip, GPa, and where it comes from; `strays` is the deviation of its ln (memory)."""

    gpa: float
    source: str
    strays: float


# Of what lies there, whose share of fibre nobody knows: by its usual one (memory).
OLD: dict[MadeOfOld, Modulus] = {
    "plywood": Modulus(8.0, MEMORY, 0.20),
    "timber": Modulus(10.0, MEMORY, 0.25),
    "foam": Modulus(_CORE_GPA["foam"], MEMORY, 0.40),
    "end-grain balsa": Modulus(_CORE_GPA["balsa"], MEMORY, 0.40),
    "mat laminate": Modulus(15 * 0.30 + 2, RULES, 0.15),
    "woven laminate": Modulus(30 * 0.48 - 0.5, RULES, 0.15),
    "mat and woven laminate": Modulus((15 * 0.38 + 2 + 30 * 0.38 - 0.5) / 2, RULES, 0.15),
    "carbon laminate": Modulus(0.5 * 0.45 * 230 + 0.55 * RESIN_GPA, MIXTURES, 0.15),
}
_LAID_STRAYS = 0.12
_CORE_STRAYS = 0.30


def mat_gpa(fibre_share: float) -> float:
    """Chopped mat in glass, GPa, by its fibre weight fraction: 15 ψ + 2. Source: class-society rules, from memory.

    >>> mat_gpa(0.30)
    6.5
    """
    return 15 * fibre_share + 2


def woven_gpa(fibre_share: float) -> float:
    """Woven roving and stitched glass along its threads, 0/90, GPa: 30 ψ − 0.5. Source: class-society rules, from memory.

    >>> woven_gpa(0.50)
    14.5
    """
    return 30 * fibre_share - 0.5


def krenchel(angles_deg: tuple[float, ...]) -> float:
    """The efficiency of fibres that lie at angles to the strip, in equal shares: the mean of cos⁴.

    Source: published (Krenchel, fibre reinforcement).

    >>> round(krenchel((0, 90)), 3), round(krenchel((45, -45)), 3), round(krenchel((0,)), 3)
    (0.5, 0.25, 1.0)
    """
    return sum(cos(radians(angle)) ** 4 for angle in angles_deg) / len(angles_deg)


def mixed_gpa(efficiency: float, fibre_volume: float, fibre_gpa: float) -> float:
    """The rule of mixtures, GPa: η Vf Ef + (1 − Vf) Em.

    Source: published (rule of mixtures); the resin's modulus memory.

    >>> round(mixed_gpa(0.5, 0.48, 230), 1)
    56.9
    """
    return efficiency * fibre_volume * fibre_gpa + (1 - fibre_volume) * RESIN_GPA


def angles_of(ply: PlyResult) -> tuple[float, ...]:
    """How the fibres of a ply lie to the strip, degrees: as it says, or along it and, where it is woven or stitched, across."""
    said = tuple(float(each) for each in ply.angle.split("/")) if ply.angle else ()
    if len(said) > 1:
        return said
    along = said[0] if said else 0.0
    if ply.architecture is A.TRIAXIAL:
        return (along, along + 45, along - 45)
    return (along, along + 90) if ply.architecture in _BALANCED else (along,)


def modulus_of(ply: PlyResult) -> Modulus | None:
    """Of a ply that is laid; None of what does not stay or adds nothing."""
    if ply.architecture == "coat":
        return Modulus(RESIN_GPA, MEMORY, _LAID_STRAYS)
    if ply.architecture is A.CORE:
        return Modulus(_CORE_GPA["balsa" if ply.fibre == "balsa" else "foam"], MEMORY, _CORE_STRAYS)
    share, volume = ply.fibre_weight_fraction, ply.fibre_volume_fraction
    fibre_gpa = FIBRE_GPA.get(ply.fibre)
    if share is None or volume is None or fibre_gpa is None:
        return None
    if ply.architecture in _MATS:
        glass = ply.fibre == "E-glass"
        gpa = mat_gpa(share) if glass else mixed_gpa(_RANDOM, volume, fibre_gpa)
        return Modulus(gpa, RULES if glass else MIXTURES, _LAID_STRAYS)
    angles = angles_of(ply)
    across = all(angle % 90 == 0 for angle in angles) and len(angles) > 1
    if ply.fibre == "E-glass" and ply.architecture is A.COMBINATION:
        return Modulus(_HALF * mat_gpa(share) + (1 - _HALF) * woven_gpa(share), RULES, _LAID_STRAYS)
    if ply.fibre == "E-glass" and ply.architecture in _BALANCED and across:
        return Modulus(woven_gpa(share), RULES, _LAID_STRAYS)
    return Modulus(mixed_gpa(krenchel(angles), volume, fibre_gpa), MIXTURES, _LAID_STRAYS)
