"""How hot paste or resin becomes that stands thick in one place: a gap, a bed, a hole, poured or filled all at once."""

from dataclasses import replace
from functools import lru_cache

from layup.errors import LayupError
from layup.heat.conduction import Layer, casting, simulate
from layup.heat.cure_kinetics import SPECIFIC_HEAT_J_PER_G_K, Cure
from layup.heat.wet_limit import beneath, cure_of
from layup.job import Joint
from layup.joints.plan import PlannedJoint
from layup.joints.volumes import GLUE_LINE_MM
from layup.pots.mix import Mix

# What is thinner stays about as cool as its room, and is not worked out (memory).
ALWAYS_COOL_MM = 3.0
FOLLOWED_TO_C = 160.0


def deepest_mm(joint: Joint) -> float:
    """How deep the paste of a joint stands, as a tin means it: from its open face down. Nought for a fillet.

    >>> deepest_mm(Joint(id="j", kind="gap", width_mm=160, depth_mm=60))
    60.0
    """
    if joint.kind in ("gap", "bedding", "holes"):
        return float(joint.depth_mm or 0)
    return float(joint.glue_mm or GLUE_LINE_MM) if joint.kind in ("glue line", "scarf") else 0.0


def peak_of_joint_c(planned: PlannedJoint, mix: Mix, room_c: float) -> float | None:
    """The centre's peak of a joint's paste filled at once, °C; None where it is thin or the model has nothing to say.

    It is a slab of the lesser of its two measures, with the ground on both sides of it where that is its width, and under
    it where it is its depth. Source: the heat model, unproven; filler takes heat and gives none.
    """
    joint = planned.joint
    across = {"gap": joint.width_mm, "holes": joint.diameter_mm}.get(joint.kind) or deepest_mm(joint)
    thick = min(across, deepest_mm(joint))
    paste = planned.paste
    cure = cure_of(mix, room_c) if thick > ALWAYS_COOL_MM and paste else None
    if cure is None or paste is None:
        return None
    share = paste.resin_g / (paste.resin_g + paste.filler_g)
    density = (paste.resin_g + paste.filler_g) / paste.volume_ml
    between = across < deepest_mm(joint)
    return _peak_c(cure, round(thick, 1), round(share, 2), round(density, 2), beneath(joint.substrate), between, room_c)


@lru_cache(maxsize=512)
def _peak_c(
    cure: Cure, thick_mm: float, resin_share: float, density: float, ground: Layer, between: bool, room_c: float
) -> float | None:
    body = casting(thick_mm / 1000, ground, density)
    paste = replace(body.layers[-1], reacts=resin_share, specific_heat_j_per_g_k=_specific_heat(resin_share))
    walls = (replace(ground, reacts=0.0),) if between else ()
    body = replace(body, layers=(*body.layers[:-1], paste, *walls))
    try:
        return simulate(body, cure, room_c, until="peak", hottest_c=FOLLOWED_TO_C).peak_c
    except LayupError:
        return None


def _specific_heat(resin_share: float) -> float:
    """J/gK of resin and what is stirred into it; a mineral 0.8 (memory)."""
    return resin_share * SPECIFIC_HEAT_J_PER_G_K + (1 - resin_share) * 0.8
