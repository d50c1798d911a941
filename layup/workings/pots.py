"""Workings of one pot: its life, its size, its chance, what is poured into it."""

from collections.abc import Callable, Mapping
from math import log1p

from layup.chemistry.catalyst import choose_dose
from layup.chemistry.gel_law import CATALYSED_ACTIVATION_KJ_PER_MOL, GAS_CONSTANT_J_PER_MOL_K, GelLaw
from layup.chemistry.label import Label, catalyst_label, doublings, hardener_label
from layup.chemistry.ratio import weight_ratio
from layup.materials import OnePart, SourceKind
from layup.pots.mix import Mix, settle
from layup.pots.outcome import PotResult, TicketResult
from layup.pots.sizing import CUP_LOSS_LEAST_G, CUP_LOSS_SHARE, MOST_WORKING_SHARE, Z_FOR_1_IN_50
from layup.pots.work import PasteWay
from layup.vessels import VESSELS
from layup.words import with_article
from layup.workings.bench import COMMON, MEMORY, TYPED, WORKED_OUT, Bench, Row, Write, Written, found, known


def _life(bench: Bench, pot_id: str) -> Written:
    chemistry, pot = bench.told.chemistry, bench.pot(pot_id) if pot_id else None
    room_c = _room_c(bench, pot)
    mass_g = pot.mass_g if pot else known(chemistry.life_of_pot_g)
    life = pot.life_min if pot else known(chemistry.life_min)
    if bench.product.catalyst:
        catalyst = bench.catalyst
        dose_pct = known(pot.catalyst_pct if pot else known(chemistry.dose).catalyst_pct)
        gels = catalyst_label(catalyst)
        law = gels.law(room_c, dose_pct)
        source = _source(gels, catalyst.sources)
        givens: list[Row] = [
            *_time_and_slope(law, gels, room_c, source("stated_gel_min")),
            ("c", "at a dose of", law.catalyst_pct, "%", source("stated_pct")),
            ("p", "dose", dose_pct, "%", WORKED_OUT, f"dose:{pot_id}" if pot_id else bench.own("dose")),
            ("n", "how a dose shortens it", law.n, "", source("exponent_n")),
        ]
        rule = "10 °C warmer, or twice the catalyst, halves it (common practice). The data sheet wins."
        rule = rule if gels.fit is None else f"The law of a gel, {gels.told_by}; the sooner of the fits holds."
        formula = "t × exp(n × ln(c ÷ p)) × exp(E × (1 ÷ T − 1 ÷ S))"
        return "Gel time", formula, givens, life, "min", rule
    if bench.product.one_part:
        return _life_out_of_one_tin(bench.product.one_part, room_c, life)
    hardener = bench.hardener
    label = hardener_label(hardener)
    stated, heat = label.heat.stated, label.heat
    kind = hardener.sources.get
    over, cup_mm = f"doublings of {stated.mass_g:g} g in {mass_g:g} g", bench.shop.cup_width_mm
    times, kept = doublings(mass_g, stated.mass_g), label.kept_per_doubling(room_c)
    givens = [
        (
            "t",
            f"stated time at {stated.temperature_c:g} °C, {_ENDS[hardener.pot_life_ends]}",
            stated.minutes,
            "min",
            str(kind("pot_life_min", MEMORY)),
        ),
        (
            "h",
            f"gel of this pot here in a cup {cup_mm:.0f} mm wide, by the heat model",
            heat.gel_min(mass_g, room_c, cup_mm) / stated.minutes,
            "",
            WORKED_OUT,
        ),
        ("q", "kept besides at each doubling", kept, "", MEMORY if label.fit is None else label.told_by),
        ("d", over, times, "", WORKED_OUT),
        ("k", "by its other times and the shop's gels", label.moved(room_c, mass_g) / kept**times, "", label.told_by),
    ]
    if pot and _vessel(bench, pot):
        return _life_in_vessel(bench, pot, givens)
    rule = (
        "The heat model, fitted to the stated pot, says what temperature, mass and the width of the cup do. Builders "
        "report more than it of mass, a tenth for each doubling (memory)"
        f"{_taken_off(kept**times)}. The data sheet and the shop's own gels win."
    )
    return (
        f"Life of {with_article(f'{mass_g:g} g pot')} in its cup",
        "t × h × exp(d × ln(q)) × k",
        givens,
        life,
        "min",
        rule,
    )


