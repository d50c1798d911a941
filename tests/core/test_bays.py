"""Bays: what of a part lies in each, in which order they are laid, and what no small step may do to a plan."""

from datetime import timedelta
from itertools import pairwise
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Polygon, box

from layup.bench.issue import rest_of
from layup.day.best_start import levers
from layup.day.day_list import entries_of
from layup.day.planner import PEEL_MIN_PER_M2
from layup.day.schedule import LAST_OVER_ALL
from layup.day.windows import laid_on_set, late_layers
from layup.job import JobSpec
from layup.laminate.bays import area_left_of, chord, run_of
from layup.laminate.measures import measure
from layup.plan import laid_out, plan, settled
from layup.preparing.cutting import cut_plan
from layup.shapes import CylinderSkin, Disc, FrustumSkin, Girths, Rectangle, Station
from tests.core.jobs import DAY, at, corner, jointed, on, panel, primed, shed, strips, wishing


def hull(*stack: str, width_m=2.4, length_m=10.0, resin_id="epoxy-2-1", **changes) -> JobSpec:
    """A surface of bare plywood."""
    return on(panel(resin_id, *stack, width_m=width_m, length_m=length_m), substrate="bare plywood", **changes)


def schedule_of(job: JobSpec, facts):
    return laid_out(settled(job, facts)).schedule


def laid_h(job: JobSpec, facts) -> float:
    """Hours of the shop's days from the opening until all is laid."""
    day = laid_out(settled(job, facts))
    end = max(layer.to_min for layer in day.schedule.layers)
    nights = (day.clock.local(end).date() - day.clock.local(0).date()).days
    return (nights * day.clock.day_min + end - day.clock.began(end)) / 60


class WhatLiesInABay(TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.floats(0.2, 3), min_size=2, max_size=7), st.floats(0, 1))
    def test_area_left_of_a_seam_is_that_of_another_library(self, girths, share):
        """reference library: polygons clipped by Shapely."""
        stations = tuple(Station(id=f"s{n}", at_m=float(n), girth_m=girth) for n, girth in enumerate(girths))
        (piece,) = measure(Girths(stations=stations)).pieces
        seam = share * (len(girths) - 1)
        whole = Polygon(piece)
        left = whole.intersection(box(-1, -9, seam, 9))
        self.assertAlmostEqual(area_left_of(piece, seam), left.area, places=9)
        low, high = chord(piece, seam)
        across = whole.intersection(box(seam - 1e-7, -9, seam + 1e-7, 9)).bounds
        self.assertAlmostEqual(low, across[1], places=5)
        self.assertAlmostEqual(high, across[3], places=5)

    @settings(max_examples=25, deadline=None)
    @given(st.integers(2, 9), st.integers(1, 5), st.floats(4, 12), st.floats(0, 60))
    def test_every_division_lays_the_same(self, count, plies, length_m, stagger_mm):
        """exact: whatever is stepped back from one bay lies in the next."""
        bays = {"bay_count": count, "stagger_mm": stagger_mm}
        job = hull(*["cloth-300"] * plies, length_m=length_m, bays=bays)
        whole = settled(hull(*["cloth-300"] * plies, length_m=length_m), at(18)).owners[0]
        owner = settled(job, at(18)).owners[0]
        parts = owner.bays.divide(count)
        for each in zip(*(bay.shares for bay in parts), strict=True):
            self.assertAlmostEqual(sum(each), 1)
        laid = sum(pot.laid_g for pot in schedule_of(job, at(18)).pots)
        self.assertAlmostEqual(laid, sum(work.laid_g for work in whole.works), places=3)

    def test_a_ply_steps_back_from_a_seam_once_more_than_the_one_beneath(self):
        """common practice, no source: 50 mm a ply; exact geometry."""
        owner = settled(hull("cloth-300", "cloth-300", "cloth-300", bays={"bay_count": 4}), at(18)).owners[0]
        first, second, *_ = owner.bays.divide(4)
        # The wet-out goes with the first ply; of ten metres each bay has 2.5, less 50 mm a ply where it ends.
        self.assertEqual([round(10 * share, 4) for share in first.shares], [2.5, 2.5, 2.45, 2.4])
        self.assertEqual([round(10 * share, 4) for share in second.shares], [2.5] * 4)
        self.assertAlmostEqual(first.edge_m2, 2 * 0.050 * 2.4)
        self.assertEqual(first.seams, (((2.5, 0.0), (2.5, 2.4)),))

    def test_drops_lie_across_the_longer_way_and_round_a_cone(self):
        tall = run_of(panel("epoxy-2-1").parts[0], measure(CylinderSkin(diameter_m=4, length_m=1.2)))
        self.assertTrue(tall.turned)
        self.assertAlmostEqual(tall.length_m, 4 * 3.14159265, places=6)
        self.assertEqual(tall.seams(2.0), (((0.0, 2.0), (1.2, 2.0)),))
        cone = on(panel("epoxy-2-1"), shape={"kind": "frustum", "diameter_a_m": 2, "diameter_b_m": 1, "height_m": 1})
        run = run_of(cone.parts[0], measure(FrustumSkin(diameter_a_m=2, diameter_b_m=1, height_m=1)))
        self.assertAlmostEqual(run.share(0, run.length_m / 4), 0.25)
        self.assertAlmostEqual(run.seam_m(run.length_m / 2), (1 + 0.25) ** 0.5, places=6)
        self.assertGreaterEqual(run.widest_m(0, run.length_m / 4), run.seam_m(0))
        disc = run_of(panel("epoxy-2-1").parts[0], measure(Disc(diameter_m=2)))
        self.assertAlmostEqual(disc.share(0, 1), 0.5, places=6)
        patch = on(panel("epoxy-2-1"), shape={"kind": "area", "area_m2": 40}).parts[0]
        self.assertIsNone(run_of(patch, measure(Rectangle(width_m=1, length_m=1))))


