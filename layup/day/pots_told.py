"""What is told of the pots of a schedule: each kind with its clock, its risk and its ticket, and the work that no pot fits."""

from collections.abc import Callable, Hashable, Sequence
from itertools import groupby

from layup.day.schedule import PlannedPot
from layup.materials import ResinFamily
from layup.pots.mix import Mix
from layup.pots.outcome import Lever, PotResult, PourResult, StuckResult, ThickenedResult, TicketResult
from layup.pots.sizing import TRAY_M2, Stuck
from layup.pots.work import StirsIn, Work
from layup.pots.works_said import works_said
from layup.scales import Scales
from layup.shop_facts import ShopFacts
from layup.vessels import VESSELS

_POURS = "Pour it in at once, a thin stream in one place; the other pots of this lift right after it"
_DRAWN = "Into the feed bucket before the last is gone, the hose end under it: it must never draw air"
_LAYS = "Out of the cup and onto the work at once"
_PROTECTION_EPOXY = ("gloves and sleeves", "goggles while hardener is poured", "air moving")
_PROTECTION_STYRENE = (
    "goggles before the bottle is opened",
    "vapour respirator",
    "gloves, sleeves and an apron",
    "no sparks or flame",
)
_PROTECTION_MOISTURE = ("gloves and sleeves", "goggles", "air moving; never sprayed without a mask fed with air")
_PROTECTION: dict[ResinFamily, tuple[str, ...]] = {
    "epoxy": _PROTECTION_EPOXY,
    "polyester": _PROTECTION_STYRENE,
    "vinyl ester": _PROTECTION_STYRENE,
    "polyurethane": _PROTECTION_MOISTURE,
}


def pot_results(
    pots: Sequence[PlannedPot], stirred: Callable[[PlannedPot], ThickenedResult | None]
) -> tuple[tuple[PotResult, ...], list[str]]:
    """Each kind of pot with its clock, its risk and its ticket, in the order of the work; and the kind's id of each pot.

    Alike pots that follow each other are one kind.
    """
    results: list[PotResult] = []
    about: list[str] = []
    set_by: dict[str, str] = {}
    for _, run in groupby(pots, key=_kind_of):
        alike = list(run)
        told = _pot_result(alike[0], len(alike), stirred(alike[0]))
        changes = set_by.get(told.use_id, told.hardener) != told.hardener
        results.append(told.model_copy(update={"hardener_changes": changes}) if changes else told)
        set_by[told.use_id] = told.hardener
        about += [results[-1].id] * len(alike)
    return tuple(results), about


def _kind_of(pot: PlannedPot) -> tuple[Hashable, ...]:
    return pot.owner.id, pot.bay, pot.works, pot.mass_g, round(pot.laid_g, 6), pot.mix.room_c, pot.limited_by


def _pot_result(pot: PlannedPot, count: int, thickened: ThickenedResult | None) -> PotResult:
    mix, mass, rate = pot.mix, pot.mass_g, pot.spread_g_per_min
    life, owner_id = mix.life, pot.owner.id
    share = life.working_share(mass, rate)
    life_min, use_by_min = life.minutes_at(1.0, mass), life.minutes_at(share, mass)
    return PotResult(
        id=f"{owner_id}-{pot.number}",
        first=pot.number,
        count=count,
        mass_g=mass,
        owner_id=owner_id,
        owner_name=pot.owner.name,
        labels=works_said(pot.works),
        bay=pot.bay_words,
        hardener=mix.hardener.name if mix.hardener else "",
        shared_by=pot.shared_by,
        limited_by=pot.limited_by,
        life_min=life_min,
        working_share=share,
        use_by_min=use_by_min,
        spread_min=mass / rate,
        chance_lost=life.chance_lost(mass, rate),
        surplus_g=pot.surplus_g,
        ticket=_ticket(mix, mass, life_min, use_by_min, thickened, pot.works[0]),
        laid_g=pot.laid_g,
        sigma=life.sigma(mass, rate),
        room_c=mix.room_c,
        catalyst_pct=mix.dose.catalyst_pct if mix.dose else None,
        workable_share=life.workable(mass),
        use_id=mix.use.id,
        resin_name=mix.resin.name,
    )


def _ticket(
    mix: Mix,
    mass_g: float,
    life_min: float,
    use_by_min: float,
    thickened: ThickenedResult | None,
    work: Work,
) -> TicketResult:
    amounts = mix.amounts(mass_g)
    return TicketResult(
        by="weight" if amounts.total_g is not None else "volume",
        cup_g=mix.cup_g,
        cup_reads=mix.shop.scale.nearest(mix.cup_g),
        scale_unit=mix.shop.scale.unit,
        pours=tuple(PourResult(**vars(pour)) for pour in amounts.pours),
        total_g=amounts.total_g,
        ratio_error_pct=amounts.ratio_error_pct,
        scale_step_g=mix.shop.scale_step_g,
        mixing=_mixing_words(mix),
        filler=_filler_words(thickened, mix.shop.scales) or _stirred_words(work.stirs_in, mass_g, mix.shop.scales),
        contact_min=mix.contact_min,
        use_by_min=use_by_min,
        life_min=life_min,
        protection=_PROTECTION[mix.resin.family],
        set_out=_set_out(mix, thickened),
        lays=_DRAWN if work.handling.drawn else _POURS if work.handling.poured else _lays_words(mix),
        thickened=thickened,
        scale_checked=_checked(mix.shop) if any(pour.tool == "scale" for pour in amounts.pours) else "",
        b_first=amounts.b_first,
        left_in_cup_min=mix.left_in_cup_min(mass_g),
        order_matters=bool(mix.hardener) and not mix.by_weight and _one_marked_cup(mix),
    )