def _life_out_of_one_tin(sets: OnePart, room_c: float, life: float) -> Written:
    slope_k, said = CATALYSED_ACTIVATION_KJ_PER_MOL * 1000 / GAS_CONSTANT_J_PER_MOL_K, sets.sources
    givens: list[Row] = [
        ("t", "stated time from its pouring", sets.usable_min, "min", str(said["usable_min"])),
        ("E", "activation energy over R", slope_k, "K", MEMORY),
        ("T", "room", room_c + 273.15, "K", TYPED),
        ("S", "at", sets.stated_temperature_c + 273.15, "K", str(said["stated_temperature_c"])),
    ]
    rule = "Half as long in a room 10 °C warmer (memory). Its sheet wins."
    return "Usable from its pouring", "t × exp(E × (1 ÷ T − 1 ÷ S))", givens, life, "min", rule


_ENDS = {"gel": "its gel", "workable": "until it can no longer be worked", "viscosity doubled": "until twice as thick"}


def _taken_off(kept: float) -> str:
    """What the plan takes off the model's life of a pot heavier than the stated one."""
    return f": {100 * (1 - kept):.0f} % is taken off its life here" if kept < 0.995 else ""


def _room_c(bench: Bench, pot: PotResult | None) -> float:
    """The room of a pot's hour, or of the job."""
    return bench.plan.conditions.room_c if pot is None or pot.room_c is None else pot.room_c


def _ticket(pot: PotResult) -> TicketResult:
    return known(pot.ticket)


def _vessel(bench: Bench, pot: PotResult) -> str:
    """What a pot is spread from, where that is not its cup. A catalysed pot keeps cool until it gels, wherever it is."""
    if not bench.product.two_part:
        return ""
    if thick := _ticket(pot).thickened:
        return "bag" if thick.applied == "from a bag" else "board"
    return "tray" if VESSELS[bench.job.pots.vessel].poured else ""


def _mix_of(bench: Bench, pot: PotResult) -> Mix:
    """The mix of a pot in the room of its hour, thickened where it is."""
    mix = settle(bench.job, bench.in_use, bench.shop, bench.product, bench.hardener, _room_c(bench, pot))
    if (thick := _ticket(pot).thickened) is None:
        return mix
    return mix.thickened(PasteWay(known(thick.paste_ml_per_g), thick.applied))


_KEEPS = {
    "tray": "Mixed in its cup, then poured into a tray, where it keeps cool.",
    "bag": "Mixed and thickened in its cup, then in a bag, where it keeps the heat it makes (memory).",
    "board": "Mixed and thickened in its cup, then spread on a board as thin as in a tray.",
}


def _life_in_vessel(bench: Bench, pot: PotResult, givens: list[Row]) -> Written:
    """A pot mixed in its cup and spread from something else: the share it spends in the cup, then that vessel's life."""
    mix, vessel = _mix_of(bench, pot), _vessel(bench, pot)
    cup, there = mix.life.cup_min(pot.mass_g), mix.life.vessel_min(pot.mass_g)
    givens = [
        *givens,
        ("c", "mixed in the cup for", mix.contact_min, "min", MEMORY),
        ("g", f"a {vessel}'s life over the cup's", there / cup, "", MEMORY if vessel == "bag" else WORKED_OUT),
    ]
    rule = f"{_KEEPS[vessel]} The data sheet and the shop's own gels win."
    formula = "c + (1 − c ÷ (t × h × exp(d × ln(q)) × k)) × t × h × exp(d × ln(q)) × k × g"
    return (
        f"Life of {with_article(f'{pot.mass_g:g} g pot')} in its {vessel}",
        formula,
        givens,
        pot.life_min,
        "min",
        rule,
    )


def _source(label: Label, sources: Mapping[str, SourceKind]) -> Callable[[str], str]:
    """Where a number of a law comes from: its field's own source, or the fit to the label."""
    return lambda field: str(sources.get(field, MEMORY)) if label.fit is None else label.told_by


def _time_and_slope(law: GelLaw, label: Label, room_c: float, source: str) -> list[Row]:
    slope_k = law.ea_kj_per_mol * 1000 / GAS_CONSTANT_J_PER_MOL_K
    return [
        ("t", f"{'fitted' if label.fit else 'stated'} gel time", law.minutes, "min", source),
        ("E", "activation energy over R", slope_k, "K", source if label.fit else COMMON),
        ("T", "room", room_c + 273.15, "K", TYPED),
        ("S", "at", law.temperature_c + 273.15, "K", source),
    ]


