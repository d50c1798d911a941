"""What a working says is what the plan says: its formula, worked out by the test from the numbers it shows.

Of `layup.workings.job`, `layup.workings.pots`, `layup.workings.worked`, `layup.laminate.workings`, `layup.joints.workings`.
"""

import math
import re
from contextlib import suppress
from itertools import product
from math import log2
from statistics import NormalDist
from unittest import TestCase

from cradle.demo_jobs import buoy_lid, locker_lid, skiff
from layup.errors import Missing
from layup.job import Conditions, JobSpec, PotWishes
from layup.plan import plan
from layup.shop_facts import RoomDay, ShopFacts
from layup.workings.bench import Bench
from layup.workings.worked import worked, working, workings
from tests.core.jobs import at, corner, jointed, panel, strips

SHED = ShopFacts(conditions=Conditions(room_c=19, surface_c=17.5, humidity_pct=62))
KNOWN = {
    "exp": math.exp,
    "ln": math.log,
    "sqrt": math.sqrt,
    "π": math.pi,
    "max": max,
    "min": min,
    "nearest": lambda value, step: round(round(value / step) * step, 6),
    "Φ": NormalDist().cdf,
}


def worked_by_hand(shown) -> float:
    """The formula's value, from nothing but the formula and the numbers beside it."""
    formula = shown.formula.translate(str.maketrans("×÷−", "*/-"))
    assert re.fullmatch(r"[\w\s.,()+*/Φπ-]+", formula), formula
    names = KNOWN | {given.symbol: given.value for given in shown.givens}
    return eval(formula, {"__builtins__": {}}, names)