class InTheirOrder(TestCase):
    def test_each_bay_is_plied_before_the_next_is_begun(self):
        schedule = schedule_of(hull("biax-600", "biax-600", "biax-600"), at(18))
        (lane,) = schedule.lanes
        self.assertGreater(len(lane.bays), 2)
        bays = [layer.bay for layer in schedule.layers]
        self.assertEqual(bays, sorted(bays))
        for number in set(bays):
            works = [work.ply for layer in schedule.layers if layer.bay == number for work in layer.works]
            self.assertEqual(works, [0, 1, 2, 3])
        self.assertEqual([*late_layers(schedule), *laid_on_set(schedule)], [])

    def test_a_night_lies_at_the_edge_of_a_bay_with_peel_ply_on_it(self):
        """domain of the trade, common practice, no source: a bay's edge is where a job is left."""
        job = hull("biax-600", "biax-600", "biax-600", length_m=16)
        schedule = schedule_of(job, at(18))
        self.assertTrue(schedule.stops)
        for _, left, taken_up, words in schedule.stops:
            beneath = max((layer for layer in schedule.layers if layer.to_min <= left), key=lambda each: each.to_min)
            layer = next(each for each in schedule.layers if each.from_min >= taken_up - 1e-6)
            self.assertEqual(layer.bay, beneath.bay + 1)
            self.assertEqual((beneath.peel_ply, layer.edge_peeled, layer.mended), (True, True, ""))
            self.assertEqual(
                words, f"bay {beneath.bay} is whole: peel ply on its stepped edge, pulled off before the next"
            )
        pulled = [busy for busy in schedule.busy if busy.words.startswith("pull peel ply")]
        self.assertEqual(len(pulled), len(schedule.stops))
        # Two steps of 50 mm by 2.4 m.
        self.assertAlmostEqual(pulled[0].to_min - pulled[0].from_min, PEEL_MIN_PER_M2 * 2 * 0.05 * 2.4)

    def test_what_is_coated_first_and_last_is_coated_whole(self):
        plies = [
            {"id": "gel", "coat": {"kind": "gel", "resin_gsm": 400, "use_id": "resin"}},
            *({"id": f"y{n}", "fabric_id": "csm-450"} for n in (1, 2)),
            {"id": "top", "coat": {"kind": "fill", "resin_gsm": 200}},
        ]
        job = on(panel("polyester-general", "csm-450", width_m=2.4, length_m=6), plies=plies, bays={"bay_count": 3})
        schedule = schedule_of(job, at(20))
        self.assertEqual(list(dict.fromkeys(layer.bay for layer in schedule.layers)), [0, 1, 2, 3, LAST_OVER_ALL])
        coats = [layer for layer in schedule.layers if layer.works[0].coat]
        self.assertEqual([(layer.bay, round(layer.area_m2, 2)) for layer in coats], [(0, 14.4), (LAST_OVER_ALL, 14.4)])
        first, last = coats
        self.assertTrue(all(layer.from_min >= first.opens_min - 1e-6 for layer in schedule.layers if layer.bay > 0))
        self.assertTrue(all(layer.opens_min <= last.from_min for layer in schedule.layers if layer.works[-1].ply == 3))

    def test_a_primer_is_opened_no_wider_than_it_can_be_covered(self):
        """common practice, no source: a primer is staged, so that what is opened today is covered in its window."""

        def primed_hull(cover_by_min: float):
            job = primed().model_dump(mode="json")
            job["parts"][0]["shape"] = {"kind": "rectangle", "width_m": 2.4, "length_m": 8}
            for resin in job["materials"]["resins"]:
                if resin["one_part"]:
                    resin["one_part"] |= {"tack_min": 20, "cover_by_min": cover_by_min}
            return schedule_of(JobSpec.model_validate(job), at(20))

        for cover_by_min in (60, 90, 200):
            schedule = primed_hull(cover_by_min)
            self.assertTrue(schedule.lanes[0].coats_too)
            primers = [layer for layer in schedule.layers if layer.works[0].coat]
            self.assertEqual([layer.bay for layer in primers], [bay.number for bay in schedule.lanes[0].bays])
            for primer in primers:
                over = next(layer for layer in schedule.layers if layer.bay == primer.bay and layer is not primer)
                self.assertGreaterEqual(over.from_min, primer.opens_min - 1e-6)
                self.assertLessEqual(over.from_min, primer.closes_min)
        # Time enough for all of it: then the wait for its tack is what is used best.
        self.assertTrue(all(layer.mended == "" for layer in primed_hull(400).layers))

    def test_copies_in_bays_come_one_after_the_other(self):
        schedule = schedule_of(hull("biax-600", "biax-600", bays={"bay_count": 2}, count=2, length_m=5), at(20))
        lanes = [(layer.lane, layer.bay) for layer in schedule.layers]
        self.assertEqual(list(dict.fromkeys(lanes)), [("p/1", 1), ("p/1", 2), ("p/2", 1), ("p/2", 2)])

    def test_seams_are_taped_a_few_at_a_time(self):
        """common practice, no source: what is wetted is taped before it goes tacky."""
        seams = jointed(corner(length_m=2.4, count=10, tabs=strips(100, 150)))
        schedule = schedule_of(seams, at(20))
        (lane,) = schedule.lanes
        self.assertEqual([bay.words for bay in lane.bays], ["seams 1 to 5 of 10", "seams 6 to 10 of 10"])
        whole = schedule_of(jointed(corner(length_m=2.4, tabs=strips(100, 150))), at(20))
        self.assertEqual(whole.lanes[0].bays, ())
        laid = [sum(pot.laid_g for pot in each.pots) for each in (schedule, whole)]
        self.assertAlmostEqual(laid[0], 10 * laid[1], places=3)

    def test_a_run_keeps_its_bays(self):
        job = hull("biax-600", "biax-600", "biax-600")
        facts = shed(18, 19)
        issued = plan(job, facts)
        (lane,) = issued.run_sheet.lanes
        start = issued.run_sheet.start_at
        poured = {pot.number: start for pot in issued.run_sheet.pots if pot.bay == 1}
        rest = rest_of(job, facts, issued, poured, (), start)
        (left,) = rest.run_sheet.lanes
        self.assertEqual([bay.ends for bay in left.bays], [bay.ends for bay in lane.bays])
        self.assertEqual({pot.bay for pot in rest.run_sheet.pots}, {bay.number for bay in lane.bays} - {1})

    def test_a_window_counts_from_when_a_pot_was_poured(self):
        """exact: poured just within its window, what lies there takes the next ply; just past it, it is sanded first."""
        job, facts = on(panel("epoxy-2-1", "cloth-300", "cloth-300", width_m=2), bays={"bay_count": 1}), shed(19, 20)
        issued = plan(job, facts)
        now = issued.run_sheet.start_at + timedelta(hours=4)
        closes_min = issued.resins[0].chemistry.clocks.window_closes_min
        first = {pot.number for pot in issued.run_sheet.pots if "y0" in pot.item_ids}
        for share, mended in ((0.85, ""), (1.06, "wash, sand, wipe")):
            poured = dict.fromkeys(first, now - timedelta(minutes=share * closes_min))
            layer = rest_of(job, facts, issued, poured, (), now).run_sheet.layers[0]
            self.assertEqual((layer.item_ids, layer.mended), (("y1",), mended))


