"""A kind of work is a folder and one line in a list: a made-up one comes up wherever a job is told.

Of `layup.architecture`, `layup.vessels`, `layup.kind`, `layup.kinds`, `layup.resin_use`, `layup.headlines`, `layup.workbook`.
"""

import io
from typing import get_args
from unittest import TestCase, mock

from openpyxl import load_workbook

from layup import kinds
from layup.architecture import BUILDS, Architecture
from layup.cautions.rule import Finding, Rule
from layup.day.day_list import entries_of
from layup.job import Joint, JointKind, PotVessel
from layup.joints.asked import ASKED
from layup.kind import Draft, KindOfWork, Sheet, Turn
from layup.laminate.kind import LAMINATE
from layup.laminate.measures import SHAPES, asked_for, measure
from layup.laminate.section_picture import section_svg
from layup.library import generic
from layup.materials import Fabric
from layup.plan import plan
from layup.pots.work import Owner, Work
from layup.preparing.before_pot import BuyLine
from layup.preparing.buying import shopping_list
from layup.preparing.cost import Used
from layup.preparing.cutting import cut_plan
from layup.preparing.lines import MEMORY, line_of
from layup.preparing.preparation import checklist
from layup.shapes import Girths, Shape
from layup.vessels import VESSELS
from layup.workbook import write_workbook
from layup.workings.worked import working
from tests.core.jobs import at, fabric, jointed, on, panel
from tests.core.test_working import worked_by_hand


class Caulk(KindOfWork):
    """A seam run full, made up for this test; the job says nothing of it."""

    key, after = "caulk", ("joints",)
    rules = (Rule("caulk.wet", "note", "joints", "Why.", "Do.", MEMORY, lambda facts: [Finding("parts", "Wet")]),)
    workings = {"caulk": lambda bench, _: ("Caulk", "a", [("a", "run", 400.0, "g", MEMORY)], 400.0, "g", "As run.")}

    def has(self, job):
        return True

    def lay(self, job, mixes, draft):
        if mixes:
            draft.lay(Owner("c", "Caulk", 1, (Work("run the seam", "c", "c", 400, 20, area_m2=1),)), Turn.JOINTS)

    def headline(self, step, plan, scales):
        return "one seam"

    def resin_g(self, draft: Draft, use_id):
        return {"in_joints_g": 400.0} if use_id == "resin" else {}

    def used(self, draft):
        yield Used("Cotton", 2, 3.5)

    def preparation(self, job, plan, scales):
        yield line_of("rake", "Rake out the seam", "Old caulk holds nothing.", MEMORY)

    def to_buy(self, job, plan, library, scales):
        yield BuyLine(chapter="used up", what="Cotton", variant="", need=2, unit="", buy="2", cost=7, source=MEMORY)

    def sheets(self, job, plan):
        yield Sheet("Caulk", ("seam",), [("the garboard",)])


class OneTableAFamily(TestCase):
    def test_an_architecture_is_whole_or_fails_here(self):
        """Whatever is built so can be planned, cut, drawn, bought for and written in the quick line."""
        self.assertEqual(set(BUILDS), set(Architecture))
        base = fabric("cloth-300").model_dump(mode="json")
        for architecture in Architecture:
            own = {"id": "own", "name": "own", "architecture": architecture, "areal_weight_gsm": 300}
            if architecture is Architecture.CORE:
                own |= {"core_thickness_mm": 5, "fibre": "foam"}
            if architecture is Architecture.COMBINATION:
                own |= {"mat_share": 0.5}
            if architecture is Architecture.CORE or BUILDS[architecture].comes_off:
                own |= {"resin_taken_gsm": 200}
            sources = base["sources"] | dict.fromkeys(("core_thickness_mm", "mat_share", "resin_taken_gsm"), "memory")
            sources = {name: source for name, source in sources.items() if (base | own).get(name) is not None}
            made = Fabric.model_validate(base | own | {"sources": sources})
            job = on(panel("epoxy-2-1", "cloth-300", "cloth-300"))
            ply = job.parts[0].plies[1].model_copy(update={"fabric_id": "own", "fibre_weight_fraction": None})
            if made.reinforces:
                ply = ply.model_copy(update={"fibre_weight_fraction": 0.45})
            part = job.parts[0].model_copy(update={"plies": (job.parts[0].plies[0], ply)})
            fabrics = (*job.materials.fabrics, made)
            materials = job.materials.model_copy(update={"fabrics": fabrics})
            job = job.model_copy(update={"parts": (part,), "materials": materials})
            with self.subTest(architecture=architecture):
                found = plan(job, at(20))
                self.assertEqual((found.problems, len(found.parts[0].plies)), ((), 2))
                drawn = f"ply-{ply.id}" in section_svg(found.parts[0], at(20).scales)
                self.assertEqual(drawn, not BUILDS[architecture].comes_off)
                self.assertEqual(len(cut_plan(job).pieces), 2)
                self.assertTrue(shopping_list(job, found, cut_plan(job), generic(), at(20).scales).lines)

    def test_a_vessel_is_whole_or_fails_here(self):
        self.assertEqual(set(VESSELS), set(get_args(PotVessel)))
        for vessel in VESSELS:
            with self.subTest(vessel=vessel):
                job = panel("epoxy-2-1", "cloth-300", pots={"vessel": vessel})
                pot = plan(job, at(20)).pots[0]
                self.assertEqual(any("a tray" in thing for thing in pot.ticket.set_out), VESSELS[vessel].poured)
                self.assertGreater(working(f"life:{pot.id}", job, at(20)).result, 0)


