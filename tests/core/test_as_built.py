"""What was built, against what was done: sections by hand, windows as a foreman reads them, paper and tables.

Of `layup.as_built.built`, `layup.as_built.deviations`, `layup.as_built.words`, `layup.as_built.report`,
`layup.as_built.table`, `layup.laminate.as_laid`, `layup.paper.labels`.
"""

import csv
import io
import json
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from layup.as_built.built import RunToTell, as_built
from layup.as_built.cost import cost_of_built
from layup.as_built.damaged import damage_of
from layup.as_built.outcome import AsBuilt, BuiltPlace, DoneOtherwise, LotDrawn
from layup.as_built.report import NOT_SIZED, report_pdf, tags_pdf
from layup.as_built.table import HEADS, as_built_csv
from layup.as_built.words import gel_words, layer_said
from layup.laminate.as_laid import as_laid
from layup.laminate.notation import parse_line
from layup.library import generic
from layup.paper.kit import Masthead
from layup.plan import plan
from layup.repair.begin import job_of
from layup.scales import METRIC, Scales
from layup.shop_facts import ShopFacts
from tests.core.bench_days import JOBS, card_of, run, tap
from tests.core.jobs import DAY, LONDON, on, panel, resin
from tests.core.test_drawings import words_of

NINE = datetime(2026, 5, 4, 9, 0, tzinfo=LONDON)
PUBLISHED = Path(__file__).resolve().parents[2] / "docs" / "as-built.schema.json"
PANEL = card_of("panel")
PLIES, COAT = PANEL.layers
A, B = (pour.amount for pour in PANEL.pots[0].pours)
POTS = PANEL.pots[PLIES.first_pot - 1 : PLIES.last_pot]
# The scale reads whole grams: a pot poured as its ticket says is not its planned mass to the milligram.
POURED = sum(pour.amount for pot in POTS for pour in pot.pours) / sum(pot.mass_g for pot in POTS)


def told(*events, job="panel", now=600.0, **of_run) -> AsBuilt:
    """A run of one of the jobs of the days, with what happened in it."""
    facts = ShopFacts()
    return as_built(
        RunToTell(
            job=JOBS[job],
            plan=plan(JOBS[job], facts),
            card=card_of(job),
            events=[event for each in events for event in (each if isinstance(each, list) else [each])],
            issued_at=NINE,
            now_min=now,
            **of_run,
        )
    )


def used(pot: int, at: float, times: float = 1.0, *, until: float | None = None) -> list:
    """A pot weighed so many times as large as planned, and used up after ten minutes."""
    first, second = (pour.amount * times for pour in PANEL.pots[pot - 1].pours)
    return [
        tap(at, "A in", str(pot), amount=first),
        tap(at + 1, "B in", str(pot), amount=second),
        tap(at + 2, "stirred", str(pot)),
        tap(at + 10 if until is None else until, "used up", str(pot)),
    ]


def both(at: float = 0.0, times: float = 1.0) -> list:
    """The pots of the plies, and the plies laid."""
    pots = [event for pot in range(PLIES.first_pot, PLIES.last_pot + 1) for event in used(pot, at, times)]
    return [*pots, tap(at + 12, "laid", PLIES.id, "layer")]