def _dose(bench: Bench, pot_id: str) -> Written:
    """The job's dose, or a pot's: that is solved anew for the room at its hour."""
    dose, catalyst = known(bench.told.chemistry.dose), bench.catalyst
    pinned = bench.in_use.catalyst_pct is not None or bool(bench.in_use.dose_words)
    pct, solved = dose.catalyst_pct, dose.solved_pct
    if pinned:
        givens: list[Row] = [("p", "your own dose", pct, "%", TYPED)]
        return "Catalyst dose", "p", givens, pct, "%", "Yours; the product's limits are beside it."
    wanted = dose.wanted_gel_min
    if pot_id:
        pot = bench.pot(pot_id)
        pct, solved = known(pot.catalyst_pct), choose_dose(catalyst, _room_c(bench, pot), wanted).solved_pct
    kind = catalyst.sources.get
    givens = [
        ("s", "dose that gels in the time wanted", solved, "%", WORKED_OUT),
        ("l", "least of the product", catalyst.least_pct, "%", str(kind("least_pct", MEMORY))),
        ("m", "most of the product", catalyst.most_pct, "%", str(kind("most_pct", MEMORY))),
    ]
    rule = f"Solved from the gel law for {wanted:g} min, held inside the product's limits."
    return "Catalyst dose", "min(max(s, l), m)", givens, pct, "%", rule


def _pot(bench: Bench, pot_id: str) -> Written:
    pot = bench.pot(pot_id)
    givens: list[Row] = [
        ("L", "to be laid with it", pot.laid_g, "g", WORKED_OUT),
        ("v", "stays in cup, brush and roller", CUP_LOSS_SHARE, "", MEMORY),
        ("k", "and at least", CUP_LOSS_LEAST_G, "g", MEMORY),
        ("o", "over, so that the tool can be read", pot.surplus_g, "g", WORKED_OUT),
    ]
    rule = f"Even pots; the largest is limited by: {pot.limited_by}."
    return "Size of this pot", "max(L ÷ (1 − v), L + k) + o", givens, pot.mass_g, "g", rule


def _use_by(bench: Bench, pot_id: str) -> Written:
    pot = bench.pot(pot_id)
    lives, whole = _lives(bench, pot)
    by_hand = bench.job.pots.share
    share: list[Row] = [
        ("m", "most of it that wets fibre well", MOST_WORKING_SHARE, "", COMMON),
        ("w", "share of it for which it can be worked", pot.workable_share, "", WORKED_OUT),
        ("k", "standard deviations for 1 in 50", Z_FOR_1_IN_50, "", "published (normal distribution)"),
        ("z", "spread of what happens: gel, temperature, pace", pot.sigma, "", MEMORY),
    ]
    formula, rule = (
        "min(m, w × exp(−k × z))",
        "The share of its life that may be planned on, so that at most 1 pot in 50 is past working first: four times as "
        "thick as it was mixed (memory), which comes before its gel.",
    )
    if by_hand is not None:
        share, formula = [("m", "the share you set", by_hand, "", TYPED)], "m"
        rule = "The share of its life that you plan on; its chance is told beside it."
    if not whole:
        return "On the work by", f"t × {formula}", [*lives, *share], pot.use_by_min, "min", rule
    c = ("c", "mixed in the cup for", _ticket(pot).contact_min, "min", MEMORY)
    return "On the work by", f"c + ({formula} − c ÷ t) × v", [*lives, c, *share], pot.use_by_min, "min", rule


def _lives(bench: Bench, pot: PotResult) -> tuple[list[Row], bool]:
    """Its life in the cup, and in what it is spread from where that is another; whether it is."""
    vessel = _vessel(bench, pot)
    if not vessel:
        return [("t", "life in the cup", pot.life_min, "min", WORKED_OUT, f"life:{pot.id}")], False
    life = _mix_of(bench, pot).life
    cup, there = life.cup_min(pot.mass_g), life.vessel_min(pot.mass_g)
    return [("t", "life in the cup", cup, "min", WORKED_OUT), ("v", f"in its {vessel}", there, "min", WORKED_OUT)], True


