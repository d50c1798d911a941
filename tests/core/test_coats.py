"""Coats: film from coverage and back, coats that make a film, their windows, their weight in the job.

Of `layup.coats.kind`, `layup.coats.workings`, `layup.day.division`, `layup.day.planner`.
"""

import unittest
from itertools import count, pairwise

from hypothesis import given
from hypothesis import strategies as st
from pint import UnitRegistry

from cradle.demo_jobs import bait_well
from layup.chemistry.one_part import in_air
from layup.coats.film import LOSS_SHARE, film_of, gsm_of_film, liquid_g_per_ml, spreading_rate_m2_per_l, wet_for_dry_um
from layup.errors import LayupError
from layup.job import Coat, JobMaterials, JobSpec
from layup.laminate.mould import mould_off
from layup.plan import plan
from layup.preparing.preparation import checklist
from layup.scales import Scales
from layup.units import parse
from layup.workings.worked import working
from tests.core.jobs import at, on, panel, resin


def coated(*coats: dict, resin_id: str = "epoxy-2-1", **changes) -> JobSpec:
    """A panel of 2 m² with coats on one ply."""
    job = panel(resin_id, "biax-450", **changes)
    plies = job.model_dump(mode="json")["parts"][0]["plies"]
    return on(
        job, plies=[*plies, *({"id": f"c{n}", "coat": {"resin_gsm": 150} | coat} for n, coat in enumerate(coats))]
    )


class Films(unittest.TestCase):
    def test_a_flood_coat_in_fluid_ounces(self):
        """Exact arithmetic: 3 US fl oz/ft² lies 0.955 mm thick, by Pint's ounce and foot."""
        ml_per_m2 = UnitRegistry().Quantity(3, "fluid_ounce / foot**2").to("ml / m**2").magnitude
        flood = film_of(Coat(kind="flood", resin_gsm=1000, covers_m2_per_l=1000 / ml_per_m2), 1.1)
        self.assertAlmostEqual(flood.each_wet_um, 955, delta=0.5)
        self.assertAlmostEqual(flood.each_gsm, 1050.5, delta=0.5)

    def test_the_spreading_rate_is_ten_times_solids_over_the_dry_film(self):
        """Published: the theoretical spreading rate, 10 S/d; 60 % at 60 µm covers 10 m² a litre."""
        self.assertEqual(spreading_rate_m2_per_l(60, 60), 10)
        for solids, dry in ((100, 300), (45, 40)):
            self.assertAlmostEqual(1000 / wet_for_dry_um(dry, solids), spreading_rate_m2_per_l(solids, dry), 9)

    def test_films_are_typed_as_gauges_and_tins_have_them(self):
        """Pint's mil, fluid ounce, foot and gallon; a litre over a square metre is a millimetre."""
        for words, dimension, value in (
            ("5 mil", "film", 127.0),
            ("3 fl oz/ft2", "film", 954.97),
            ("0.5 mm", "film", 500.0),
            ("100 ml/m²", "film", 100.0),
            ("230; 250", "film", 240.0),
            ("300 ft²/gal", "coverage", 7.3627),
            ("8 m2/l", "coverage", 8.0),
        ):
            self.assertAlmostEqual(parse(words, dimension).value / value, 1, 4)
        self.assertEqual(Scales("US").words("film", 127), "5 mil")
        self.assertEqual(Scales("metric").words("coverage", 7.36), "7.4 m²/l")

    def test_a_gel_coat_of_half_a_millimetre(self):
        """common practice, no source: 0.4 to 0.6 mm wet is 500 to 700 g/m²."""
        self.assertTrue(480 <= gsm_of_film(400, 1.2) < gsm_of_film(600, 1.2) <= 720)

    def test_a_barrier_takes_as_many_coats_as_make_it(self):
        """common practice, no source: 100 to 150 µm wet a coat to 300 µm dry at least."""
        for wet, solids, coats in ((130, 100, 3), (150, 100, 2), (100, 100, 3), (130, 60, 4)):
            film = film_of(Coat(kind="barrier", resin_gsm=100, wet_um=wet, dry_um=300, solids_pct=solids), 1.1)
            self.assertEqual(film.count, coats)
            self.assertGreaterEqual(film.dry_um, 299.9)
            self.assertLess((coats - 1) * wet * solids / 100, 300)

    def test_film_and_coverage_that_disagree_are_refused(self):
        agree = Coat(kind="fill", resin_gsm=100, wet_um=200, covers_m2_per_l=4.8)
        self.assertEqual(film_of(agree, 1.1).each_wet_um, 200)
        for coat, path in (
            (Coat(kind="fill", resin_gsm=100, wet_um=200, covers_m2_per_l=8), "coat.covers_m2_per_l"),
            (Coat(kind="barrier", resin_gsm=100, wet_um=5, dry_um=3000), "coat.wet_um"),
        ):
            with self.assertRaises(LayupError) as refused:
                film_of(coat, 1.1)
            self.assertEqual(refused.exception.path, path)
        answer = plan(coated({"kind": "fill", "wet_um": 200, "covers_m2_per_l": 8}), at(20))
        self.assertIn("parts.0.plies.1.coat.covers_m2_per_l", [problem.path for problem in answer.problems])

    def test_a_gauge_on_the_first_of_it_corrects_the_weight(self):
        film = film_of(Coat(kind="fill", resin_gsm=220, wet_um=200, gauge_um=(230, 250)), 1.1)
        self.assertAlmostEqual(film.each_wet_um, 240, 9)
        self.assertAlmostEqual(film.each_gsm, 264, 9)

    @given(st.floats(40, 900), st.integers(1, 6), st.floats(20, 100), st.floats(0.9, 1.7))
    def test_what_is_typed_comes_back_by_any_way(self, wet, count, solids, density):
        by_wet = film_of(Coat(kind="fill", resin_gsm=100, wet_um=wet, count=count, solids_pct=solids), density)
        by_dry = film_of(
            Coat(kind="fill", resin_gsm=100, dry_um=by_wet.dry_um, count=count, solids_pct=solids), density
        )
        by_litre = film_of(
            Coat(kind="fill", resin_gsm=100, covers_m2_per_l=by_wet.spreads_m2_per_l, count=count), density
        )
        for other in (by_dry, by_litre):
            self.assertAlmostEqual(other.gsm / by_wet.gsm, 1, 9)

    def test_the_liquid_is_as_heavy_as_its_parts(self):
        """Exact arithmetic, against the density that the pots are mixed with."""
        for product in ("epoxy-2-1", "epoxy-casting", "gel-coat", "epoxy-infusion"):
            of = plan(panel(product, "csm-450"), at(20))
            told = of.resins[0].by_volume_g_per_ml
            mixed = liquid_g_per_ml(resin(product))
            self.assertTrue(0.95 < mixed < 1.4)
            if told:
                self.assertAlmostEqual(mixed, told, delta=0.02)