class Section(TestCase):
    """Sums by hand: weight over density, without voids (published form)."""

    def test_a_tenth_more_resin_makes_it_thicker_and_wetter(self):
        place = told(both(times=1.1)).places[0]
        planned, laid = place.planned, place.laid
        times = 1.1 * POURED
        fibre, cured = 2.56, resin("epoxy-2-1").cured_density_g_per_cm3
        by_hand = sum(
            (ply.fibre_gsm / fibre + times * ply.resin_gsm / cured) / 1000 for ply in planned.plies if not ply.coat
        )
        self.assertAlmostEqual(laid.thickness_mm, by_hand, 6)
        fibre_gsm = sum(ply.fibre_gsm for ply in planned.plies)
        resin_gsm = sum(ply.resin_gsm for ply in planned.plies if not ply.coat)
        self.assertAlmostEqual(laid.fibre_weight_fraction, fibre_gsm / (fibre_gsm + times * resin_gsm), 9)
        self.assertEqual([ply.id for ply in laid.plies], ["y0", "y1"])
        self.assertEqual([layer.state for layer in place.layers], ["laid", "not laid"])
        self.assertAlmostEqual(place.layers[0].resin_share, times, 9)

    def test_what_was_left_in_the_cup_is_not_on_the_work(self):
        pots = range(PLIES.first_pot, PLIES.last_pot + 1)
        left = [tap(11, "left over", str(pot), grams=PANEL.pots[pot - 1].mass_g / 4) for pot in pots]
        mass_g, laid_g = (sum(getattr(PANEL.pots[pot - 1], of) for pot in pots) for of in ("mass_g", "laid_g"))
        share = told(both(), left).places[0].layers[0].resin_share
        self.assertAlmostEqual(share, (POURED - 0.25) * mass_g / laid_g, 9)

    def test_pots_that_nobody_weighed_say_nothing_of_the_resin(self):
        pots = [
            event
            for pot in range(PLIES.first_pot, PLIES.last_pot + 1)
            for event in (tap(0, "touched", str(pot)), tap(9, "used up", str(pot)))
        ]
        place = told(pots).places[0]
        self.assertIsNone(place.layers[0].resin_share)
        self.assertEqual(place.layers[0].state, "laid")
        self.assertAlmostEqual(place.laid.plies[0].thickness_mm, place.planned.plies[0].thickness_mm, 9)
        self.assertEqual(layer_said(place.layers[0], place, told(), METRIC).resin, "not weighed")

    def test_resin_that_was_weighed_counts_where_its_catalyst_was_drawn_up(self):
        card = card_of("lid")
        self.assertEqual([pour.tool for pour in card.pots[0].pours], ["scale", "syringe"])
        pots = [
            event
            for pot in card.pots
            for event in (
                tap(0, "A in", str(pot.number), amount=1.2 * pot.pours[0].amount),
                tap(1, "B in", str(pot.number), amount=pot.pours[1].amount),
                tap(9, "used up", str(pot.number)),
            )
        ]
        built = told(pots, job="lid")
        self.assertAlmostEqual(built.places[0].layers[0].resin_share, 1.2, 9)
        self.assertAlmostEqual(built.pots[0].made_g, 1.2 * card.pots[0].mass_g, 6)
        # Of a pot whose resin nobody read, the catalyst says nothing.
        self.assertIsNone(told(tap(0, "touched", "1"), job="lid").pots[0].made_g)

    def test_a_card_from_before_its_layers_said_what_they_are_of(self):
        old = PANEL.model_copy(
            update={"layers": tuple(layer.model_copy(update={"item_ids": ()}) for layer in PANEL.layers)}
        )
        facts = ShopFacts()
        run_ = RunToTell(JOBS["panel"], plan(JOBS["panel"], facts), old, both(), NINE, 600.0)
        self.assertEqual(as_built(run_).places[0].laid, told(both()).places[0].laid)
        # Where the plan does not say it either, it is not known, and not told as nothing.
        unsaid = replace(run_, plan=run_.plan.model_copy(update={"run_sheet": None}))
        self.assertIsNone(as_built(unsaid).places[0].laid)

    def test_nothing_done_is_nothing_laid(self):
        built = told()
        self.assertEqual(built.places[0].laid.plies, ())
        self.assertEqual(built.places[0].laid.thickness_mm, 0)
        self.assertEqual((built.pots, built.deviations, built.people, built.coldest_c), ((), (), (), None))

    def test_a_bag_sets_the_resin_and_not_the_pots(self):
        card = card_of("infused")
        pots = [
            event
            for pot in card.pots
            for event in (
                tap(0, "A in", str(pot.number), amount=1.3 * pot.pours[0].amount),
                tap(1, "B in", str(pot.number), amount=1.3 * pot.pours[1].amount),
                tap(20, "used up", str(pot.number)),
            )
        ]
        place = told(pots, job="infused").places[0]
        self.assertTrue(place.by_the_bag)
        self.assertEqual(place.laid.plies, place.planned.plies)
        self.assertEqual(told(pots[:-1], job="infused").places[0].laid.plies, ())

    @given(st.floats(0.3, 3), st.floats(0.3, 3))
    def test_more_resin_is_never_thinner_nor_drier_of_resin(self, one, other):
        part = plan(JOBS["panel"], ShopFacts()).parts[0]
        less, more = sorted((one, other))
        sections = [as_laid(part, {ply.id: share for ply in part.plies}, 1.15) for share in (less, more)]
        self.assertLessEqual(sections[0].thickness_mm, sections[1].thickness_mm)
        self.assertGreaterEqual(sections[0].fibre_weight_fraction, sections[1].fibre_weight_fraction)
        self.assertLessEqual(sections[0].weight_g, sections[1].weight_g)
        self.assertEqual(sections[0].fibre_g, sections[1].fibre_g)

    def test_as_planned_it_is_the_plan(self):
        part = plan(JOBS["panel"], ShopFacts()).parts[0]
        same = as_laid(part, {ply.id: 1.0 for ply in part.plies}, resin("epoxy-2-1").cured_density_g_per_cm3)
        for name, value in part.model_dump().items():
            if isinstance(value, float):
                self.assertAlmostEqual(getattr(same, name), value, 9, name)


