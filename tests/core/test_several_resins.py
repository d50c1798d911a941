"""A job that uses several resins: one schedule, pots of each, and what lies on what.

Of `layup.job`, `layup.job_file`, `layup.plan`, `layup.day.planner`, `layup.pots.sizing`, `layup.resin_use`,
`layup.preparing.buying`, `layup.cautions.layers`, `layup.cautions.materials`, `layup.workings.bench`, `layup.day.due`,
`layup.chemistry.one_part`, `layup.chemistry.cure`, `layup.materials`, `layup.workings.pots`, `layup.pots.verdict`,
`layup.laminate.parts`.
"""

import json
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from cradle.demo_jobs import buoy_lid, skiff
from layup.day.due import PotDone, due_of
from layup.errors import Missing
from layup.job import JobSpec
from layup.job_file import read_document, read_job, write_job
from layup.laminate.notation import parse_line
from layup.laminate.stack_words import with_stack
from layup.library import generic
from layup.materials import OnePart, ResinSystem
from layup.plan import plan
from layup.pots.pot_check import check_pot
from layup.pots.sizing import mixed_for_g
from layup.preparing.buying import shopping_list
from layup.preparing.cutting import cut_plan
from layup.preparing.preparation import checklist
from layup.workings.worked import working
from tests.core.jobs import at, corner, fabric, filler, on, panel, primed, resin, using
from tests.core.test_working import worked_by_hand

SECOND = {"id": "second", "word": "second"}


def coated(resin_id: str, coat: dict, *, under: bool = False, **part) -> JobSpec:
    """A panel of one cloth with a coat of the second resin over or under it."""
    cloth, laid = (
        {"id": "y0", "fabric_id": "cloth-300"},
        {"id": "c", "coat": {"resin_gsm": 600, "use_id": "second"} | coat},
    )
    plies = [laid, cloth] if under else [cloth, laid]
    return using(on(panel("epoxy-2-1", "cloth-300"), plies=plies, **part), SECOND | {"resin_id": resin_id})


def mixed_job(wet: str, coat: str, joint: str) -> JobSpec:
    """Cloth over plywood with two coats and a fillet, each in one of three resins."""
    document = json.loads(write_job(on(panel("epoxy-2-1", "cloth-300"), substrate="bare plywood", use_id=wet)))
    document["parts"][0]["plies"] += [
        {"id": "c1", "coat": {"kind": "fill", "resin_gsm": 150, "use_id": coat}},
        {"id": "c2", "coat": {"kind": "fill", "resin_gsm": 150}},
    ]
    document["joints"] = [{"id": "j", "use_id": joint} | corner()]
    document["materials"]["fillers"] = [filler("wood-flour").model_dump(mode="json")]
    job = JobSpec.model_validate(document)
    return using(
        job, SECOND | {"resin_id": "epoxy-coating"}, {"id": "glue", "resin_id": "epoxy-2-1", "hardener_id": SLOW}
    )


SLOW = "epoxy-2-1-slow"
NAMES = st.sampled_from(["", "resin", "second", "glue"])