def _checked(shop: ShopFacts) -> str:
    """What the scale showed of a known weight, when it was last checked."""
    if shop.scale_checked is None:
        return ""
    checked, scales = shop.scale_checked, shop.scales
    off_g = checked.shown_g - checked.known_g
    said = f"{scales.mass(abs(off_g))} too {'much' if off_g > 0 else 'little'}" if off_g else "right"
    return f"the scale was checked on {scales.customs.day(checked.on)}: {said} at {scales.mass(checked.known_g)}"


def _lays_words(mix: Mix) -> str:
    if mix.way:
        return "Run it at once"
    return "Into the tray at once, where it keeps cool, and onto the work from there" if mix.in_tray else _LAYS


def _filler_words(thickened: ThickenedResult | None, scales: Scales) -> str:
    """The filler in one line, for paper."""
    if thickened is None:
        return ""
    rows = [
        f"{row.name.lower()}, {scales.words('volume', row.loose_ml)} loose ({scales.mass(row.grams)})"
        for row in thickened.fillers
    ]
    aside = f"Set {scales.mass(thickened.aside_g)} aside plain, for the brush. " if thickened.aside_g else ""
    return f"{aside}Then {', '.join(rows)}, until it {thickened.consistency}"


def _stirred_words(stirs_in: StirsIn | None, mass_g: float, scales: Scales) -> str:
    """What is weighed to a pot and stirred in, in one line."""
    if stirs_in is None:
        return ""
    grams = stirs_in.on_resin * mass_g
    loose = scales.words("volume", 1000 * grams / stirs_in.loose_g_per_l)
    return f"Once it is mixed, stir in {scales.mass(grams)} of {stirs_in.name.lower()} ({loose} loose), slowly, until none is dry"


def _one_marked_cup(mix: Mix) -> bool:
    return mix.shop.volume_tool != "pumps" and mix.job.practice.vessels == "into one cup"


def _set_out(mix: Mix, thickened: ThickenedResult | None) -> tuple[str, ...]:
    """The vessels a pot needs before it is begun, by how it is mixed and measured."""
    two = bool(mix.dose) or (mix.job.practice.mixing == "two pots" and mix.resin.two_part)
    holds = mix.shop.scales.words("volume", mix.shop.cup_ml)
    cups = f"{'two' if two else 'one'} {mix.shop.cup_made_of} mixing cup{'s' if two else ''} of {holds}"
    own: tuple[str, ...] = ()
    if mix.resin.two_part and mix.job.practice.vessels == "each in its own":
        own = ("two cups to measure in, one for A and one for B",)
    tool = {"syringe": ("a syringe",), "drops": ("the counted dropper",), "scale": ()}[mix.shop.dose_tool]
    dose = tool if mix.dose else ()
    tray: tuple[str, ...] = ()
    if mix.in_tray:
        cooled = VESSELS[mix.job.pots.vessel].on_a_pack
        pack = mix.shop.scales.said(", on a dry cool pack of {15 to 18 °C}, no ice") if cooled else ""
        tray = (f"a tray of {mix.shop.scales.words('area', TRAY_M2)}{pack}",)
    run: tuple[str, ...] = ()
    if thickened:
        run = ("a bag to run it from",) if thickened.applied == "from a bag" else ("a board and a round-nosed stick",)
        brush = ("a small cup and a brush for the plain resin",) if thickened.aside_g else ()
        run = (*run, *brush, "a particle mask")
    return cups, *own, *dose, *tray, "two clean stirrers", *run


def _mixing_words(mix: Mix) -> tuple[str, ...]:
    if mix.resin.one_part:
        return ("Stir it up in its tin, slowly, from the bottom", "Pour what is needed, and shut the tin at once")
    if not mix.resin.two_part:
        return ("Stir briskly until the colour is even, a minute for a litre", "Pour into a second cup, a minute more")
    scrape = "Stir slowly for two minutes, paddle under; scrape wall and bottom"
    if mix.job.practice.stirring == "faster after a minute":
        scrape = "Stir slowly for a minute, then faster for a minute, paddle under; scrape wall and bottom"
    if mix.job.practice.mixing == "two pots":
        return scrape, "Pour into a clean cup and stir a minute more, so nothing unmixed reaches the job"
    return scrape, "Leave what clings to the wall: it may not be mixed"


def stuck_results(stuck: Sequence[tuple[str, Stuck, Mix]]) -> tuple[StuckResult, ...]:
    """Works that no pot fits, with what would free them and by how much; what is alike is told once, with how many."""
    alike: dict[tuple[Hashable, ...], list[StuckResult]] = {}
    for owner_name, works, mix in stuck:
        told = _stuck_result(owner_name, works, mix)
        alike.setdefault((told.labels, told.why, told.levers), []).append(told)
    return tuple(each[0].model_copy(update={"alike": len(each)}) for each in alike.values())


def _stuck_result(owner_name: str, stuck: Stuck, mix: Mix) -> StuckResult:
    """Work that no pot fits, with what would free it and by how much."""
    return StuckResult(
        owner_id=stuck.works[0].owner_id,
        owner_name=owner_name,
        labels=works_said(stuck.works),
        why=f"no pot can be measured and spread in time: limited by {stuck.size.limited_by}; "
        f"the least the tool measures is {mix.shop.scales.mass(stuck.size.floor_g)}",
        floor_g=stuck.size.floor_g,
        levers=tuple(Lever(name=name, mass_g=mass) for name, mass in mix.levers(stuck.spread_g_per_min)),
    )