class Window(TestCase):
    """How the coat went on to the plies, as a foreman would ask."""

    def coated(self, at: float, *events, **of_run) -> AsBuilt:
        pot = COAT.first_pot
        return told(both(), used(pot, at - 11, until=at - 1), tap(at, "laid", COAT.id, "layer"), *events, **of_run)

    def coat(self, built: AsBuilt):
        return built.places[0].layers[1]

    def test_within_it_too_early_and_too_late(self):
        opens, closes = 12 + PLIES.opens_after_min, 12 + PLIES.closes_after_min
        for at, went_on, deviates in (
            ((opens + closes) / 2, "tacky", []),
            (opens - 5, "wet", ["too early"]),
            (closes + 60, "closed", ["window missed"]),
        ):
            with self.subTest(went_on=went_on):
                built = self.coated(at, now=closes + 1000)
                self.assertEqual(self.coat(built).went_on, went_on)
                self.assertEqual([each.kind for each in built.deviations], deviates)
                self.assertAlmostEqual(self.coat(built).laid_min, at)

    def test_a_key_that_was_written_down_closes_no_window(self):
        late = 12 + PLIES.closes_after_min + 60
        built = self.coated(late, tap(late - 30, "mended", PLIES.id, "layer"), now=late + 1000)
        self.assertEqual(self.coat(built).went_on, "keyed")
        self.assertEqual(built.deviations, ())
        # A key that came after the coat is none.
        after = self.coated(late, tap(late + 30, "mended", PLIES.id, "layer"), now=late + 1000)
        self.assertEqual(self.coat(after).went_on, "closed")

    def test_a_thumb_stands_over_the_clock_and_is_told(self):
        at = 12 + PLIES.opens_after_min - 5
        tested = tap(at - 3, "tested", PLIES.id, "layer", test="thumb", shows="tacky")
        built = self.coated(at, tested)
        self.assertEqual((self.coat(built).went_on, self.coat(built).told_by), ("tacky", "test"))
        said = [layer_said(layer, built.places[0], built, METRIC) for layer in built.places[0].layers]
        self.assertEqual(said[1].went_on, "within the window beneath, by a test")
        self.assertIn(f"thumb {built.moment(at - 3):%H:%M}: tacky", said[0].read)

    def test_what_is_not_laid_is_told_of_a_run_that_is_closed(self):
        self.assertEqual(told(both()).deviations, ())
        closed = told(both(), run(300, "closed", outcome="to be watched"))
        self.assertEqual([each.kind for each in closed.deviations], ["not laid"])
        self.assertIn(COAT.words, closed.deviations[0].words)
        self.assertEqual((closed.outcome, closed.ended_min), ("to be watched", 300))