class OneScheduleOfAll(TestCase):
    @given(NAMES, NAMES, NAMES)
    def test_no_pot_serves_two_resins_and_every_gram_is_laid_in_its_own(self, wet, coat, joint):
        job = mixed_job(wet, coat, joint)
        found = plan(job, at(20))
        self.assertEqual(found.problems, ())
        laid = dict.fromkeys(("resin", "second", "glue"), 0.0)
        for pot in found.pots:
            laid[pot.use_id] += pot.count * pot.laid_g
        part = found.parts[0]
        own, of_joint = wet or "resin", joint or "resin"
        wanted = dict.fromkeys(laid, 0.0)
        wanted[own] += part.wet_out_g + part.plies[0].resin_g + part.plies[0].mopped_off_g + part.plies[2].resin_g
        wanted[coat or own] += part.plies[1].resin_g
        wanted[of_joint] += found.joints[0].all_resin_g
        for use_id, grams in wanted.items():
            self.assertAlmostEqual(laid[use_id], grams, 6)
            told = found.resin_of(use_id).use
            self.assertAlmostEqual(told.mixed_g, sum(p.count * p.mass_g for p in found.pots if p.use_id == use_id))
        labels = {(pot.use_id, label) for pot in found.pots for label in pot.labels}
        self.assertTrue(all(pot.resin_name == found.resin_of(pot.use_id).chemistry.resin_name for pot in found.pots))
        self.assertIn((own, "wet out the surface"), labels)

    def test_what_is_named_outright_is_what_nothing_named_means(self):
        named, unnamed = plan(mixed_job("resin", "second", "resin"), at(20)), plan(mixed_job("", "second", ""), at(20))
        self.assertEqual(named.pots, unnamed.pots)
        self.assertEqual(named.run_sheet, unnamed.run_sheet)

    def test_a_gel_coat_tacks_by_its_own_label_before_the_first_mat(self):
        """exact: the library's label says tack free after 120 min at 20 °C; the mats go on wet on wet."""
        sheet = plan(buoy_lid(), at(20)).run_sheet
        gel, first, second = sheet.layers[:3]
        self.assertEqual((gel.words, first.words), ("gel coat", "ply 2, 300 chopped mat"))
        touched = sheet.pots[gel.last_pot - 1].touch_min
        self.assertAlmostEqual(gel.opens_min, touched + 120, delta=0.01)
        self.assertGreaterEqual(first.from_min, gel.opens_min)
        self.assertLess(second.from_min, first.to_min + 20)

    def test_a_coat_over_polyester_waits_until_it_has_gelled(self):
        """memory: one and a half gels to its tack; a mat goes on wet on wet all the same."""
        wet = panel("polyester-general", "csm-300", "csm-450")
        plies = [
            *wet.model_dump(mode="json")["parts"][0]["plies"],
            {"id": "top", "coat": {"kind": "fill", "resin_gsm": 300}},
        ]
        found = plan(on(wet, plies=plies), at(20))
        wetted, mats, coat = found.run_sheet.layers[0], found.run_sheet.layers[-2], found.run_sheet.layers[-1]
        self.assertIn("fill coat", coat.words)
        gel_min = found.resins[0].chemistry.dose.gel_min
        last = found.run_sheet.pots[mats.last_pot - 1]
        self.assertAlmostEqual(mats.opens_min, last.touch_min + 1.5 * gel_min, delta=0.01)
        self.assertGreaterEqual(coat.from_min, mats.opens_min)
        self.assertLess(wetted.opens_min, wetted.to_min)

    def test_one_hardener_for_the_glue_and_another_for_the_laminate_of_one_tin(self):
        found = plan(skiff(), at(20))
        chosen = {each.id: next(row.name for row in each.chemistry.hardeners if row.chosen) for each in found.resins}
        self.assertEqual((chosen["glue"], chosen["resin"]), ("slow", "medium"))
        glued = [pot for pot in found.pots if pot.owner_id == "gunwale"]
        self.assertEqual({pot.use_id for pot in glued}, {"glue"})
        self.assertIn("slow", glued[0].ticket.pours[1].what)

    def test_a_resin_that_is_not_chosen_holds_up_nothing_else(self):
        job = using(mixed_job("", "", ""), {"id": "later", "word": "gel coat"})
        document = job.model_dump(mode="json")
        document["parts"][0]["plies"][1]["coat"]["use_id"] = "later"
        found = plan(JobSpec.model_validate(document), at(20))
        asked = [(problem.path, problem.message) for problem in found.problems]
        self.assertEqual(asked, [("resins.3.resin_id", "choose the resin for gel coat")])
        self.assertNotIn("later", {pot.use_id for pot in found.pots})
        self.assertIn("wet out the surface", {label for pot in found.pots for label in pot.labels})

    def test_a_resin_that_was_taken_out_is_asked_for_where_it_is_named(self):
        for path, job in (
            ("parts.0.use_id", on(panel("epoxy-2-1", "cloth-300"), use_id="gone")),
            ("joints.0.use_id", mixed_job("", "", "gone")),
            ("parts.0.plies.1.coat.use_id", mixed_job("", "gone", "")),
        ):
            with self.subTest(path=path):
                found = plan(job, at(20))
                self.assertEqual([problem.path for problem in found.problems], [path])
                self.assertNotIn("gone", {pot.use_id for pot in found.pots})

    def test_a_stack_that_is_written_anew_keeps_the_resin_of_its_coats(self):
        job = buoy_lid()
        read = parse_line("550 gel coat, 300 csm, 450 csm, 150 fill", generic().fabrics).plies
        plies = with_stack(job, "lid", read).parts[0].plies
        coats = [(ply.id, ply.coat.resin_gsm, ply.coat.use_id) for ply in plies if ply.coat]
        self.assertEqual(coats[0], ("lid-gel", 550, "gel"))
        self.assertEqual(coats[1][1:], (150, ""))

    def test_hands_are_shared_so_no_two_pots_are_mixed_at_once(self):
        sheet = plan(skiff(), at(20)).run_sheet
        for before, after in zip(sheet.pots, sheet.pots[1:], strict=False):
            self.assertGreaterEqual(after.weigh_min, before.used_min - 0.02)