def _chance(bench: Bench, pot_id: str) -> Written:
    pot = bench.pot(pot_id)
    lives, elsewhere = _lives(bench, pot)
    givens: list[Row] = [
        ("k", "mixing and carrying", _ticket(pot).contact_min, "min", MEMORY),
        ("s", "spreading it", pot.spread_min, "min", MEMORY),
        *lives,
        ("w", "share of its life for which it can be worked", pot.workable_share, "", WORKED_OUT),
        ("z", "spread of what happens: gel, temperature, pace", pot.sigma, "", MEMORY),
    ]
    rule = "The share of its life the pot has spent, against how widely pots differ. The shop's own log will narrow it."
    formula = "1 − Φ(−ln((k ÷ t + s ÷ v) ÷ w) ÷ z)" if elsewhere else "1 − Φ(ln(w × t ÷ (k + s)) ÷ z)"
    return "Chance that it is past working first", formula, givens, pot.chance_lost, "", rule


def _chance_any(bench: Bench, _: str) -> Written:
    sheet = found((sheet for sheet in (bench.plan.run_sheet,) if sheet), "no pot is planned yet")
    pots = bench.plan.pot_count
    worst = max(pot.chance_lost for pot in bench.plan.pots)
    givens: list[Row] = [
        ("n", "pots", pots, "", WORKED_OUT),
        ("p", "the tightest of them", worst, "", WORKED_OUT),
        (
            "x",
            "so many pots like it, each by itself, would be as risky",
            _as_often(sheet.chance_any, worst),
            "",
            WORKED_OUT,
        ),
    ]
    rule = (
        "Not the sum of the pots' chances: a gel model and a thermometer that are out are out for all of a day's pots "
        "alike, only the pace of spreading is each pot's own. Integrated over what they have in common (normal distribution)."
    )
    return "Chance that any pot of the job is lost", "1 − exp(x × ln(1 − p))", givens, sheet.chance_any, "", rule


def _as_often(chance: float, worst: float) -> float:
    return log1p(-chance) / log1p(-worst) if 0 < worst < 1 and chance < 1 else 0.0


def _pour(bench: Bench, pot_id: str, at: int) -> Written:
    """The first or the second pour of a pot, rounded to the tool."""
    pot = bench.pot(pot_id)
    ticket, pour = _ticket(pot), _ticket(pot).pours[at]
    if bench.product.one_part:
        scale = bench.shop.scale
        step: Row = ("s", "step of the scale", scale.step, scale.unit, "the tool")
        givens: list[Row] = [_pot_as_weighed(bench, pot), step]
        return pour.what, "nearest(m, s)", givens, pour.amount, scale.unit, "Rounded to the scale; nothing is mixed in."
    if bench.product.catalyst:
        return _catalysed_pour(bench, pot, at)
    if pour.tool in ("numbered cup", "pumps") or pour.running is None:
        return _by_the_tool(bench, pot, at)
    is_b = pour is ticket.second_part
    if ticket.by == "volume":
        ratio, cup = bench.b_per_a_volume, bench.shop.cup
        source = str(bench.product.sources.get("ratio_volume_b_per_a", MEMORY))
        r = ("r", "B for one of A, by volume", ratio, "", source)
        s = ("s", "mark of the cup", cup.step, cup.unit, "the tool")
        if is_b:
            whole = ("V", "the pot", pot.mass_g / _density(bench, pot) / cup.unit_is, cup.unit, WORKED_OUT)
            return (
                pour.what,
                "nearest(V × r ÷ (1 + r), s)",
                [whole, r, s],
                pour.amount,
                cup.unit,
                "Rounded to the mark.",
            )
        b = ("b", "hardener", known(ticket.second_part).amount, cup.unit, WORKED_OUT)
        return pour.what, "nearest(b ÷ r, s)", [b, r, s], pour.amount, cup.unit, "To the hardener as rounded."
    by_weight = weight_ratio(bench.product, bench.hardener.density_g_per_cm3)
    source = WORKED_OUT if by_weight.derived else "data sheet"
    r = ("r", "B for one of A, by weight", by_weight.b_per_a, "", source)
    scale = bench.shop.scale
    s = ("s", "step of the scale", scale.step, scale.unit, "the tool")
    if not is_b:
        givens = [_pot_as_weighed(bench, pot), r, s]
        return pour.what, "nearest(m ÷ (1 + r), s)", givens, pour.amount, scale.unit, "Rounded to the scale."
    rule = f"To the resin as rounded. {bench.told.chemistry.ratio_remark}".strip()
    return (
        pour.what,
        "nearest(a × r, s)",
        [("a", "resin", ticket.first_part.amount, scale.unit, WORKED_OUT, _about_a(ticket, pot.id)), r, s],
        pour.amount,
        scale.unit,
        rule,
    )