class CutAndTold(TestCase):
    def test_pieces_are_cut_by_bay_with_their_stagger(self):
        """exact: each piece is its bay's run, less what is stepped back, with one lap."""
        job = hull("cloth-300", "cloth-300", width_m=1.2, length_m=6, bays={"bay_count": 3})
        answer = plan(job, at(20))
        self.assertEqual(answer.divided, {"p": (2.0, 4.0, 6.0)})
        pieces = cut_plan(job, answer.divided).pieces
        self.assertEqual(answer.piece_count, len(pieces))
        told = [(piece.bay, piece.ply_number, piece.along_mm, piece.across_mm) for piece in pieces]
        self.assertEqual(
            told,
            [
                ("bay 1 of 3", 1, 2000, 1200),
                ("bay 1 of 3", 2, 1950, 1200),
                ("bay 2 of 3", 1, 2050, 1200),
                ("bay 2 of 3", 2, 2050, 1200),
                ("bay 3 of 3", 1, 2050, 1200),
                ("bay 3 of 3", 2, 2100, 1200),
            ],
        )
        self.assertEqual(len({piece.id for piece in pieces}), 6)

    def test_a_bay_is_said_as_a_foreman_would(self):
        answer = plan(hull("csm-450", "csm-450", resin_id="polyester-general", bays={"bay_count": 5}), at(18))
        said = next(entry for entry in entries_of(answer) if entry.kind == "bay")
        self.assertRegex(
            said.what,
            r"^bay 1 of 5: wet out the surface, plies 1 and 2, 450 chopped mat; (\d+ h ?)?(\d+ min)?, \d+ pots$",
        )
        first = answer.pots[0]
        self.assertEqual((first.bay, first.where), ("bay 1 of 5", "Panel, bay 1 of 5"))
        self.assertIn("5 bays", answer.run_sheet.lanes[0].under)