class OutOfOneTin(TestCase):
    """A primer that the air sets, under polyester over plywood. Common practice: tacky in 75 min, covered within 4 h."""

    def setUp(self):
        self.job = primed()
        self.found = plan(self.job, at(20))

    def test_one_pour_and_the_mats_within_its_window(self):
        self.assertEqual(self.found.problems, ())
        primer = next(pot for pot in self.found.pots if pot.use_id == "second")
        (pour,) = primer.ticket.pours
        self.assertEqual((pour.what, pour.running), ("Moisture-cured primer", pour.amount + primer.ticket.cup_g))
        self.assertGreaterEqual(pour.grams, mixed_for_g(primer.laid_g))
        self.assertIn("shut the tin", primer.ticket.mixing[-1])
        sheet = self.found.run_sheet
        coat = next(layer for layer in sheet.layers if layer.words == "sealing coat")
        mat = next(layer for layer in sheet.layers if layer.from_min > coat.from_min)
        touched = sheet.pots[coat.last_pot - 1].touch_min
        self.assertAlmostEqual(coat.opens_min, touched + 75, delta=0.01)
        self.assertAlmostEqual(coat.closes_min, touched + 240, delta=0.01)
        self.assertTrue(coat.opens_min <= mat.from_min <= coat.closes_min)

    def test_what_is_told_bought_and_worn(self):
        told = self.found.resin_of("second")
        self.assertTrue(told.chemistry.sentence.startswith("Out of one tin: tacky from 75 min"))
        self.assertEqual((told.use.part_a_g, told.use.part_b_g, told.use.catalyst_g), (None, None, None))
        lines = shopping_list(self.job, self.found, cut_plan(self.job), generic()).lines
        (line,) = (line for line in lines if line.what == "Moisture-cured primer")
        self.assertAlmostEqual(line.need, told.use.to_have_g / 1000, 6)
        worn = {line.id: line.words for line in checklist(self.job, self.found, at(20).scales)}
        self.assertIn("mask fed with air", worn["protection-moisture"])
        self.assertNotIn("protection-epoxy", worn)
        raised = {caution.id for caution in self.found.cautions}
        self.assertEqual(
            raised & {"materials.styrene_over_epoxy", "materials.epoxy_over_polyester", "people.skin"}, set()
        )

    def test_a_warmer_room_halves_it(self):
        """memory: 10 °C warmer, half as long; the working says so from the numbers beside it."""
        warm = plan(self.job, at(30)).resin_of("second").chemistry
        self.assertAlmostEqual(warm.clocks.tack_min, 75 / 2, delta=0.1)
        self.assertAlmostEqual(warm.clocks.window_closes_min, 240 / 2, delta=0.1)
        self.assertAlmostEqual(warm.clocks.sandable_min, 720 / 2, delta=0.1)
        shown = working("life:second", self.job, at(30))
        self.assertAlmostEqual(shown.result, 60, delta=0.1)
        self.assertAlmostEqual(worked_by_hand(shown), shown.result, places=6)

    def test_there_is_no_ratio_to_check(self):
        pot = next(pot for pot in self.found.pots if pot.use_id == "second")
        with self.assertRaisesRegex(Missing, "nothing is mixed into"):
            check_pot(self.job, at(20), self.found, pot, 200, 10)

    def test_it_is_tacky_before_it_must_be_covered(self):
        sets = next(resin for resin in generic().resins if resin.one_part).one_part.model_dump()
        with self.assertRaises(ValidationError):
            OnePart.model_validate(sets | {"cover_by_min": 60})
        with self.assertRaises(ValidationError):
            ResinSystem.model_validate(resin("epoxy-2-1").model_dump() | {"one_part": sets})