def _pot_as_weighed(bench: Bench, pot: PotResult) -> Row:
    scale = bench.shop.scale
    return ("m", "the pot", pot.mass_g / scale.unit_is, scale.unit, WORKED_OUT, f"pot:{pot.id}")


def _about_a(ticket: TicketResult, pot_id: str) -> str:
    """The name of the working of part A's pour, by when it goes in."""
    return f"{'second' if ticket.b_first else 'first'}_pour:{pot_id}"


def _about_b(ticket: TicketResult, pot_id: str) -> str:
    return f"{'first' if ticket.b_first else 'second'}_pour:{pot_id}"


def _by_the_tool(bench: Bench, pot: PotResult, at: int) -> Written:
    """A pour in numbers of a printed cup, in strokes of a pump, or over by what stays on a cup's wall."""
    shop, pour, ratio = bench.shop, _ticket(pot).pours[at], bench.b_per_a_volume
    volume: Row = ("V", "the pot", pot.mass_g / _density(bench, pot), "ml", WORKED_OUT)
    if pour.tool == "pumps":
        givens: list[Row] = [
            volume,
            ("a", "a stroke of A", shop.pump_a_ml, "ml", TYPED),
            ("b", "of B", shop.pump_b_ml, "ml", TYPED),
        ]
        return (
            pour.what,
            "max(1, nearest(V ÷ (a + b), 1))",
            givens,
            pour.amount,
            "strokes",
            "As many of the one as of the other.",
        )
    if pour.tool == "numbered cup":
        r = (
            "r",
            "B for one of A, by volume",
            ratio,
            "",
            str(bench.product.sources.get("ratio_volume_b_per_a", MEMORY)),
        )
        givens = [volume, r, ("n", "one number of the cup, of A", shop.cup_number_ml, "ml", TYPED)]
        formula = "max(0.5, nearest(V ÷ (1 + r) ÷ n, 0.5))"
        return pour.what, formula, givens, pour.amount, "", "The same number of each column."
    wanted = _really(bench, pot)[pour is _ticket(pot).second_part]
    givens = [
        ("m", "wanted in the mix", wanted, pour.unit, WORKED_OUT),
        ("w", "stays on the wall", pour.amount - wanted, pour.unit, MEMORY),
    ]
    return pour.what, "m + w", givens, pour.amount, pour.unit, "Equal films left of unequal parts would move the ratio."


def _really(bench: Bench, pot: PotResult) -> tuple[float, float]:
    """What comes into the mix of A and of B by a tool that is read in its own marks, or in cups of their own."""
    shop, tool = bench.shop, _ticket(pot).pours[0].tool
    if tool == "pumps":
        return shop.pump_a_ml, shop.pump_b_ml
    if tool == "numbered cup":
        return 1.0, bench.b_per_a_volume
    into_one = bench.job.practice.model_copy(update={"vessels": "into one cup"})
    job = bench.job.model_copy(update={"practice": into_one})
    mix = settle(job, bench.in_use, shop, bench.product, bench.hardener, bench.plan.conditions.room_c)
    amounts = mix.amounts(pot.mass_g)
    first, second = amounts.pours
    return (second.amount, first.amount) if amounts.b_first else (first.amount, second.amount)