class Otherwise(TestCase):
    def test_a_wrong_pot_a_press_taken_back_and_who(self):
        wrong = [tap(0, "A in", "1", amount=A), tap(1, "B in", "1", amount=1.5 * B), tap(9, "dumped", "1")]
        back = tap(5, "taken back", "1", "pot", tap_id="b", back="n")
        back = back.model_copy(update={"data": back.data.model_copy(update={"words": "the wrong cup"})})
        built = told(wrong, tap(4, "note", "1", tap_id="n", words="frothy"), back)
        self.assertEqual([each.kind for each in built.deviations], ["off ratio", "pot lost", "taken back"])
        self.assertIn(f"{built.pots[0].off_pct:.0f} % more", built.deviations[0].words)
        self.assertEqual((built.deviations[2].reason, built.deviations[2].by), ("the wrong cup", "wren"))
        self.assertEqual(built.noted, ())
        self.assertEqual(built.pots[0].ended, "dumped")
        self.assertAlmostEqual(built.pots[0].off_pct, 50, delta=2)
        self.assertAlmostEqual(built.pots[0].made_g, A + 1.5 * B)

    def test_what_was_let_be_stands_first_with_its_reason(self):
        waived = DoneOtherwise(kind="waived", words="wipe the mould", by="tern", reason="wiped last night")
        self.assertEqual(told(both(), waived=[waived]).deviations[0], waived)

    def test_rooms_people_notes_and_photos(self):
        lots = {1: (LotDrawn(called="Epoxy, lot E-1", amount=200, unit="g"),)}
        built = told(
            run(-20, "room read", room_c=17.5),
            run(30, "room read", room_c=21),
            both(at=40),
            tap(50, "note", PLIES.id, "layer", words="a dry corner, wetted"),
            tap(55, "photo", "1", tap_id="p", width=40, height=30),
            lots=lots,
            photos={"p": 7},
        )
        self.assertEqual((built.coldest_c, built.warmest_c, built.begun_min), (17.5, 21, -20))
        self.assertEqual(built.people, ("wren",))
        self.assertEqual((built.pots[0].room_c, built.pots[0].lots), (21, lots[1]))
        self.assertEqual(built.places[0].layers[0].room_c, 21)
        self.assertEqual([each.photo for each in built.noted], [None, 7])
        self.assertEqual(built.noted[0].where, f"Panel, {PLIES.words}")
        self.assertEqual(built.noted[1].where, "pot 1")

    def test_a_place_is_asked_for_by_its_name(self):
        built = told(both())
        self.assertEqual([place.called for place in built.at(" pan")], ["Panel"])
        self.assertEqual(built.at("keel"), ())

    def test_strips_of_a_joint_that_is_half_taped(self):
        card = card_of("tabbed corner")
        layer = next(layer for layer in card.layers if layer.strips > 1)
        built = told(
            tap(30, "strip laid", layer.id, "layer", number=1),
            run(90, "closed", outcome="lost"),
            job="tabbed corner",
        )
        told_of = next(each for place in built.places for each in place.layers if each.id == layer.id)
        self.assertEqual((told_of.state, told_of.strips_laid, told_of.strips), ("in part", 1, layer.strips))
        said = next(each.words for each in built.deviations if each.kind == "laid in part")
        self.assertTrue(said.endswith(f"not finished, 1 of {layer.strips} pieces"), said)
        self.assertIsNone(built.places[0].planned)


class Damaged(TestCase):
    """What was built is what is mended: its stack comes back from the quick line as it was laid."""

    def test_the_skin_that_is_seen_and_its_fabrics(self):
        place = told(both()).places[0]
        damage = damage_of(JOBS["panel"], place)
        self.assertEqual(damage.name, "Panel, repaired")
        self.assertAlmostEqual(damage.skin_mm, place.laid.thickness_mm, 2)
        self.assertEqual((damage.core_mm, damage.old_resin), (None, "epoxy"))
        read = parse_line(damage.old_stack, generic().fabrics).plies
        self.assertEqual([ply.fabric.id for ply in read], ["cloth-300", "cloth-300"])
        self.assertIsNone(damage_of(JOBS["panel"], told().places[0]))

    def test_of_a_sandwich_the_first_skin_of_a_mould_and_else_the_last(self):
        for substrate, skin in (("waxed mould", ["biax-600", "csm-450"]), ("bare plywood", ["csm-450", "biax-600"])):
            job = on(
                panel("polyester-general", "csm-450", "biax-600", "foam-10", "csm-450", "biax-600"), substrate=substrate
            )
            part = plan(job, ShopFacts()).parts[0]
            place = BuiltPlace(id="p", owner_id="p", name="Panel", bay="", layers=(), planned=part, laid=part)
            damage = damage_of(job, place)
            with self.subTest(substrate):
                read = parse_line(damage.old_stack, generic().fabrics).plies
                self.assertEqual([ply.fabric.id for ply in read], skin)
                self.assertEqual((damage.core_mm, damage.old_resin), (10, "polyester"))
                laid = part.plies[:2] if substrate == "waxed mould" else part.plies[3:]
                self.assertAlmostEqual(damage.skin_mm, sum(ply.thickness_mm for ply in laid), 2)

    def test_a_repair_can_be_begun_from_it(self):
        damage = damage_of(JOBS["panel"], told(both()).places[0])
        sized = damage.model_copy(update={"width_mm": 80, "length_mm": 120, "back_reached": True})
        begun = job_of(sized, generic())
        self.assertFalse(plan(begun.spec, ShopFacts()).problems)