class WordsAndNumbers(TestCase):
    def check(self, about: str, number: float, bench: Bench):
        with self.subTest(about=about, job=bench.job.name):
            shown = worked(bench, about)
            self.assertAlmostEqual(shown.result, number, delta=1e-9 * max(1, abs(number)))
            self.assertAlmostEqual(worked_by_hand(shown), number, delta=1e-6 * max(1, abs(number)))
            self.assertTrue(shown.title and shown.rule and shown.givens)
            self.assertTrue(all(given.source for given in shown.givens))
            for given in shown.givens:
                if given.about:
                    self.assertAlmostEqual(worked(bench, given.about).result, given.value, places=6)

    def assert_each_number(self, job, facts=SHED):
        bench = Bench(job, facts, plan(job, facts))
        answer = bench.plan
        if answer.dew:
            self.check("dew", answer.dew.margin_c, bench)
        if answer.parts:
            self.check("area", sum(part.total_area_m2 for part in answer.parts), bench)
        for part in answer.parts:
            self.check(f"area:{part.id}", part.total_area_m2, bench)
            self.check(f"outline:{part.id}", part.outline_m2, bench)
            self.check(f"thickness:{part.id}", part.thickness_mm, bench)
            self.check(f"laminate:{part.id}", part.laminate_gsm, bench)
            self.check(f"fibre_share:{part.id}", 100 * part.fibre_weight_fraction, bench)
            self.check(f"fibre_volume:{part.id}", 100 * part.fibre_volume_fraction, bench)
            self.check(f"weight:{part.id}", part.weight_g, bench)
            for ply in part.plies:
                self.check(f"ply_resin:{ply.id}", ply.resin_g * part.count, bench)
                self.check(f"ply_thickness:{ply.id}", ply.thickness_mm, bench)
        for joint in answer.joints:
            self.check(f"paste:{joint.id}", joint.paste_ml, bench)
            self.check(f"joint_resin:{joint.id}", joint.all_resin_g, bench)
        for pot in answer.pots:
            self.check(f"pot:{pot.id}", pot.mass_g, bench)
            self.check(f"life:{pot.id}", pot.life_min, bench)
            self.check(f"use_by:{pot.id}", pot.use_by_min, bench)
            self.check(f"chance:{pot.id}", pot.chance_lost, bench)
            self.check(f"ratio_error:{pot.id}", pot.ticket.ratio_error_pct, bench)
            self.check(f"first_pour:{pot.id}", pot.ticket.pours[0].amount, bench)
            self.check(f"second_pour:{pot.id}", pot.ticket.pours[1].amount, bench)
        self.check("life", answer.resins[0].chemistry.life_min, bench)
        if answer.resins[0].chemistry.dose:
            self.check("dose", answer.resins[0].chemistry.dose.catalyst_pct, bench)
        self.check("chance_any", answer.run_sheet.chance_any, bench)
        self.check("mixed", answer.resins[0].use.mixed_g, bench)
        self.check("to_have", answer.resins[0].use.to_have_g, bench)
        if answer.resins[0].use.part_a_g:
            self.check("part_a", answer.resins[0].use.part_a_g, bench)
            self.check("part_b", answer.resins[0].use.part_b_g, bench)
        if answer.resins[0].use.catalyst_ml:
            self.check("catalyst", answer.resins[0].use.catalyst_ml, bench)
        if answer.cost.total is not None:
            self.check("cost", answer.cost.total, bench)

    def test_every_headline_of_the_two_part_job(self):
        self.assert_each_number(skiff())

    def test_every_kind_of_joint(self):
        line = {"length_m": 1.4, "width_mm": 30, "depth_mm": 5, "filler_id": "silica", "count": 3}
        kinds = [line | {"kind": kind} for kind in ("glue line", "scarf", "gap", "bedding")]
        holes = {"kind": "holes", "hole_count": 40, "diameter_mm": 4, "depth_mm": 12, "filler_id": "silica"}
        raked = corner(angle_deg=70, sides=2, glue_mm=0.8, tabs=strips(120), applied="from a bag")
        self.assert_each_number(jointed(*kinds, holes, raked, pots={"hands": 2}))

    def test_every_headline_of_the_catalysed_job(self):
        self.assert_each_number(buoy_lid())
        self.assert_each_number(locker_lid())

    def test_a_life_fitted_to_a_label(self):
        for job in (skiff(), buoy_lid()):
            document = job.model_dump()
            held = document["materials"]["resins"][0]
            table = [{"ends": "gel", "temperature_c": t, "minutes": m} for t, m in ((12, 45), (18, 30), (25, 17))]
            for thing in (*held["hardeners"], *([held["catalyst"]] if held["catalyst"] else [])):
                thing["stated_times"] = table
            self.assert_each_number(type(job).model_validate(document))
        self.assert_each_number(buoy_lid(), SHED.model_copy(update={"dose_tool": "scale"}))

    def test_what_builders_report_of_large_pots_is_told_where_it_is_taken_off_and_not_elsewhere(self):
        """memory: a tenth of its life at each doubling past the stated mass, and nothing under it."""
        for area_m2, large in ((4, True), (0.1, False)):
            job = panel("epoxy-2-1", "cloth-300", width_m=1, length_m=area_m2, pots={"share": 0.95})
            bench = Bench(job, at(16), plan(job, at(16)))
            pot = max(bench.plan.pots, key=lambda pot: pot.mass_g)
            rule = worked(bench, f"life:{pot.id}").rule
            kept = 0.9 ** log2(max(pot.mass_g, 100) / 100)
            self.assertEqual((kept < 0.9), large)
            taken = f"a tenth for each doubling (memory): {100 * (1 - kept):.0f} % is taken off its life here."
            self.assertEqual(taken in rule, large, rule)
            self.assertEqual("is taken off" in rule, large)

    def test_every_way_of_measuring(self):
        job = skiff()
        # Its glue line is run from a bag, in pots smaller than these tools measure.
        job = job.model_copy(update={"joints": job.joints[:3]})
        by_volume = job.model_copy(update={"practice": job.practice.model_copy(update={"basis": "volume"})})
        for tools in ({"volume_tool": "pumps"}, {"volume_tool": "numbered cup", "cup_ratio": "2:1"}):
            self.assert_each_number(by_volume, SHED.model_copy(update=tools))
        for basis in ("weight", "volume"):
            own_cups = {"basis": basis, "vessels": "each in its own"}
            self.assert_each_number(job.model_copy(update={"practice": job.practice.model_copy(update=own_cups)}))
            for more in ({}, own_cups):
                thin_first = {"basis": basis, "pour_order": "the thinner part"} | more
                self.assert_each_number(job.model_copy(update={"practice": job.practice.model_copy(update=thin_first)}))
        self.assert_each_number(buoy_lid(), SHED.model_copy(update={"dose_tool": "drops", "drops_per_ml": 28}))

    def test_pots_of_another_hour_and_out_of_a_tray(self):
        warming = SHED.model_copy(update={"day": RoomDay(coldest_c=12, warmest_c=27)})
        for job in (skiff(), buoy_lid()):
            self.assert_each_number(job, warming)
            self.assert_each_number(job.model_copy(update={"pots": PotWishes(vessel="tray", share=0.6)}), warming)

    def test_a_blend(self):
        job = skiff()
        wishes = {"hardener_id": "epoxy-2-1-medium", "blend_id": "epoxy-2-1-slow", "blend_share": 0.4}
        self.assert_each_number(job.model_copy(update={"resins": (job.resins[0].model_copy(update=wishes),)}))

    def test_by_volume_and_by_a_typed_area(self):
        job = skiff()
        job = job.model_copy(update={"joints": job.joints[:3]})
        self.assert_each_number(
            job.model_copy(update={"practice": job.practice.model_copy(update={"basis": "volume"})})
        )
        typed = panel("epoxy-5-1", "cloth-300", practice={"basis": "volume"}).model_dump()
        typed["parts"][0]["shape"] = {"kind": "area", "area_m2": 1.4}
        self.assert_each_number(skiff().model_validate(typed))

    def test_every_number_of_every_job_is_worked_out_or_is_told_to_be_missing(self):
        """No fault of a working's own is taken for a number that is not there yet."""
        whole = (skiff(), buoy_lid(), locker_lid(), panel("epoxy-2-1"))
        cold, by_volume = Conditions(room_c=-5), {"basis": "volume"}
        changes = (
            {},
            {"resins": [{"id": "resin"}]},
            {"conditions": cold},
            {"practice": by_volume},
            {"joints": ()},
            {"parts": ()},
        )
        for job, changed in product(whole, changes):
            job = JobSpec.model_validate(job.model_copy(update=changed).model_dump(mode="json"))
            found = plan(job, at(20))
            bench = Bench(job, at(20), found)
            things = (
                *found.parts,
                *(ply for part in found.parts for ply in part.plies),
                *found.joints,
                *found.pots[:3],
            )
            for name, thing in product(workings(), ("", "gone", *(thing.id for thing in things))):
                with self.subTest(job=job.name, changed=changed, about=f"{name}:{thing}"), suppress(Missing):
                    self.assertTrue(math.isfinite(worked(bench, f"{name}:{thing}" if thing else name).result))

    def test_a_number_the_plan_has_not_is_refused_in_words(self):
        for about, job in (
            ("life", panel("epoxy-2-1")),
            ("thickness:none", skiff()),
            ("luck", skiff()),
            ("dose", skiff()),
        ):
            with self.subTest(about=about), self.assertRaises(Missing):
                working(about, job, at(20))