class ByTheResinAtHand(TestCase):
    def test_one_tin_for_two_works_is_bought_once_with_both_hardeners(self):
        job = skiff()
        found = plan(job, at(20))
        lines = [line for line in shopping_list(job, found, cut_plan(job), generic()).lines if line.chapter == "resin"]
        tins = [line.need for line in lines if line.what == "Laminating epoxy, 2 to 1"]
        uses = [found.resin_of(use_id).use for use_id in ("resin", "glue")]
        wanted = sum(use.part_a_g * use.to_have_g / use.mixed_g for use in uses) / 1000
        self.assertEqual(len(tins), 1)
        self.assertAlmostEqual(tins[0], wanted, 6)
        bought = {line.what for line in lines}
        self.assertLessEqual({"Hardener, medium", "Hardener, slow", "Coating epoxy, 1 to 1"}, bought)

    def test_a_working_is_of_its_own_resin(self):
        job, shop = buoy_lid(), at(20)
        gel = plan(job, shop).resin_of("gel")
        for about, value in (
            ("life:gel", gel.chemistry.life_min),
            ("dose:gel", gel.chemistry.dose.catalyst_pct),
            ("mixed:gel", gel.use.mixed_g),
            ("catalyst:gel", gel.use.catalyst_ml),
        ):
            self.assertAlmostEqual(working(about, job, shop).result, value, 6)
        self.assertEqual(working("to_have:gel", job, shop).givens[0].about, "mixed:gel")
        self.assertEqual(working("to_have", job, shop).givens[0].about, "mixed")

    def test_what_was_poured_is_held_against_its_own_limits(self):
        job, shop = buoy_lid(), at(20)
        found = plan(job, shop)
        gel = next(pot for pot in found.pots if pot.use_id == "gel")
        other = next(pot for pot in found.pots if pot.use_id == "resin")
        grades = [check_pot(job, shop, found, pot, 1000, 22).grade for pot in (gel, other)]
        self.assertNotEqual(*grades)

    def test_what_comes_due_goes_by_the_resin_that_was_laid_last(self):
        found = plan(buoy_lid(), at(20))
        clocks = {each.id: each.chemistry.clocks for each in found.resins}
        due = {each.words: each.in_min for each in due_of(found, [PotDone(1, 30, False)]) if each.kind == "window"}
        self.assertEqual(due, {"next ply from": clocks["gel"].next_ply_from_min - 30})
        laid = [PotDone(1, 200, False), PotDone(2, 30, False)]
        due = {each.words: each.in_min for each in due_of(found, laid) if each.kind == "window"}
        self.assertEqual(due, {"next ply before": clocks["resin"].window_closes_min - 30})

    def test_a_caution_points_at_its_resin(self):
        job = using(
            panel("epoxy-2-1", "cloth-300"), SECOND | {"resin_id": "epoxy-2-1", "hardener_id": "epoxy-2-1-extra-slow"}
        )
        found = plan(job, at(18))
        (stop,) = (each for each in found.cautions if each.id == "conditions.hardener_off_band" and each.stops)
        self.assertEqual((stop.path, stop.about), ("resins.1.hardener_id", "resins/second/hardener_id"))

    def test_the_colder_resin_is_named_where_there_are_two(self):
        said = [each.message for each in plan(buoy_lid(), at(16)).cautions if each.id == "conditions.under_minimum"]
        self.assertEqual(said, ["The room is 16 °C; under 18 °C it cures late or not through: Gel coat, without wax"])


class WhatLiesOnWhat(TestCase):
    def raised(self, job: JobSpec) -> dict[str, str]:
        """The cautions of bonding that a job raises, with where."""
        rules = ("materials.styrene_over_epoxy", "materials.epoxy_over_polyester", "materials.epoxy_on_gel_coat")
        return {each.id: each.path for each in plan(job, at(22)).cautions if each.id in rules}

    def test_polyester_on_epoxy_and_under_it(self):
        """common practice, no source: styrene resins do not bond to epoxy; epoxy holds on to polyester by a key."""
        over = coated("gel-coat", {"kind": "gel"})
        self.assertEqual(self.raised(over), {"materials.styrene_over_epoxy": "parts.0.plies.1"})
        under = coated("gel-coat", {"kind": "gel"}, under=True)
        self.assertEqual(self.raised(under), {"materials.epoxy_on_gel_coat": "parts.0.plies.1"})

    def test_epoxy_on_epoxy_is_no_news(self):
        self.assertEqual(self.raised(coated("epoxy-coating", {"kind": "fill"})), {})

    def test_a_primer_between_quiets_it(self):
        primed = coated("epoxy-bonding-primer", {"kind": "seal"}, ground={"later": "gel coat"})
        self.assertEqual(self.raised(primed), {})
        bare = coated("epoxy-coating", {"kind": "seal"}, ground={"later": "gel coat"})
        self.assertEqual(self.raised(bare), {"materials.styrene_over_epoxy": "parts.0.ground.later"})

    def test_the_first_coat_is_what_meets_the_ground(self):
        sealed = coated("epoxy-coating", {"kind": "seal"}, under=True, substrate="cured polyester")
        self.assertEqual(self.raised(sealed), {"materials.epoxy_over_polyester": "parts.0.substrate"})
        gelled = coated("gel-coat", {"kind": "gel"}, under=True, substrate="cured epoxy")
        self.assertEqual(self.raised(gelled)["materials.styrene_over_epoxy"], "parts.0.substrate")

    def test_only_a_mat_that_is_laid_in_epoxy_needs_its_binder_dissolved(self):
        job = using(on(panel("epoxy-2-1", "csm-450"), use_id="second"), SECOND | {"resin_id": "polyester-general"})
        self.assertNotIn("materials.mat_binder_with_epoxy", [each.id for each in plan(job, at(20)).cautions])
        plain = on(job, use_id="")
        self.assertIn("materials.mat_binder_with_epoxy", [each.id for each in plan(plain, at(20)).cautions])