def _catalysed_pour(bench: Bench, pot: PotResult, at: int) -> Written:
    pour, first = _ticket(pot).pours[at], _ticket(pot).pours[0]
    scale = bench.shop.scale
    step = ("s", "step of the scale", scale.step, scale.unit, "the tool")
    if at == 0:
        rule = "Rounded to the scale; the catalyst comes on top."
        return "Resin", "nearest(m, s)", [_pot_as_weighed(bench, pot), step], pour.amount, scale.unit, rule
    p = ("p", "dose", known(pot.catalyst_pct), "%", WORKED_OUT, f"dose:{pot.id}")
    about = f"first_pour:{pot.id}"
    if pour.tool == "scale":
        givens: list[Row] = [("a", "resin", first.amount, scale.unit, WORKED_OUT, about), p, step]
        return "Catalyst", "nearest(a × p ÷ 100, s)", givens, pour.amount, scale.unit, "Rounded to the scale."
    givens = [("a", "resin", known(first.grams), "g", WORKED_OUT, about), p]
    catalyst = bench.catalyst
    source = str(catalyst.sources["density_g_per_cm3"])
    givens.append(("d", "density of the catalyst", catalyst.density_g_per_cm3, "g/cm³", source))
    if pour.tool == "drops":
        givens.append(("k", "drops in a millilitre", known(bench.shop.drops_per_ml), "", "counted"))
        return (
            "Catalyst",
            "nearest(a × p ÷ 100 ÷ d × k, 1)",
            givens,
            pour.amount,
            "drops",
            "By weight of resin, in drops.",
        )
    syringe = bench.shop.dose_marks
    givens.append(("s", "mark of the syringe", syringe.step, syringe.unit, "the tool"))
    rule = "By weight of resin, drawn by volume, rounded to the syringe."
    formula = "nearest(a × p ÷ 100 ÷ d, s)"
    if syringe.unit_is != 1.0:
        givens.append(("o", f"ml in one {syringe.unit}", syringe.unit_is, "ml", "published"))
        formula = "nearest(a × p ÷ 100 ÷ d ÷ o, s)"
    return "Catalyst", formula, givens, pour.amount, syringe.unit, rule


def _density(bench: Bench, pot: PotResult) -> float:
    return settle(
        bench.job, bench.in_use, bench.shop, bench.product, bench.hardener, bench.plan.conditions.room_c
    ).density_g_per_ml


def _ratio_error(bench: Bench, pot_id: str) -> Written:
    """How far rounding moves the ratio or the dose, %."""
    ticket = _ticket(bench.pot(pot_id))
    first, second = ticket.first_part, known(ticket.second_part)
    if bench.product.catalyst:
        per_ml = 1.0 if second.tool == "scale" else bench.catalyst.density_g_per_cm3
        density = per_ml * second.unit_is
        givens: list[Row] = [
            ("a", "resin", known(first.grams), "g", WORKED_OUT, f"first_pour:{pot_id}"),
            ("b", "catalyst", second.amount, second.unit, WORKED_OUT, f"second_pour:{pot_id}"),
            ("d", "g of each unit of it", density, "g", MEMORY),
            ("p", "dose", known(bench.pot(pot_id).catalyst_pct), "%", WORKED_OUT, f"dose:{pot_id}"),
        ]
        return "Rounding of the dose", "100 × (100 × b × d ÷ a ÷ p − 1)", givens, ticket.ratio_error_pct, "%", _ROUNDING
    by_volume = ticket.by == "volume"
    ratio = bench.b_per_a_volume if by_volume else weight_ratio(bench.product, bench.hardener.density_g_per_cm3).b_per_a
    r = ("r", f"B for one of A, by {ticket.by}", ratio, "", WORKED_OUT)
    if first.running is None or first.tool == "numbered cup":
        a, b = _really(bench, bench.pot(pot_id))
        givens = [
            ("a", f"{first.what}, in the mix", a, "", WORKED_OUT),
            ("b", f"{second.what}, in the mix", b, "", WORKED_OUT),
            r,
        ]
        return "Rounding of the ratio", "100 × (b ÷ a ÷ r − 1)", givens, ticket.ratio_error_pct, "%", _ROUNDING
    givens = [
        ("a", first.what, first.amount, first.unit, WORKED_OUT, _about_a(ticket, pot_id)),
        ("b", second.what, second.amount, second.unit, WORKED_OUT, _about_b(ticket, pot_id)),
        r,
    ]
    return "Rounding of the ratio", "100 × (b ÷ a ÷ r − 1)", givens, ticket.ratio_error_pct, "%", _ROUNDING


_ROUNDING = (
    "What rounding to the tool in hand does; within 2 % of the ratio, or 10 % of a dose, it does not matter (memory)."
)


POTS: dict[str, Write] = {
    "life": _life,
    "dose": _dose,
    "pot": _pot,
    "use_by": _use_by,
    "chance": _chance,
    "chance_any": _chance_any,
    "first_pour": lambda bench, pot_id: _pour(bench, pot_id, 0),
    "second_pour": lambda bench, pot_id: _pour(bench, pot_id, 1),
    "ratio_error": _ratio_error,
}