class WhatCannotBe(TestCase):
    def refused(self, job: JobSpec, facts=None) -> dict[str, str]:
        return {problem.path: problem.message for problem in plan(job, facts or at(18)).problems if problem.wrong}

    def test_is_said_at_its_field_with_the_way_out(self):
        cases = (
            ({"bay_count": 60}, "bay_count", "a bay of 0.17 m is narrower than the 550 mm its plies step back"),
            ({"width_m": 0.1}, "width_m", "that makes 100 bays, and 60 is the most: make them wider"),
            ({"seams_m": [4, 12]}, "seams_m", "the seams lie between the ends of the part, each further along"),
            ({"seams_m": [4, 3]}, "seams_m", "the seams lie between the ends of the part, each further along"),
        )
        for bays, field, words in cases:
            with self.subTest(bays=bays):
                found = self.refused(hull(*["cloth-300"] * 12, bays=bays))
                self.assertEqual(list(found), [f"parts.0.bays.{field}"])
                self.assertIn(words, found[f"parts.0.bays.{field}"])

    def test_more_bays_than_a_roller_finds_room_in_are_refused(self):
        found = self.refused(hull("cloth-300", length_m=2, bays={"bay_count": 20}))
        self.assertIn("a bay of 0.12 m is narrower than a roller", found["parts.0.bays.bay_count"])

    def test_a_primer_that_no_bay_can_cover_in_time_is_said(self):
        """A primer of a few minutes: the day's problems name it, and the square metres that can be covered."""
        job = primed().model_dump(mode="json")
        job["parts"][0]["shape"] = {"kind": "rectangle", "width_m": 2.4, "length_m": 8}
        for resin in job["materials"]["resins"]:
            if resin["one_part"]:
                resin["one_part"] |= {"tack_min": 3, "cover_by_min": 5}
        answer = plan(JobSpec.model_validate(job), at(20))
        self.assertIn("misses the window", " ".join(answer.run_sheet.problems))