class TheLadder(TestCase):
    FIRST = {"version": 1, "name": "Lid", "chemistry": {"resin_id": "epoxy-2-1", "tin_ratio": "2:1"}}

    def test_the_one_resin_becomes_the_first_in_use(self):
        (use,) = read_document(self.FIRST).resins
        self.assertEqual((use.resin_id, use.tin_ratio, use.word), ("epoxy-2-1", "2:1", ""))
        self.assertEqual(read_document({"version": 1, "name": "Lid"}).resins[0].resin_id, "")

    def test_its_id_is_no_other_things(self):
        job = read_document(self.FIRST | {"parts": [{"id": "resin", "plies": [{"id": "resin-1", "fabric_id": "x"}]}]})
        self.assertNotIn(job.resins[0].id, ("resin", "resin-1"))

    def test_a_reason_to_go_on_past_a_stop_stays_with_it(self):
        override = {"id": "o", "caution_id": "conditions.hardener_off_band", "said": "x", "reason": "only a trial"}
        override["about"] = "chemistry/hardener_id"
        other = override | {"id": "p", "about": "parts/p1"}
        moved, stayed = read_document(self.FIRST | {"overrides": [override, other]}).overrides
        self.assertEqual((moved.about, stayed.about), ("resins/resin/hardener_id", "parts/p1"))

    def test_an_old_plan_of_a_cold_morning_is_the_same_as_a_new_one(self):
        """The stop that was gone past stands gone past in the job that was upgraded."""
        new = panel("epoxy-2-1", "cloth-300", in_use={"resin_id": "epoxy-2-1", "hardener_id": "epoxy-2-1-extra-slow"})
        old = new.model_dump(mode="json") | {"version": 1}
        (use,) = old.pop("resins")
        old["chemistry"] = {key: value for key, value in use.items() if key not in ("id", "word")}
        for part in old["parts"]:
            del part["use_id"]
        self.assertEqual(plan(read_document(old), at(18)), plan(new, at(18)))

    def test_a_file_of_nonsense_is_refused_and_not_a_crash(self):
        for chemistry in (b"3", b'"x"', b"[]", b"null"):
            with self.subTest(chemistry=chemistry), self.assertRaisesRegex(Exception, "object|chemistry"):
                read_job(b'{"version": 1, "name": "Lid", "chemistry": ' + chemistry + b"}")


class Library(TestCase):
    def test_each_kind_of_resin_can_be_mixed_and_laid(self):
        """Every product of the library gives pots with all their pours in an ordinary room."""
        for product in generic().resins:
            with self.subTest(resin=product.id):
                mat = "csm-450" if product.catalyst else "cloth-300"
                found = plan(panel(product.id, mat, practice={"basis": product.bases[0]}), at(21))
                self.assertEqual(found.problems, ())
                self.assertTrue(found.pots)

    def test_the_kinds_that_were_asked_for_are_there(self):
        made_for = {each.made_for for each in generic().resins}
        wanted = {
            "gel coat",
            "top coat",
            "infusion",
            "coating",
            "casting",
            "primer",
            "bonding primer",
            "mould surface",
            "fairing",
        }
        self.assertLessEqual(wanted, made_for)
        self.assertIn("vinyl ester", {each.family for each in generic().resins})
        self.assertIsNotNone(resin("epoxy-casting").deepest_pour_mm)
        self.assertTrue(fabric("csm-450"))