class InTheJob(unittest.TestCase):
    def test_coats_are_told_with_their_windows_and_laid_when_the_last_is_tacky(self):
        answer = plan(coated({"kind": "fill", "wet_um": 150, "count": 3, "tool": "roller"}), at(20))
        (coat,) = answer.coats
        self.assertEqual((coat.count, coat.test, coat.on_top, coat.part_name), (3, "thumb", True, "Panel"))
        self.assertAlmostEqual(coat.resin_g, 3 * 150 * liquid_g_per_ml(resin("epoxy-2-1")) * 2, 6)
        self.assertAlmostEqual(coat.lost_g, LOSS_SHARE["roller"] * coat.resin_g, 6)
        layers = [layer for layer in answer.run_sheet.layers if "fill coat" in layer.words]
        self.assertEqual([layer.short for layer in layers], [f"fill coat {n} of 3" for n in (1, 2, 3)])
        for beneath, layer in pairwise(layers):
            self.assertGreaterEqual(layer.from_min, beneath.opens_min - 1)
            self.assertLessEqual(layer.from_min, beneath.closes_min)
        use = answer.resins[0].use
        self.assertAlmostEqual(use.in_coats_g, coat.resin_g, 6)
        without = plan(coated({"kind": "fill", "wet_um": 150, "count": 3}), at(20)).resins[0].use
        self.assertAlmostEqual(use.mopped_off_g - without.mopped_off_g, coat.lost_g, 6)
        shown = working("coat:c0", coated({"kind": "fill", "wet_um": 150, "count": 3, "tool": "roller"}), at(20))
        self.assertAlmostEqual(shown.result, coat.resin_g + coat.lost_g, 6)
        self.assertEqual(next(step.headline for step in answer.steps if step.step == "pours"), "3 coats")

    def test_surface_coats_are_tested_with_a_brush(self):
        job = coated({"kind": "surface", "resin_gsm": 350, "count": 2})
        marks = [mark.words for mark in plan(job, at(20)).run_sheet.marks if mark.kind == "test"]
        self.assertTrue(any("dry brush" in words for words in marks), marks)

    def test_a_slurry_takes_its_silica_and_builds_nothing(self):
        """common practice, no source: an equal loose volume of silica."""
        answer = plan(coated({"kind": "slurry", "resin_gsm": 300}), at(20))
        ticket = next(pot.ticket for pot in answer.pots if pot.labels == ("sealing slurry",))
        pot = next(pot for pot in answer.pots if pot.labels == ("sealing slurry",))
        loose_ml = pot.mass_g / liquid_g_per_ml(resin("epoxy-2-1"))
        self.assertIn(at(20).scales.words("volume", loose_ml), ticket.filler)
        self.assertIn("silica", ticket.filler)
        self.assertEqual(answer.parts[0].plies[1].thickness_mm, 0)

    def test_a_primer_that_the_air_sets_is_sooner_where_it_is_humid(self):
        """memory: four times the moisture, half the time; common practice: tacky in 60 to 90 min, covered within 4 h."""
        sets = resin("moisture-primer").one_part
        self.assertAlmostEqual(in_air(sets, 12.5).tack_min, 2 * sets.tack_min, 9)
        self.assertTrue(60 <= in_air(sets, 50).tack_min <= 90)
        self.assertEqual(in_air(sets, 50).cover_by_min, 240)
        windows = []
        for humidity in (40, 80):
            job = coated({"kind": "primer"}, resin_id="moisture-primer")
            windows.append(plan(job, at(20, humidity_pct=humidity)).coats[0])
        self.assertLess(windows[1].opens_min, windows[0].opens_min)
        self.assertLess(windows[1].closes_min, windows[0].closes_min)

    def test_a_primer_opened_at_eight_is_covered_by_noon(self):
        """common practice, no source: opened at 08:00, tacky from 09:00 to 09:30, its last covering starts by 13:30."""
        job = coated({"kind": "primer"}, resin_id="moisture-primer")
        (primer,) = plan(job, at(20)).coats
        self.assertTrue(60 <= primer.opens_min <= 90 and 240 <= primer.closes_min <= 330)

    def test_no_more_is_opened_at_once_than_is_covered_in_its_window(self):
        """common practice, no source: the next area is opened when the first is covered."""
        shop = at(19, humidity_pct=62)
        for wished, openings in ((None, 2), (2, 2), (3, 2)):
            job = on(bait_well(), bays={"bay_count": wished})
            answer = plan(job, shop)
            primers = [layer for layer in answer.run_sheet.layers if layer.words == "primer"]
            first_ply = {layer.bay: layer for layer in answer.run_sheet.layers if layer.words.startswith("ply 2")}
            for primer in primers:
                self.assertLessEqual(
                    first_ply[primer.bay].to_min, primer.closes_min + (primer.to_min - primer.from_min)
                )
            idle = [b.from_min - a.to_min > 60 for a, b in pairwise(primers)]
            self.assertEqual(1 + sum(idle), openings)
            self.assertEqual([each.id for each in answer.cautions if each.id.startswith("windows")], [])

    def test_a_mould_is_three_times_as_thick_with_light_plies_first(self):
        """common practice, no source: two surface coats, light mat next, three times the part's thickness, a wider lip."""
        lid = on(panel("polyester-general", "csm-450", "csm-450"), margin_mm=20)
        part_mm = plan(lid, at(20)).parts[0].thickness_mm
        ids = (f"n{n}" for n in count())
        made = mould_off(lid, lid.parts[0], part_mm, lambda: next(ids))
        job = lid.model_copy(
            update={
                "parts": (*lid.parts, made.part),
                "resins": (*lid.resins, *made.uses),
                "materials": JobMaterials(
                    fabrics=(*lid.materials.fabrics, *(each for each in made.fabrics if each.id != "csm-450")),
                    resins=(*lid.materials.resins, *made.products),
                ),
            }
        )
        job = JobSpec.model_validate(job.model_dump())
        answer = plan(job, at(20))
        mould = answer.parts[1]
        self.assertEqual((mould.plies[0].coat, mould.plies[0].coat_count), ("surface", 2))
        weights = [ply.fibre_gsm for ply in mould.plies[1:]]
        self.assertEqual(weights[:2], [300, 300])
        self.assertTrue(3 * part_mm <= mould.thickness_mm - mould.plies[0].thickness_mm < 3 * part_mm + 1.2)
        self.assertGreater(mould.outline_m2 + 0.1, 2.0)
        self.assertEqual(made.part.margin_mm, 120)
        found = {caution.id for caution in answer.cautions}
        self.assertFalse(found & {"materials.thin_mould", "coats.one_surface_coat", "coats.stays_sticky"}, found)
        marks = " ".join(mark.words for mark in answer.run_sheet.marks)
        self.assertIn("dry brush", marks)
        said = " ".join(line.words for line in checklist(job, answer, at(20).scales))
        for words in ("Wax and buff", "Level the plug", "Putty at hand", "Board round the plug"):
            self.assertIn(words, said)
        # The first glass goes on in the window of the second surface coat.
        layers = [layer for layer in answer.run_sheet.layers if layer.lane.startswith(made.part.id)]
        for beneath, layer in pairwise(layers[:3]):
            self.assertTrue(beneath.opens_min - 1 <= layer.from_min <= beneath.closes_min or layer.mended)
        with self.assertRaises(LayupError):
            mould_off(lid, lid.parts[0], 0.0, lambda: "x")

    def test_a_coat_of_nothing_known_is_told_without_a_window(self):
        bare = plan(coated({"kind": "gel", "resin_gsm": 600}), at(20)).coats[0]
        self.assertIsNone(bare.opens_min)
        self.assertAlmostEqual(bare.each_gsm, 600, 9)