class Written(TestCase):
    BUILT = told(
        both(times=1.04),
        tap(20, "photo", "1", tap_id="p", width=40, height=30),
        tap(25, "gelled", "2"),
        run(400, "closed", outcome="good"),
        lots={1: (LotDrawn(called="Epoxy, lot E-1", amount=200, unit="g", bad="wet"),)},
        photos={"p": 7},
    )
    HEAD = Masthead("Panel", 1, DAY)

    def test_the_report_says_it_all(self):
        picture = io.BytesIO()
        Image.new("RGB", (40, 30), "teal").save(picture, "JPEG")
        said = words_of(report_pdf(self.HEAD, self.BUILT, "https://shop.example/built/1", {7: picture.getvalue()}))
        for words in (
            "Panel: as built",
            "Closed Mon 4 May 15:40: good.",
            "At the bench: wren.",
            "As planned 0.88 mm",
            "4 % more than planned",
            "Epoxy, lot E-1, a bad lot: wet",
            "on the waxed mould",
            "Mon 4 May 09:12, wren",
            NOT_SIZED,
        ):
            self.assertIn(words, said)

    def test_a_photo_that_is_not_printed_is_told_of(self):
        said = words_of(report_pdf(self.HEAD, self.BUILT, "https://shop.example/built/1", {}))
        self.assertIn("pot 1, a photo, kept in the record", said)

    def test_in_inches(self):
        us = Masthead("Panel", 1, DAY, "Letter", Scales("US"))
        said = words_of(report_pdf(us, self.BUILT, "https://shop.example/built/1", {}))
        self.assertIn(" in,", said)
        self.assertNotIn(" mm", said)

    def test_the_table_has_a_row_for_each_layer(self):
        rows = list(csv.DictReader(io.StringIO(as_built_csv(self.BUILT, METRIC).removeprefix("\ufeff"))))
        self.assertEqual(tuple(rows[0]), HEADS)
        self.assertEqual([row["state"] for row in rows], ["laid", "not laid"])
        self.assertEqual(rows[0]["laid at"], "2026-05-04T09:12+01:00")
        self.assertAlmostEqual(float(rows[0]["resin laid over planned"]), 1.04 * POURED, 6)
        self.assertEqual(rows[0]["lots"], "Epoxy, lot E-1")

    def test_a_tag_names_its_place_and_opens_it(self):
        place = self.BUILT.places[0]
        said = words_of(tags_pdf(self.HEAD, self.BUILT, [(place, "https://shop.example/built/1?place=1")]))
        for words in ("Panel", "1 of 2 layers laid", "Begun 4 May 2026"):
            self.assertIn(words, said)

    def test_what_became_of_each_pot(self):
        pot = self.BUILT.pots[0]
        life, told = f"{pot.life_min:.0f}", gel_words
        self.assertEqual(told(pot), f"used up in 9 min, {life} told")
        self.assertEqual(
            told(pot.model_copy(update={"gelled_in_min": 24})), f"used up in 9 min; the rest gelled in 24 of {life} min"
        )
        lost = pot.model_copy(update={"ended": "gelled", "gelled_in_min": 24, "used_in_min": None})
        self.assertEqual(told(lost), f"gelled in 24 of {life} min")
        self.assertEqual(told(lost.model_copy(update={"ended": "dumped", "gelled_in_min": None})), "dumped")

    def test_what_was_wasted_is_what_was_lost_and_what_was_left(self):
        tin = LotDrawn(id="t", called="Epoxy", amount=300, unit="g")
        roll = LotDrawn(id="r", called="Cloth", amount=4, unit="m")
        box = LotDrawn(id="b", called="Flour", amount=50, unit="g")
        pot = self.BUILT.pots[0].model_copy(update={"made_g": 300, "lots": (tin,)})
        built = self.BUILT.model_copy(
            update={
                "cut": (roll,),
                "pots": (
                    pot,
                    pot.model_copy(update={"left_over_g": 75}),
                    pot.model_copy(update={"ended": "dumped", "lots": (tin, box)}),
                ),
            }
        )
        cost = cost_of_built(built, {"t": 20.0, "r": 7.5, "b": None}, 2.0)
        # By hand: three pots of 6 and 4 m of 7.5; of the second pot a quarter, of the third all.
        self.assertAlmostEqual(cost.known, 3 * 6 + 30)
        self.assertAlmostEqual(cost.wasted, 1.5 + 6)
        self.assertEqual((cost.per_m2, cost.unpriced), (None, ("Flour",)))
        self.assertAlmostEqual(cost_of_built(built, {"t": 20.0, "r": 7.5, "b": 2.0}, 2.0).per_m2, (18 + 30 + 0.1) / 2)
        self.assertIsNone(cost_of_built(built.model_copy(update={"cut": (), "pots": ()}), {}, 2.0))

    def test_its_schema_is_the_published_one_and_it_comes_back(self):
        self.assertEqual(json.loads(PUBLISHED.read_text()), AsBuilt.model_json_schema())
        self.assertEqual(AsBuilt.model_validate_json(self.BUILT.model_dump_json()), self.BUILT)