class WithoutAMix(TestCase):
    def test_joints_past_what_can_be_planned_are_told_so(self):
        chine = {"kind": "corner", "length_m": 1, "radius_mm": 10, "filler_id": "wood-flour", "count": 200}
        found = plan(jointed(*(chine | {"id": f"j{n}"} for n in range(110))), at(20))
        self.assertEqual((len(found.joints), found.pot_count), (0, 0))
        self.assertIn("layers are more than one job can be planned with", found.problems[-1].message)

    def test_a_job_of_joints_alone_is_not_sent_back_to_its_stack(self):
        chine = {"id": "j", "kind": "corner", "length_m": 1, "radius_mm": 10, "filler_id": "wood-flour"}
        states = {step.step: step.state for step in plan(jointed(chine), at(20)).steps}
        self.assertEqual((states["measure"], states["stack"], states["joints"]), ("", "", "ready"))


class AKindOfItsOwn(TestCase):
    def setUp(self):
        patched = mock.patch.object(kinds, "KINDS", (LAMINATE, Caulk()))
        patched.start()
        self.addCleanup(patched.stop)
        self.job, self.shop = panel("epoxy-2-1", "cloth-300"), at(20)
        self.plan = plan(self.job, self.shop)

    def test_it_is_planned_laid_and_counted(self):
        own = [pot for pot in self.plan.pots if pot.owner_id == "c"]
        self.assertAlmostEqual(sum(pot.count * pot.laid_g for pot in own), 400)
        self.assertIn("run the seam", own[0].labels[0])
        self.assertTrue(all(pot.ticket.pours for pot in own))
        self.assertIn("c", [lane.owner_id for lane in self.plan.run_sheet.lanes])
        self.assertTrue(any("run the seam" in entry.what for entry in entries_of(self.plan)))
        self.assertEqual(self.plan.resins[0].use.in_joints_g, 400)
        self.assertIn("Cotton", [line.name for line in self.plan.cost.lines])

    def test_it_has_its_step_its_caution_and_its_working(self):
        step = next(step for step in self.plan.steps if step.step == "joints")
        self.assertEqual((step.headline, step.state), ("one seam", "ready"))
        self.assertIn("caulk.wet", [caution.id for caution in self.plan.cautions])
        self.assertEqual(working("caulk:c", self.job, self.shop).result, 400)

    def test_it_is_prepared_bought_and_put_in_the_workbook(self):
        self.assertIn("Rake out the seam", [line.words for line in checklist(self.job, self.plan, self.shop.scales)])
        bought = shopping_list(self.job, self.plan, cut_plan(self.job), generic(), self.shop.scales)
        self.assertIn("Cotton", [line.what for line in bought.lines])
        book = load_workbook(io.BytesIO(write_workbook(self.job, self.plan)))
        self.assertEqual(book["Caulk"]["A2"].value, "the garboard")

    def test_a_shape_and_a_joint_are_whole_or_fail_here(self):
        """Each is asked for by its own fields, is measured once all of them are typed, and is followed to its area."""
        for shape in get_args(get_args(Shape)[0]):
            told = SHAPES[shape.model_fields["kind"].default]
            if shape is Girths:
                continue
            with self.subTest(shape.__name__):
                self.assertEqual([field for field, _ in asked_for(shape())], [each.field for each in told.asked])
                whole = shape(**{each.field: each.example for each in told.asked})
                job = on(panel("epoxy-2-1", "cloth-300"), shape=whole)
                shown = working(f"outline:{job.parts[0].id}", job, at(20))
                self.assertAlmostEqual(worked_by_hand(shown), measure(whole).area_m2)
        for kind in get_args(JointKind):
            with self.subTest(kind):
                must = {each.field: each.example or 3 for each in ASKED[kind] if each.ask}
                self.assertEqual(set(must) - set(Joint.model_fields), set())
                job = jointed({"kind": kind, "filler_id": "wood-flour"} | must)
                self.assertEqual(plan(job, at(20)).problems, ())