class NoSmallStepMakesALargeJump(TestCase):
    """Memory: a bound of three hours of the shop's day for a step of 2 m² or 1 °C within one hardener's band."""

    MOST_H = 3.0

    def test_area(self):
        for stack, resin_id in ((("csm-450",) * 2, "polyester-general"), (("biax-600",) * 3, "epoxy-2-1")):
            ends = [
                laid_h(wishing(hull(*stack, resin_id=resin_id, length_m=length), hands=2), at(19))
                for length in range(2, 21, 2)
            ]
            for less, more in pairwise(ends):
                # 4.8 m² at a time: what they take themselves, and no more than the bound on top.
                self.assertGreater(more, less - 0.5)
                self.assertLess(more - less, ends[0] + self.MOST_H)
        around = [
            laid_h(
                wishing(
                    hull("csm-450", "csm-450", resin_id="polyester-general", width_m=4.4, length_m=length), hands=2
                ),
                at(19),
            )
            for length in (10.0, 10.45)
        ]
        self.assertLess(around[1] - around[0], self.MOST_H)

    def test_temperature(self):
        for name, rooms in (("medium", range(16, 22)), ("slow", range(22, 28))):
            held = {"resin_id": "epoxy-2-1", "hardener_id": f"epoxy-2-1-{name}"}
            job = panel("epoxy-2-1", *["biax-600"] * 3, width_m=2.4, length_m=8, in_use=held)
            job = wishing(on(job, substrate="bare plywood"), hands=2)
            ends = [laid_h(job, at(room_c)) for room_c in rooms]
            for one, other in pairwise(ends):
                self.assertLess(abs(one - other), self.MOST_H)

    def test_more_hands_never_end_later(self):
        for stack in (("biax-600",) * 3, ("cloth-300",) * 2):
            job = hull(*stack, length_m=12)
            ends = [
                laid_h(wishing(job, hands=hands, mixer=mixer), at(19))
                for hands in range(1, 7)
                for mixer in ("one of the hands", "a person more")
            ]
            for slower, faster in ((ends[n], ends[n + 2]) for n in range(len(ends) - 2)):
                self.assertLessEqual(faster, slower + 1e-6)

    def test_a_slower_hardener_never_takes_more_pots_and_one_bay_more_never_fewer_grams(self):
        def pots(name: str) -> int:
            held = {"resin_id": "epoxy-2-1", "hardener_id": f"epoxy-2-1-{name}"}
            job = panel("epoxy-2-1", *["biax-600"] * 2, width_m=2.4, length_m=10, in_use=held)
            return plan(on(job, substrate="bare plywood"), at(20)).pot_count

        counted = [pots(name) for name in ("fast", "medium", "slow")]
        self.assertEqual(counted, sorted(counted, reverse=True))

    def test_a_wider_window_never_ends_later(self):
        """Of windows that can be kept at all: where none can, what is missed is said."""

        def primed_for(cover_by_min: float) -> float:
            job = primed().model_dump(mode="json")
            job["parts"][0]["shape"] = {"kind": "rectangle", "width_m": 2.4, "length_m": 8}
            for resin in job["materials"]["resins"]:
                if resin["one_part"]:
                    resin["one_part"] |= {"tack_min": 20, "cover_by_min": cover_by_min}
            whole = JobSpec.model_validate(job)
            self.assertEqual([*late_layers(schedule_of(whole, at(20)))], [])
            return laid_h(whole, at(20))

        ends = [primed_for(cover_by_min) for cover_by_min in (160, 240, 320, 480, 640, 960)]
        self.assertEqual(ends, sorted(ends, reverse=True))


