"""How a headline number was worked out: the formula, the numbers put in and where each comes from, the result.

A formula is written in the symbols of its givens with + − × ÷ ( ), and with π, exp, ln, sqrt, max, min,
nearest(x, step) and Φ, the share of a normal spread under a value. What is worked out here is checked against the plan's own number.
"""

import re
from collections.abc import Callable, Iterable
from itertools import pairwise

from pydantic import BaseModel, ConfigDict

from layup.areas import girths_area_m2
from layup.dew import dew_point_c
from layup.errors import Missing
from layup.gel import (
    CATALYSED_ACTIVATION_KJ_PER_MOL,
    EPOXY_ACTIVATION_KJ_PER_MOL,
    GAS_CONSTANT_J_PER_MOL_K,
    SHORTER_PER_DOUBLING,
    doublings_over_stated,
)
from layup.job import JobSpec, ShopFacts
from layup.joints import FILLET_WASTE_SHARE
from layup.laminate import TABLE_SOURCE, fibre_density_g_per_cm3
from layup.materials import ResinSystem
from layup.mix import settle
from layup.outcome import PartResult, PlyResult, PotResult
from layup.plan import RESERVE_SHARE, plan
from layup.plies import CURED_DENSITY_G_PER_CM3
from layup.pots import CUP_LOSS_LEAST_G, CUP_LOSS_SHARE, MOST_WORKING_SHARE, Z_FOR_1_IN_50
from layup.ratio import weight_ratio

TYPED, WORKED_OUT, MEMORY, COMMON = "typed", "worked out", "memory", "common practice"


class Given(BaseModel):
    """One number put in: its symbol in the formula, what it is, its unit and its kind of source.

    One that was itself worked out may name its own working in `about`.
    """

    model_config = ConfigDict(frozen=True)

    symbol: str
    name: str
    value: float
    unit: str
    source: str
    about: str = ""


class Working(BaseModel):
    """A number worked out, in the core's own unit. `rule` says in words what the formula does, and its source."""

    model_config = ConfigDict(frozen=True)

    about: str
    title: str
    formula: str
    givens: tuple[Given, ...]
    result: float
    unit: str
    rule: str


class _Bench:
    """A plan with what it was made from, and the things in it found by id."""

    def __init__(self, job: JobSpec, shop: ShopFacts):
        self.job, self.shop, self.plan = job, shop, plan(job, shop)
        self.resin: ResinSystem | None = next(
            (resin for resin in job.materials.resins if resin.id == job.chemistry.resin_id), None
        )

    def part(self, part_id: str) -> PartResult:
        return _found((part for part in self.plan.parts if part.id == part_id), "this part has no figures yet")

    def ply(self, ply_id: str) -> PlyResult:
        plies = (ply for part in self.plan.parts for ply in part.plies)
        return _found((ply for ply in plies if ply.id == ply_id), "this ply has no figures yet")

    def pot(self, pot_id: str) -> PotResult:
        return _found((pot for pot in self.plan.pots if pot.id == pot_id), "there is no such pot in this plan")

    @property
    def hardener(self):
        chosen = next(row.id for row in self.plan.chemistry.hardeners if row.chosen)
        return next(hardener for hardener in self.resin.hardeners if hardener.id == chosen)


def working(about: str, job: JobSpec, shop: ShopFacts) -> Working:
    """How the number named `about` was worked out, such as `life` or `thickness:p1`.

    Raises Missing where the plan holds no such number.

    >>> from layup.job import Conditions
    >>> warm = ShopFacts(conditions=Conditions(room_c=20, surface_c=18, humidity_pct=60))
    >>> shown = working("dew", JobSpec(name="Deck"), warm)
    >>> shown.formula, round(shown.result, 1)
    ('s − d', 6.0)
    """
    kind, _, thing = about.partition(":")
    if kind not in _WORKINGS:
        raise Missing("there is no working of this name", "about")
    try:
        title, formula, givens, result, unit, rule = _WORKINGS[kind](_Bench(job, shop), thing)
    except (AttributeError, StopIteration, TypeError) as none:
        raise Missing("the plan has no such number yet", "about") from none
    rows = tuple(
        Given(symbol=symbol, name=name, value=value, unit=unit_, source=source, about="".join(own))
        for symbol, name, value, unit_, source, *own in givens
    )
    return Working(about=about, title=title, formula=formula, givens=rows, result=result, unit=unit, rule=rule)


