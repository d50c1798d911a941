"""Infusions: dry places, little time left, resin at the vent too soon, air shut in, mesh to the edge, spread tow face down."""

from collections.abc import Iterator

from layup.architecture import Architecture
from layup.cautions.rule import Facts, Finding, Rule
from layup.infusion.geometry import last_places, near_a_vent
from layup.infusion.plan import PlannedInfusion
from layup.infusion.told import ENOUGH_MARGIN

_AHEAD = 0.75  # resin at a vent before this share of the fill has gone ahead of the rest (memory)
_WARM = 0.25  # of its life in one bucket (memory)
_A_POT_G = 1000.0
_HOSE_SHARE = 0.25  # of the fill: what the hose takes is not in it (memory)


def _infusions(facts: Facts) -> tuple[PlannedInfusion, ...]:
    return tuple(facts.found.get("infusions", {}).values())


def _named(each: PlannedInfusion) -> str:
    return each.part.name or "This part"


def _stays_dry(facts: Facts) -> Iterator[Finding]:
    for each in _infusions(facts):
        if each.s_gel(each.mix.room_c) < each.full_s:
            dry = 100 * (each.filled.at_s + each.bed.lag_s > each.s_gel(each.mix.room_c)).mean()
            words = f"{dry:.0f} % of it stays dry" if dry >= 1 else "its last corner stays dry"
            yield Finding(
                f"{each.path}.lines",
                f"{_named(each)}: the resin sets after {each.sets_min(each.mix.room_c):.0f} min, and {words}",
            )


def _little_time(facts: Facts) -> Iterator[Finding]:
    for each in _infusions(facts):
        margin = each.margin(each.mix.room_c)
        if 1 <= margin < ENOUGH_MARGIN:
            full = float(each.minutes_at(each.full_s, each.mix.room_c))
            yield Finding(
                f"{each.path}.lines",
                f"{_named(each)} is full after {full:.0f} min, and its resin sets after "
                f"{each.sets_min(each.mix.room_c):.0f} min",
            )


def _ahead(facts: Facts) -> Iterator[Finding]:
    for each in _infusions(facts):
        room = each.mix.room_c
        first, full = (float(each.minutes_at(s, room)) for s in (min(each.filled.vent_s), each.full_s))
        if first < _AHEAD * full:
            late = f"full after {full:.0f} min" if full < 1e6 else "never full"
            yield Finding(
                f"{each.path}.lines",
                f"{_named(each)}: resin comes to a vent after {first:.0f} min, and the part is {late}",
            )


def _shut_in(facts: Facts) -> Iterator[Finding]:
    for each in _infusions(facts):
        near = 2 * max(each.filled.width_m, each.filled.height_m)
        places = [place for place in last_places(each.filled) if not near_a_vent(*place[:2], each.vents, near)]
        if places:
            many = f"{len(places)} places fill" if len(places) > 1 else "one place fills"
            yield Finding(f"{each.path}.lines", f"{_named(each)}: {many} after all round, away from any vent")


def _bucket_heats(facts: Facts) -> Iterator[Finding]:
    for each in _infusions(facts):
        life = each.mix.life_min(each.standing_g, each.mix.room_c)
        if each.standing_g > _A_POT_G and each.begun_min > _WARM * life:
            yield Finding(
                f"{each.path}.lines",
                f"{_named(each)}: {facts.scales.mass(each.standing_g)} stands mixed for up to {each.begun_min:.0f} min "
                f"before the valve is opened; in one bucket so much lives {life:.0f} min",
            )


def _hose_chokes(facts: Facts) -> Iterator[Finding]:
    for each in _infusions(facts):
        full = float(each.minutes_at(each.full_s, each.mix.room_c))
        if each.hose_min > _HOSE_SHARE * full:
            yield Finding(
                f"{each.path}.hose_m",
                f"{_named(each)}: its hose alone takes {each.hose_min:.1f} min for so much resin, and the part is told full "
                f"after {full:.0f} min",
            )


def _mesh_to_the_edge(facts: Facts) -> Iterator[Finding]:
    for each in _infusions(facts):
        if each.bed.meshed and each.part.infusion.mesh_short_mm < 30:
            short = facts.scales.words("cut", each.part.infusion.mesh_short_mm)
            yield Finding(f"{each.path}.mesh_short_mm", f"{_named(each)}: the mesh ends {short} from the vent")


def _clear_face(facts: Facts) -> Iterator[Finding]:
    for each in _infusions(facts):
        first = next((ply for ply in each.told.plies if ply.stays and ply.coat is None), None)
        if first and first.architecture is Architecture.SPREAD_TOW:
            yield Finding(f"{each.path}.mesh", f"{_named(each)}: spread tow lies first, clear face down")


RULES = (
    Rule(
        id="infusion.stays_dry",
        severity="stop",
        step="bag",
        reason="Resin that thickens stops where it is: what it has not reached is dry fibre under a closed bag.",
        do="A feed nearer to what stays dry, a second feed, mesh, a thinner or slower resin, a room that suits: drag the feed on "
        "the drawing, and move the room's temperature there.",
        source="Darcy's law on the plan, permeability from memory until a shot of yours has corrected it",
        find=_stays_dry,
    ),
    Rule(
        id="infusion.little_time",
        severity="care",
        step="bag",
        reason="Permeability is known to a third at best; a fill so near the gel is a throw of dice.",
        do="Aim for resin that would come half as far again: see which room gives that, or lay the feed so that the way is "
        "shorter.",
        source="memory: half as far again",
        find=_little_time,
    ),
    Rule(
        id="infusion.ahead",
        severity="note",
        step="bag",
        reason="What has come to the vent first goes on to the trap, and the rest fills against less pull.",
        do="Throttle that vent when resin comes, leave the feed open, and count what runs into the trap as mixed.",
        source="Darcy's law on the plan",
        find=_ahead,
    ),
    Rule(
        id="infusion.shut_in",
        severity="care",
        step="bag",
        reason="Air that resin closes in from all sides has no way out, and stays as a dry spot.",
        do="A vent on that place, or a feed that lets the front come from one side.",
        source="the order in which the plan fills",
        find=_shut_in,
    ),
    Rule(
        id="infusion.bucket_heats",
        severity="care",
        step="bag",
        reason="The bucket is the largest mass on the site: what stands in it together heats itself up, and sets there while "
        "the part still draws.",
        do="Keep the first pots apart, flat and cool, and pour each in as the last is drawn; or throttle the feed until the "
        "next is mixed.",
        source="the pot's heat model; a quarter of its life, memory",
        find=_bucket_heats,
    ),
    Rule(
        id="infusion.hose_chokes",
        severity="note",
        step="bag",
        reason="The plan has all of the vacuum at the feed; what is lost on the way there makes it slower.",
        do="A wider or a shorter hose, or two; count on more minutes, and let the first mark on the film say how many.",
        source="published (Hagen and Poiseuille); a quarter of the fill, memory",
        find=_hose_chokes,
    ),
    Rule(
        id="infusion.mesh_to_the_edge",
        severity="care",
        step="bag",
        reason="Mesh that reaches the vent carries resin past the fibre and into the trap: nothing brakes it.",
        do="End the mesh {30 to 60 mm} short of the vent, with peel ply alone over the rest.",
        source="memory",
        find=_mesh_to_the_edge,
    ),
    Rule(
        id="infusion.clear_face",
        severity="note",
        step="bag",
        reason="Spread tow lets little resin through, and lies on the mould: its clear face fills last and shows every bubble.",
        do="A light veil or cloth against the mould, or a feed at that face; pull it down slowly.",
        source="common practice",
        find=_clear_face,
    ),
)