class WhatAForemanWouldSay(TestCase):
    """Eight jobs of the trade, common practice, no source: what a foreman says of each, beside what is planned."""

    def planned(self, job: JobSpec, facts):
        answer = plan(job, facts)
        self.assertEqual((answer.problems, answer.stuck), ((), ()))
        return answer, schedule_of(job, facts)

    def test_a_hull_of_24_m2_and_one_biax_at_15_degrees_alone(self):
        """“A day and a bit: work along it, bay after bay, and leave it at an edge with peel ply.”"""
        _, schedule = self.planned(hull("biax-600"), at(15))
        self.assertGreaterEqual(len(schedule.lanes[0].bays), 3)
        self.assertLess(laid_h(hull("biax-600"), at(15)), 15)
        self.assertTrue(all(layer.mended == "" for layer in schedule.layers))

    def test_a_roof_of_45_m2_and_two_mats(self):
        """“Never roll all of it out. A drop, both mats, then the next.”"""
        job = wishing(hull("csm-450", "csm-450", resin_id="polyester-general", width_m=4.5), hands=2)
        _, schedule = self.planned(job, at(18))
        (lane,) = schedule.lanes
        self.assertGreaterEqual(len(lane.bays), 5)
        for number in range(1, len(lane.bays) + 1):
            layers = [layer for layer in schedule.layers if layer.bay == number]
            self.assertLess(layers[-1].to_min - layers[0].from_min, 180)

    def test_the_wall_of_a_pool_with_its_floor_lapped(self):
        """“Round the wall in drops; the floor over its foot once it holds.”"""
        wall = hull("csm-450", "csm-450", resin_id="polyester-general").model_dump(mode="json")
        wall["parts"][0] |= {
            "id": "wall",
            "name": "Wall",
            "orientation": "upright",
            "shape": {"kind": "cylinder", "diameter_m": 3.5, "length_m": 1.2},
        }
        floor = wall["parts"][0] | {
            "id": "floor",
            "name": "Floor",
            "orientation": "down",
            "shape": {"kind": "disc", "diameter_m": 3.5},
            "comes_after": ["wall"],
            "plies": [{"id": f"f{n}", "fabric_id": "csm-450", "extra_mm": 100} for n in (1, 2)],
        }
        job = JobSpec.model_validate(wall | {"parts": [floor, wall["parts"][0]], "pots": {"hands": 2}})
        _, schedule = self.planned(job, at(20))
        began = list(dict.fromkeys(layer.lane for layer in schedule.layers))
        self.assertEqual(began, ["wall", "floor"])
        self.assertGreaterEqual(len(schedule.lanes[0].bays), 3)

    def test_ten_taped_seams(self):
        """“Five and five, or you chase tacky wood all morning.”"""
        job = jointed(corner(length_m=2.4, count=10, tabs=strips(100, 150)))
        _, schedule = self.planned(job, at(20))
        self.assertEqual(len(schedule.lanes[0].bays), 2)
        self.assertLess(laid_h(job, at(20)), 6)

    def test_an_8_m_hull_of_12_plies_by_four(self):
        """“One of the four mixes. Nine plies of 600 wet is the most: then it rests, and the last three go on sanded.”"""
        job = wishing(hull(*["biax-600"] * 12, width_m=3.5, length_m=8), hands=4)
        answer, schedule = self.planned(job, at(18))
        self.assertEqual({task.who for task in answer.run_sheet.tasks if task.task == "mixes"}, {"1"})
        self.assertIn("waits until what is beneath has set", " ".join(answer.run_sheet.problems))
        whole = schedule_of(
            wishing(hull(*["biax-600"] * 12, width_m=3.5, length_m=8, bays={"bay_count": 1}), hands=4), at(18)
        )
        sanded = [sum(layer.area_m2 for layer in each.layers if layer.mended) for each in (schedule, whole)]
        self.assertLess(sanded[0], 0.25 * sanded[1])

    def test_a_locker_with_a_sharp_corner_and_a_fillet(self):
        """“Fillet first, cloth over it while it is soft.”"""
        job = panel("epoxy-2-1", "cloth-300", width_m=0.5, length_m=0.8).model_dump(mode="json")
        with_fillet = jointed(corner(length_m=0.8)).model_dump(mode="json")
        job["materials"]["fillers"] = with_fillet["materials"]["fillers"]
        job["joints"] = [with_fillet["joints"][0] | {"covered_by": "p"}]
        _, schedule = self.planned(JobSpec.model_validate(job), at(20))
        fillet, cloth = schedule.layers
        self.assertEqual((fillet.lane, cloth.lane), ("j0", "p"))
        self.assertLess(cloth.from_min, fillet.closes_min)
        cured = JobSpec.model_validate(job | {"practice": {"tabbing": "cured and sanded"}})
        sanded = schedule_of(cured, at(20)).layers[-1]
        self.assertEqual((sanded.lane, sanded.mended), ("p", "sand, wipe"))

    def test_a_deck_in_quart_pots(self):
        """“A quart at a time, and a bay you can reach across.”"""
        job = wishing(hull("csm-450", "csm-450", resin_id="polyester-general", length_m=6), largest_g=1000)
        _, schedule = self.planned(job, at(21))
        self.assertLessEqual(max(pot.mass_g for pot in schedule.pots), 1000)
        self.assertGreaterEqual(len(schedule.lanes[0].bays), 2)

    def test_plywood_sides_from_9_to_24_degrees(self):
        """“Fast till the sun is on it, medium, then slow: never two in one pot.”"""
        sides = hull("biax-450", "biax-450", width_m=1.2, length_m=7, pair=True, orientation="upright")
        job = wishing(
            sides.model_copy(update={"practice": sides.practice.model_copy(update={"over_day": "by the hour"})}),
            hands=2,
        )
        facts = shed(9, 24, opens_h=7, closes_h=19)
        answer, schedule = self.planned(job, facts)
        names = [pot.mix.hardener.name for pot in schedule.pots]
        self.assertEqual(list(dict.fromkeys(names)), ["fast", "medium", "slow"])
        self.assertEqual([kind.hardener for kind in answer.pots if kind.hardener_changes], ["medium", "slow"])
        use = answer.resins[0].use
        self.assertAlmostEqual(sum(use.hardeners_g.values()), use.part_b_g, places=6)
        one = plan(wishing(sides, hands=2), facts)
        self.assertEqual(one.resins[0].use.hardeners_g, {})
        self.assertLess(answer.pot_count, one.pot_count)


class TheDayOfBays(TestCase):
    def test_overtime_ends_sooner_and_is_said_with_its_price(self):
        job = hull("biax-600", "biax-600", "biax-600", length_m=12)
        late = wishing(job, hands=2, overtime_h=4)
        facts = at(19, today=DAY)
        self.assertLess(laid_h(late, facts), laid_h(wishing(job, hands=2), facts))
        lever = next(each for each in levers(wishing(job, hands=2), facts) if each.name == "Closing")
        self.assertRegex(lever.words, r"laid by .*, for \d+\.\d h past closing$")
        (said,) = [words for words in plan(late, facts).run_sheet.problems if "past closing" in words]
        self.assertRegex(said, r"^Work goes on past closing, until \d\d:\d\d, 2 people: \d+\.\d h of work\.$")