def _found(things: Iterable, message: str):
    for thing in things:
        return thing
    raise Missing(message, "about")


def _sum_of(title: str, rows: list[tuple], unit: str, result: float, rule: str):
    givens = [(_symbol(at), name, value, unit, WORKED_OUT, *own) for at, (name, value, *own) in enumerate(rows)]
    return title, " + ".join(symbol for symbol, *_ in givens) or "0", givens, result, unit, rule


def _symbol(at: int) -> str:
    return "abcdefghijklmnpqrstuvwxyz"[at % 25] + (str(at // 25) if at >= 25 else "")


def _dew(bench: _Bench, _: str):
    dew, conditions = bench.plan.dew, bench.plan.conditions
    point = dew_point_c(conditions.room_c, conditions.humidity_pct)
    givens = [
        ("s", "surface", conditions.surface_or_room_c, "°C", TYPED),
        (
            "d",
            f"dew point of {conditions.room_c:g} °C, {conditions.humidity_pct:g} %",
            point,
            "°C",
            "published (ASHRAE)",
        ),
    ]
    return "Margin over the dew point", "s − d", givens, dew.margin_c, "°C", "At least 3 °C (common practice)."


def _area(bench: _Bench, part_id: str):
    if not part_id:
        rows = [(part.name or "part", part.total_area_m2, f"area:{part.id}") for part in bench.plan.parts]
        total = sum(part.total_area_m2 for part in bench.plan.parts)
        return _sum_of("To cover", rows, "m²", total, "Every part, all its copies. Exact.")
    result = bench.part(part_id)
    part = next(part for part in bench.job.parts if part.id == part_id)
    givens = [
        ("A", result.area_rule, result.outline_m2, "m²", WORKED_OUT, f"outline:{part_id}"),
        ("k", "gained by curving two ways", part.developed_area_factor, "", TYPED),
        ("P", "edge", result.perimeter_m, "m", WORKED_OUT),
        ("e", "margin round it", part.margin_mm / 1000, "m", TYPED),
        ("c", "holes", result.holes_m2, "m²", WORKED_OUT),
        ("n", "copies", float(result.count), "", TYPED),
    ]
    formula = "A × k × n"
    if part.margin_mm or result.holes_m2:
        formula = "(A × k + P × e + 4 × e × e − c) × n"
    used = [given for given in givens if re.search(rf"\b{given[0]}\b", formula)]
    return "Area of this part", formula, used, result.total_area_m2, "m²", "Exact for a straight edge."


def _outline(bench: _Bench, part_id: str):
    """The area of the outline alone, by the formula of its shape."""
    result = bench.part(part_id)
    shape = next(part.shape for part in bench.job.parts if part.id == part_id)
    if shape.kind == "girths":
        formula, givens = _girths_formula(shape)
    else:
        formula, fields = _OUTLINES[shape.kind]
        givens = [(symbol, name, getattr(shape, field) / per, unit, TYPED) for symbol, name, field, unit, per in fields]
    return "Area of the outline", formula, givens, result.outline_m2, "m²", f"By {result.area_rule}. Exact geometry."


def _girths_formula(shape):
    stations = shape.stations
    givens = [(_symbol(n), f"girth at {s.at_m:g} m", s.girth_m, "m", TYPED) for n, s in enumerate(stations)]
    if girths_area_m2([s.at_m for s in stations], [s.girth_m for s in stations])[1] == "Simpson":
        weights = [1, *(4 if n % 2 else 2 for n in range(1, len(stations) - 1)), 1]
        terms = " + ".join(f"{w} × {_symbol(n)}" for n, w in enumerate(weights))
        spacing = stations[1].at_m - stations[0].at_m
        return f"({terms}) × o ÷ 3", [*givens, ("o", "spacing", spacing, "m", TYPED)]
    terms = " + ".join(
        f"({_symbol(n)} + {_symbol(n + 1)}) ÷ 2 × {b.at_m - a.at_m:.6g}" for n, (a, b) in enumerate(pairwise(stations))
    )
    return terms, givens


_WIDTH, _LENGTH = ("w", "width", "width_m", "m", 1), ("l", "length", "length_m", "m", 1)
_DIAMETER, _HEIGHT = ("d", "diameter", "diameter_m", "m", 1), ("h", "height", "height_m", "m", 1)
_OUTLINES = {
    "rectangle": ("w × l", (_WIDTH, _LENGTH)),
    "trapezoid": (
        "(a + b) ÷ 2 × h",
        (("a", "one side", "side_a_m", "m", 1), ("b", "the other", "side_b_m", "m", 1), _HEIGHT),
    ),
    "triangle": ("b × h ÷ 2", (("b", "base", "base_m", "m", 1), _HEIGHT)),
    "disc": ("π × d × d ÷ 4", (_DIAMETER,)),
    "cylinder": ("π × d × l × k", (_DIAMETER, _LENGTH, ("k", "of the whole turn", "around", "", 1))),
    "frustum": (
        "π × (a + b) ÷ 2 × sqrt(h × h + (a − b) × (a − b) ÷ 4)",
        (("a", "one diameter", "diameter_a_m", "m", 1), ("b", "the other", "diameter_b_m", "m", 1), _HEIGHT),
    ),
    "strip": ("w × l × k", (_WIDTH, _LENGTH, ("k", "sides", "sides", "", 1))),
    "area": ("A", (("A", "area as typed", "area_m2", "m²", 1),)),
    "patch": (
        "(w + 2 × t × q) × (l + 2 × t × q)",
        (_WIDTH, _LENGTH, ("t", "taper", "taper", "", 1), ("q", "thickness", "depth_mm", "m", 1000)),
    ),
}


def _thickness(bench: _Bench, part_id: str):
    part = bench.part(part_id)
    rows = [
        (f"ply {at}, {ply.name}", ply.thickness_mm, f"ply_thickness:{ply.id}")
        for at, ply in enumerate(part.plies, 1)
        if ply.stays
    ]
    rule = "The plies' thicknesses, each fibre and resin by their densities; no voids."
    return _sum_of("Thickness", rows, "mm", part.thickness_mm, rule)


def _ply_thickness(bench: _Bench, ply_id: str):
    ply = bench.ply(ply_id)
    cured = bench.resin.cured_density_g_per_cm3 if bench.resin else CURED_DENSITY_G_PER_CM3
    source = str(bench.resin.sources.get("cured_density_g_per_cm3", MEMORY)) if bench.resin else MEMORY
    if ply.coat:
        givens = [
            ("R", "resin in the coat", ply.resin_gsm, "g/m²", TYPED),
            ("c", "density of cured resin", cured, "g/cm³", source),
        ]
        return f"Thickness of {ply.name}", "R ÷ c ÷ 1000", givens, ply.thickness_mm, "mm", "Weight over density."
    fabric_id = next(p.fabric_id for part in bench.job.parts for p in part.plies if p.id == ply_id)
    fabric = next(fabric for fabric in bench.job.materials.fabrics if fabric.id == fabric_id)
    if fabric.core_thickness_mm:
        source = str(fabric.sources["core_thickness_mm"])
        givens = [("t", "the core's own thickness", ply.thickness_mm, "mm", source)]
        return f"Thickness of {ply.name}", "t", givens, ply.thickness_mm, "mm", "As its sheet says."
    givens = [
        ("W", "fibre", ply.fibre_gsm, "g/m²", str(fabric.sources.get("areal_weight_gsm", MEMORY))),
        ("R", "resin", ply.resin_gsm, "g/m²", WORKED_OUT),
        ("f", f"density of {fabric.fibre}", fibre_density_g_per_cm3(fabric), "g/cm³", MEMORY),
        ("c", "density of cured resin", cured, "g/cm³", source),
    ]
    rule = "Weights over densities (published, ISO 12215-5 in its two-term form)."
    return f"Thickness of {ply.name}", "(W ÷ f + R ÷ c) ÷ 1000", givens, ply.thickness_mm, "mm", rule


def _ply_resin(bench: _Bench, ply_id: str):
    ply = bench.ply(ply_id)
    count = next(part.count for part in bench.plan.parts if any(p.id == ply_id for p in part.plies))
    area = ("A", "area of this ply, overlaps counted", ply.area_m2, "m²", WORKED_OUT)
    copies = ("n", "copies", float(count), "", TYPED)
    if ply.fibre_weight_fraction is None:
        taken = ("R", "resin it takes", ply.resin_gsm / ply.layers_mean, "g/m²", ply.fraction_source)
        rule = "As the coat was written." if ply.coat else "What it takes by its sheet; it is no reinforcement."
        return f"Resin in {ply.name}", "R × A × n", [taken, area, copies], ply.resin_g * count, "g", rule
    givens = [
        ("W", "fibre", ply.fibre_gsm / ply.layers_mean, "g/m²", "data sheet"),
        area,
        ("y", "fibre weight fraction", ply.fibre_weight_fraction, "", ply.fraction_source),
        copies,
    ]
    rule = "Resin that stays in the fibre: what the fibre weighs, times what is not fibre over what is."
    return f"Resin in {ply.name}", "W × A × (1 − y) ÷ y × n", givens, ply.resin_g * count, "g", rule


def _laminate(bench: _Bench, part_id: str):
    part = bench.part(part_id)
    rows = [
        (f"ply {at}, {ply.name}", ply.fibre_gsm + ply.resin_gsm)
        for at, ply in enumerate(part.plies, 1)
        if ply.stays and ply.coat != "wet-out"
    ]
    return _sum_of("Laminate", rows, "g/m²", part.laminate_gsm, "Fibre and resin of each ply.")


def _fibre_share(bench: _Bench, part_id: str):
    part = bench.part(part_id)
    plies = [ply for ply in part.plies if ply.fibre_weight_fraction is not None]
    fibre = sum(ply.fibre_gsm for ply in plies)
    givens = [
        ("W", "fibre of all plies", fibre, "g/m²", WORKED_OUT),
        (
            "L",
            "fibre and resin of the plies that reinforce",
            fibre + sum(p.resin_gsm for p in plies),
            "g/m²",
            WORKED_OUT,
        ),
    ]
    rule = f"Each ply's share: {TABLE_SOURCE} or your own."
    return "Fibre by weight", "100 × W ÷ L", givens, 100 * part.fibre_weight_fraction, "%", rule


def _weight(bench: _Bench, part_id: str):
    part = bench.part(part_id)
    rows = [("fibre", part.fibre_g), ("resin in the plies", part.resin_in_plies_g)]
    coats_g = part.weight_g - part.fibre_g - part.resin_in_plies_g
    rows += [("coats", coats_g)] if coats_g > 1e-9 else []
    rule = "One copy, without what a bare surface drinks."
    return "Weight of the laminate", *_sum_of("", rows, "g", part.weight_g, rule)[1:]


def _life(bench: _Bench, pot_id: str):
    chemistry, room_c = bench.plan.chemistry, bench.plan.conditions.room_c
    mass_g = bench.pot(pot_id).mass_g if pot_id else chemistry.life_of_pot_g
    life = bench.pot(pot_id).life_min if pot_id else chemistry.life_min
    if bench.resin.catalyst:
        catalyst, dose = bench.resin.catalyst, chemistry.dose
        kind = catalyst.sources.get
        givens = [
            ("t", "stated gel time", catalyst.stated_gel_min, "min", str(kind("stated_gel_min", MEMORY))),
            ("c", "stated dose", catalyst.stated_pct, "%", str(kind("stated_pct", MEMORY))),
            ("p", "dose", dose.catalyst_pct, "%", WORKED_OUT, "dose"),
            ("n", "how a dose shortens it", catalyst.exponent_n, "", str(kind("exponent_n", MEMORY))),
            (
                "E",
                "activation energy over R",
                CATALYSED_ACTIVATION_KJ_PER_MOL * 1000 / GAS_CONSTANT_J_PER_MOL_K,
                "K",
                COMMON,
            ),
            ("T", "room", room_c + 273.15, "K", TYPED),
            ("S", "stated at", catalyst.stated_temperature_c + 273.15, "K", str(kind("stated_temperature_c", MEMORY))),
        ]
        rule = "10 °C warmer, or twice the catalyst, halves it (common practice). The data sheet wins."
        formula = "t × exp(n × ln(c ÷ p)) × exp(E × (1 ÷ T − 1 ÷ S))"
        return "Gel time", formula, givens, life, "min", rule
    hardener = bench.hardener
    kind = hardener.sources.get
    givens = [
        ("t", "stated pot life", hardener.pot_life_min, "min", str(kind("pot_life_min", MEMORY))),
        ("E", "activation energy over R", EPOXY_ACTIVATION_KJ_PER_MOL * 1000 / GAS_CONSTANT_J_PER_MOL_K, "K", MEMORY),
        ("T", "room", room_c + 273.15, "K", TYPED),
        ("S", "stated at", hardener.pot_life_temperature_c + 273.15, "K", str(kind("pot_life_temperature_c", MEMORY))),
        ("q", "kept at each doubling of mass", 1 - SHORTER_PER_DOUBLING, "", MEMORY),
        (
            "d",
            f"doublings of {hardener.pot_life_mass_g:g} g in {mass_g:g} g",
            doublings_over_stated(hardener, mass_g),
            "",
            WORKED_OUT,
        ),
    ]
    rule = (
        "The stated pot life carried to the room's temperature, a tenth shorter for each doubling. The data sheet wins."
    )
    formula = "t × exp(E × (1 ÷ T − 1 ÷ S)) × exp(d × ln(q))"
    return f"Life of a {mass_g:g} g pot in its cup", formula, givens, life, "min", rule


def _dose(bench: _Bench, _: str):
    dose, catalyst = bench.plan.chemistry.dose, bench.resin.catalyst
    if bench.job.chemistry.catalyst_pct is not None:
        givens = [("p", "your own dose", dose.catalyst_pct, "%", TYPED)]
        return "Catalyst dose", "p", givens, dose.catalyst_pct, "%", "Yours; the product's limits are beside it."
    kind = catalyst.sources.get
    givens = [
        ("s", "dose that gels in the time wanted", dose.solved_pct, "%", WORKED_OUT),
        ("l", "least of the product", catalyst.least_pct, "%", str(kind("least_pct", MEMORY))),
        ("m", "most of the product", catalyst.most_pct, "%", str(kind("most_pct", MEMORY))),
    ]
    rule = f"Solved from the gel law for {dose.wanted_gel_min:g} min, held inside the product's limits."
    return "Catalyst dose", "min(max(s, l), m)", givens, dose.catalyst_pct, "%", rule


def _paste(bench: _Bench, joint_id: str):
    result = _found((joint for joint in bench.plan.joints if joint.id == joint_id), "this joint has no figures yet")
    joint = next(joint for joint in bench.job.joints if joint.id == joint_id)
    givens = [
        ("F", "section of the bead", result.section_mm2, "mm²", "exact geometry"),
        ("l", "length", joint.length_m, "m", TYPED),
        ("k", "sides", float(joint.sides), "", TYPED),
        ("w", "lost on stick and board", FILLET_WASTE_SHARE, "", MEMORY),
    ]
    rule = "The section is (1 − π/4) r² for a right angle; a square millimetre over a metre is a millilitre."
    return "Paste for this joint", "F × l × k × (1 + w)", givens, result.paste_ml, "ml", rule


def _pot(bench: _Bench, pot_id: str):
    pot = bench.pot(pot_id)
    givens = [
        ("L", "to be laid with it", pot.laid_g, "g", WORKED_OUT),
        ("v", "stays in cup, brush and roller", CUP_LOSS_SHARE, "", MEMORY),
        ("k", "and at least", CUP_LOSS_LEAST_G, "g", MEMORY),
        ("o", "over, so that the tool can be read", pot.surplus_g, "g", WORKED_OUT),
    ]
    rule = f"Even pots; the largest is limited by: {pot.limited_by}."
    return "Size of this pot", "max(L ÷ (1 − v), L + k) + o", givens, pot.mass_g, "g", rule


def _use_by(bench: _Bench, pot_id: str):
    pot = bench.pot(pot_id)
    givens = [
        ("t", "life in the cup", pot.life_min, "min", WORKED_OUT, f"life:{pot_id}"),
        ("m", "most of it that wets fibre well", MOST_WORKING_SHARE, "", COMMON),
        ("k", "standard deviations for 1 in 50", Z_FOR_1_IN_50, "", "published (normal distribution)"),
        ("z", "spread of what happens: gel, temperature, pace", pot.sigma, "", MEMORY),
    ]
    rule = "The share of its life that may be planned on, so that at most 1 pot in 50 gels first."
    return "On the work by", "t × min(m, exp(−k × z))", givens, pot.use_by_min, "min", rule


def _chance(bench: _Bench, pot_id: str):
    pot = bench.pot(pot_id)
    givens = [
        ("k", "mixing and carrying", pot.ticket.contact_min, "min", MEMORY),
        ("s", "spreading it", pot.spread_min, "min", MEMORY),
        ("t", "life in the cup", pot.life_min, "min", WORKED_OUT, f"life:{pot_id}"),
        ("z", "spread of what happens: gel, temperature, pace", pot.sigma, "", MEMORY),
    ]
    rule = "The share of its life the pot has spent, against how widely pots differ. The shop's own log will narrow it."
    return "Chance that it gels first", "1 − Φ(ln(t ÷ (k + s)) ÷ z)", givens, pot.chance_lost, "", rule


def _pour(bench: _Bench, pot_id: str, at: int):
    """The first or the second pour of a pot, rounded to the tool."""
    pot, plan_ = bench.pot(pot_id), bench.plan
    pour, first = pot.ticket.pours[at], pot.ticket.pours[0]
    if bench.resin.catalyst:
        return _catalysed_pour(bench, pot, at)
    if pot.ticket.by == "volume":
        ratio, step = bench.resin.ratio_volume_b_per_a, bench.shop.cup_step_ml
        source = str(bench.resin.sources.get("ratio_volume_b_per_a", MEMORY))
        r = ("r", "B for one of A, by volume", ratio, "", source)
        s = ("s", "mark of the cup", step, "ml", "the tool")
        if at:
            whole = ("V", "the pot", pot.mass_g / _density(bench, pot), "ml", WORKED_OUT)
            return pour.what, "nearest(V × r ÷ (1 + r), s)", [whole, r, s], pour.amount, "ml", "Rounded to the mark."
        b = ("b", "hardener", pot.ticket.pours[1].amount, "ml", WORKED_OUT)
        return pour.what, "nearest(b ÷ r, s)", [b, r, s], pour.amount, "ml", "To the hardener as rounded."
    ratio = weight_ratio(bench.resin, bench.hardener.density_g_per_cm3)
    source = WORKED_OUT if ratio.derived else "data sheet"
    r = ("r", "B for one of A, by weight", ratio.b_per_a, "", source)
    s = ("s", "step of the scale", bench.shop.scale_step_g, "g", "the tool")
    if at == 0:
        givens = [("m", "the pot", pot.mass_g, "g", WORKED_OUT, f"pot:{pot.id}"), r, s]
        return pour.what, "nearest(m ÷ (1 + r), s)", givens, pour.amount, "g", "Rounded to the scale."
    rule = f"To the resin as rounded. {plan_.chemistry.ratio_remark}".strip()
    return (
        pour.what,
        "nearest(a × r, s)",
        [("a", "resin", first.amount, "g", WORKED_OUT, f"first_pour:{pot.id}"), r, s],
        pour.amount,
        "g",
        rule,
    )


def _catalysed_pour(bench: _Bench, pot: PotResult, at: int):
    pour, first = pot.ticket.pours[at], pot.ticket.pours[0]
    step = ("s", "step of the scale", bench.shop.scale_step_g, "g", "the tool")
    if at == 0:
        rule = "Rounded to the scale; the catalyst comes on top."
        return (
            "Resin",
            "nearest(m, s)",
            [("m", "the pot", pot.mass_g, "g", WORKED_OUT, f"pot:{pot.id}"), step],
            pour.amount,
            "g",
            rule,
        )
    givens = [
        ("a", "resin", first.amount, "g", WORKED_OUT, f"first_pour:{pot.id}"),
        ("p", "dose", bench.plan.chemistry.dose.catalyst_pct, "%", WORKED_OUT, "dose"),
    ]
    if pour.unit == "g":
        return "Catalyst", "nearest(a × p ÷ 100, s)", [*givens, step], pour.amount, "g", "Rounded to the scale."
    catalyst = bench.resin.catalyst
    givens += [
        (
            "d",
            "density of the catalyst",
            catalyst.density_g_per_cm3,
            "g/cm³",
            str(catalyst.sources["density_g_per_cm3"]),
        ),
        ("s", "mark of the syringe", bench.shop.syringe_step_ml, "ml", "the tool"),
    ]
    rule = "By weight of resin, drawn by volume, rounded to the syringe."
    return "Catalyst", "nearest(a × p ÷ 100 ÷ d, s)", givens, pour.amount, "ml", rule


def _density(bench: _Bench, pot: PotResult) -> float:
    return settle(
        bench.job, bench.shop, bench.resin, bench.hardener, None, bench.plan.conditions.room_c
    ).density_g_per_ml


def _mixed(bench: _Bench, _: str):
    use = bench.plan.resin
    rows = [
        ("stays in the plies", use.in_plies_g),
        ("first wet-out of the surface", use.first_wet_out_g),
        ("coats", use.in_coats_g),
        ("in the joints", use.in_joints_g),
        ("mopped off, or comes off with a peel ply", use.mopped_off_g),
        ("left in cups, brushes, rollers", use.left_in_vessels_g),
        ("over, so that pots can be read", use.surplus_g),
    ]
    rule = "Everything that has to be mixed; losses from memory until the shop's log corrects them."
    return _sum_of("To mix for this job", [row for row in rows if row[1] > 1e-9], "g", use.mixed_g, rule)


def _to_have(bench: _Bench, _: str):
    use = bench.plan.resin
    givens = [
        ("m", "to mix", use.mixed_g, "g", WORKED_OUT, "mixed"),
        ("r", "reserve, kept in the tin", RESERVE_SHARE, "", MEMORY),
    ]
    return "Have at hand", "m × (1 + r)", givens, use.to_have_g, "g", "A tenth more than is mixed."


def _ratio_error(bench: _Bench, pot_id: str):
    """How far rounding moves the ratio or the dose, %."""
    ticket = bench.pot(pot_id).ticket
    first, second = ticket.pours
    if bench.resin.catalyst:
        density = bench.resin.catalyst.density_g_per_cm3 if second.unit == "ml" else 1.0
        givens = [
            ("a", "resin", first.amount, "g", WORKED_OUT, f"first_pour:{pot_id}"),
            ("b", "catalyst", second.amount, second.unit, WORKED_OUT, f"second_pour:{pot_id}"),
            ("d", "its density, if drawn by volume", density, "g/cm³", MEMORY),
            ("p", "dose", bench.plan.chemistry.dose.catalyst_pct, "%", WORKED_OUT, "dose"),
        ]
        return "Rounding of the dose", "100 × (100 × b × d ÷ a ÷ p − 1)", givens, ticket.ratio_error_pct, "%", _ROUNDING
    by_volume = ticket.by == "volume"
    ratio = (
        bench.resin.ratio_volume_b_per_a
        if by_volume
        else weight_ratio(bench.resin, bench.hardener.density_g_per_cm3).b_per_a
    )
    givens = [
        ("a", first.what, first.amount, first.unit, WORKED_OUT, f"first_pour:{pot_id}"),
        ("b", second.what, second.amount, second.unit, WORKED_OUT, f"second_pour:{pot_id}"),
        ("r", f"B for one of A, by {ticket.by}", ratio, "", WORKED_OUT),
    ]
    return "Rounding of the ratio", "100 × (b ÷ a ÷ r − 1)", givens, ticket.ratio_error_pct, "%", _ROUNDING


_ROUNDING = (
    "What rounding to the tool in hand does; within 2 % of the ratio, or 10 % of a dose, it does not matter (memory)."
)


def _part_a(bench: _Bench, _: str):
    use = bench.plan.resin
    return "A in the pots", "m ÷ (1 + r)", _mixed_and_ratio(bench), use.part_a_g, "g", "The ratio by weight."


def _part_b(bench: _Bench, _: str):
    use = bench.plan.resin
    return "B in the pots", "m × r ÷ (1 + r)", _mixed_and_ratio(bench), use.part_b_g, "g", "The ratio by weight."


def _mixed_and_ratio(bench: _Bench) -> list[tuple]:
    ratio = weight_ratio(bench.resin, bench.hardener.density_g_per_cm3)
    return [
        ("m", "to mix", bench.plan.resin.mixed_g, "g", WORKED_OUT, "mixed"),
        ("r", "B for one of A, by weight", ratio.b_per_a, "", WORKED_OUT if ratio.derived else "data sheet"),
    ]


def _catalyst(bench: _Bench, _: str):
    use, catalyst = bench.plan.resin, bench.resin.catalyst
    source = str(catalyst.sources["density_g_per_cm3"])
    givens = [
        ("m", "to mix", use.mixed_g, "g", WORKED_OUT, "mixed"),
        ("p", "dose", bench.plan.chemistry.dose.catalyst_pct, "%", WORKED_OUT, "dose"),
        ("d", "density of the catalyst", catalyst.density_g_per_cm3, "g/cm³", source),
    ]
    return "Catalyst", "m × p ÷ 100 ÷ d", givens, use.catalyst_ml, "ml", "By weight of resin, measured by volume."


def _cost(bench: _Bench, _: str):
    rows = [(line.name, line.cost) for line in bench.plan.cost.lines]
    rule = (
        "Fabric as covered, before cutting waste; resin, hardener and filler as mixed. Prices as the materials state."
    )
    return _sum_of("Materials", rows, "", bench.plan.cost.total, rule)


_WORKINGS: dict[str, Callable[[_Bench, str], tuple]] = {
    "dew": _dew,
    "area": _area,
    "outline": _outline,
    "thickness": _thickness,
    "ply_thickness": _ply_thickness,
    "ply_resin": _ply_resin,
    "laminate": _laminate,
    "fibre_share": _fibre_share,
    "weight": _weight,
    "life": _life,
    "dose": _dose,
    "paste": _paste,
    "pot": _pot,
    "use_by": _use_by,
    "chance": _chance,
    "first_pour": lambda bench, pot_id: _pour(bench, pot_id, 0),
    "second_pour": lambda bench, pot_id: _pour(bench, pot_id, 1),
    "ratio_error": _ratio_error,
    "mixed": _mixed,
    "to_have": _to_have,
    "part_a": _part_a,
    "part_b": _part_b,
    "catalyst": _catalyst,
    "cost": _cost,
}
