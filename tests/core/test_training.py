"""Practice for those who learn, against what the core does not do itself: Pint, Shapely, strips that are counted, flows summed up.

Of `layup.training`, `layup.day.why`.
"""

import json
import re
from datetime import UTC, datetime, timedelta
from math import isclose
from unittest import TestCase

import pint
import shapely
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from layup.bench.events import Event
from layup.day.why import STEP_KINDS, WHY, why_of
from layup.diagnosis.ask import found
from layup.diagnosis.guide import guide
from layup.errors import LayupError, Missing, OutOfRange
from layup.job import Person, PotWishes
from layup.pots.crew import largest_allowed_g
from layup.scales import Scales
from layup.shop_facts import Learner, ShopFacts
from layup.training.day import DAYS, PracticeDay, marked_day, practice_day
from layup.training.lessons import FIGURES, figure_of, lessons
from layup.training.numbered import MOST_SEED
from layup.training.pouring import (
    OPENS_S,
    POURS,
    RUNS_ON_S,
    Poured,
    PourTask,
    Press,
    in_cup,
    marked,
    pour_task,
    ran_out,
)
from layup.training.record import TASKS, standing, times_larger
from layup.training.samples import GOOD, sample
from layup.training.sums import SUMS, Sum, sum_of
from layup.training.tried import Attempt, Signed
from tests.core.poured import FILE, written
from tests.core.test_working import worked_by_hand

UNITS = pint.UnitRegistry()
Q = UNITS.Quantity
_NOON = datetime(2026, 5, 1, 12, tzinfo=UTC)
_SEEDS = st.integers(1, MOST_SEED)
# A number in a question is followed by what it counts.
_COUNTED = re.compile(
    r"\d[\d.,]*(?:\s(?:g/m²|g|ml|mm|cm|m²|m|µm|°F|oz|%|parts|plies|ply|layers|by volume|to \d|(?:US|Imperial) fluid)\b"
    r"|\s(?:%|°F|m²|g/m²)|\b(?= (?:of resin )?by weight))"
)


def by_another_way(asked: Sum) -> float:
    """The answer of a sum from its numbers by what the core does not use; each with where that stands."""
    v = {row.symbol: row.value for row in asked.working.givens}
    match asked.kind:
        case "tare":  # exact arithmetic: what each part weighs, on the cup
            return v["c"] + v["a"] * (100 + v["r"]) / 100
        case "follows":  # exact arithmetic
            return v["a"] * v["r"] / 100
        case "rescue":  # solved the other way round: so much resin that the hardener is its share of the whole
            share = v["r"] / (100 + v["r"])
            return v["b"] / share - v["b"] - v["a"]
        case "by-weight":  # Pint: a litre of hardener beside its litres of resin
            resin, hardener = Q(v["n"], "liter") * Q(v["p"], "g/ml"), Q(1, "liter") * Q(v["q"], "g/ml")
            return float((100 * hardener / resin).to("").magnitude)
        case "fluid-ounces":  # published: Pint's own definitions
            unit = "imperial_fluid_ounce" if "Imperial" in asked.question else "US_fluid_ounce"
            return Q(v["n"], unit).to("ml").magnitude
        case "cloth-ounces":
            over = "foot" if "foot" in asked.question else "yard"
            return Q(v["n"], f"avoirdupois_ounce / {over} ** 2").to("g/m**2").magnitude
        case "laps":  # strips laid out and counted in the middle of the run
            return _counted_layers(v["w"], v["v"])
        case "overlap":  # the overlap by which so many are counted
            steps = [cover for cover in range(1, int(v["w"])) if isclose(_counted_layers(v["w"], cover), v["n"])]
            return steps[0] if steps else float("nan")
        case "catalyst":
            return ((Q(v["a"], "g") * v["p"] / 100) / Q(v["d"], "g/ml")).to("ml").magnitude
        case "fillet":  # Shapely: the corner's square less a quarter of a disc of 4 × 2000 sides
            r = v["r"]
            disc = shapely.Point(r, r).buffer(r, quad_segs=2000)
            return shapely.box(0, 0, r, r).difference(disc).area * v["l"]
        case "patch":  # Shapely: the hole grown by the steps
            return _across(shapely.Point(0, 0).buffer(v["h"] / 2, quad_segs=64).buffer(v["n"] * v["s"], quad_segs=64))
        case "ground":
            return _across(shapely.Point(0, 0).buffer(v["h"] / 2, quad_segs=64).buffer(v["t"] * v["d"], quad_segs=64))
        case "wet-out":  # the whole by the share of the glass, less the glass
            glass = Q(v["m"], "m**2") * v["n"] * Q(v["w"], "g/m**2")
            return (glass / (v["g"] / 100) - glass).to("g").magnitude
        case "coverage":
            wet = Q(v["d"], "micrometer") / (v["s"] / 100)
            return (Q(v["m"], "m**2") * wet).to("liter").magnitude
        case "flood":
            return (Q(v["l"], "cm") * Q(v["b"], "cm") * Q(v["d"], "mm") * Q(v["p"], "g/ml")).to("g").magnitude
        case "celsius":
            return Q(v["f"], "degF").to("degC").magnitude
    raise AssertionError(f"{asked.kind} has no other way")


def _counted_layers(width: float, cover: float) -> float:
    """Strips of whole millimetres laid one after the other: how many lie, on the mean, over each of the middle."""
    step = width - cover
    starts = [k * step for k in range(-20, 21)]
    places = [(k + 0.5) * step / 60 for k in range(60)]
    return sum(sum(start <= place < start + width for start in starts) for place in places) / len(places)


def _across(shape: shapely.Geometry) -> float:
    low, _, high, _ = shape.bounds
    return high - low


class Sums(TestCase):
    def test_the_answers_of_a_thousand_are_those_of_another_way(self):
        asked = [sum_of(f"{kind}-{seed}") for kind in SUMS for seed in range(1, 64)]
        self.assertGreaterEqual(len(asked), 1000)
        for each in asked:
            with self.subTest(each.id, question=each.question):
                other = by_another_way(each)
                # A scale reads tenths.
                self.assertAlmostEqual(each.answer, other, delta=max(0.051 * (each.unit == "g"), 1e-4 * abs(other)))
                self.assertAlmostEqual(worked_by_hand(each.working), other, delta=max(0.01, 1e-4 * abs(other)))

    @given(st.sampled_from(list(SUMS)), _SEEDS)
    def test_no_question_leaves_out_a_number_or_a_unit(self, kind: str, seed: int):
        asked = sum_of(f"{kind}-{seed}")
        bare = re.sub(_COUNTED, "", asked.question)
        self.assertNotRegex(bare, r"\d", asked.question)
        for row in asked.working.givens:
            # What is not in the question is a unit's own definition.
            if row.source == "in the question":
                self.assertRegex(asked.question, rf"(?<![\d.]){re.escape(f'{row.value:g}')}0?(?![\d])", row.name)
        self.assertTrue(asked.unit and asked.asks.endswith("?"))

    @given(st.sampled_from(list(SUMS)), _SEEDS)
    def test_it_is_the_same_each_time_and_its_nearness_is_sensible(self, kind: str, seed: int):
        asked = sum_of(f"{kind}-{seed}")
        self.assertEqual(asked, sum_of(asked.id))
        self.assertGreater(asked.answer, 0)
        # Twice as much, a tenth off, and the answer of a kilo for a litre are none of them near.
        self.assertLessEqual(asked.near, max(1.0, 0.05 * asked.answer))
        self.assertTrue(asked.is_right(asked.answer + 0.99 * asked.near))
        self.assertFalse(asked.is_right(asked.answer + 1.01 * asked.near))
        self.assertFalse(asked.is_right(asked.answer - 1.01 * asked.near))

    def test_the_mistakes_that_are_made_are_wrong(self):
        """common practice, no source: the cup forgotten, the plan followed, a third taken for three layers, an ounce for another."""
        tare, follows = sum_of("tare-7"), sum_of("follows-7")
        given = {row.symbol: row.value for row in tare.working.givens}
        self.assertFalse(tare.is_right(tare.answer - given["c"]))
        planned = float(re.match(r"(\d+) g of resin were planned", follows.question)[1])
        rate = next(row.value for row in follows.working.givens if row.symbol == "r")
        self.assertFalse(follows.is_right(planned * rate / 100))
        three = next(s for n in range(1, 99) if " 3 layers" in (s := sum_of(f"overlap-{n}")).question)
        self.assertFalse(three.is_right(three.working.givens[0].value / 3))
        ounces = next(s for n in range(1, 99) if "Imperial" in (s := sum_of(f"fluid-ounces-{n}")).question)
        self.assertFalse(ounces.is_right(ounces.working.givens[0].value * 29.5735))

    def test_numbers_are_written_as_the_country_writes_them(self):
        from layup.customs import Customs

        written = [sum_of(f"coverage-{n}", Scales(customs=Customs("en-DE"))).question for n in range(1, 30)]
        self.assertTrue(any(re.search(r"\d,\d m²", question) for question in written))
        self.assertFalse(any(re.search(r"\d\.\d", question) for question in written))

    def test_the_numbers_are_those_of_a_bench(self):
        """memory: what pots, fabrics and liquids a small shop handles."""
        within = {
            "tare": {"c": (5, 40), "a": (50, 650), "r": (15, 50)},
            "by-weight": {"n": (1, 5), "p": (1.08, 1.2), "q": (0.92, 1.06)},
            "fluid-ounces": {"n": (1, 32)},
            "cloth-ounces": {"n": (0.5, 24)},
            "laps": {"w": (50, 300)},
            "catalyst": {"a": (100, 3000), "p": (1, 2.5), "d": (1.0, 1.2)},
            "fillet": {"r": (5, 40), "l": (0.5, 8)},
            "patch": {"h": (20, 160), "s": (10, 25), "n": (2, 8)},
            "ground": {"t": (8, 20), "d": (2, 9)},
            "wet-out": {"m": (0.4, 6), "n": (1, 4), "w": (200, 800), "g": (30, 55)},
            "coverage": {"m": (2, 30), "s": (45, 100), "d": (30, 150)},
            "flood": {"d": (1, 10), "p": (1.05, 1.12)},
            "celsius": {"f": (41, 104)},
        }
        for kind, limits in within.items():
            for seed in range(1, 80):
                drawn = {row.symbol: row.value for row in sum_of(f"{kind}-{seed}").working.givens}
                for symbol, (least, most) in limits.items():
                    self.assertTrue(least <= drawn[symbol] <= most, f"{kind}-{seed}: {symbol} {drawn[symbol]}")

    def test_there_is_none_of_another_name(self):
        for wrong in ("tare", "tare-0", "tare-007", "tare-x", "tare-²", "nothing-3", f"tare-{MOST_SEED + 1}", ""):
            with self.subTest(wrong), self.assertRaises(Missing):
                sum_of(wrong)


class Pouring(TestCase):
    @given(st.floats(0.01, 30), st.floats(0.5, 1.5))
    def test_what_runs_out_is_the_flow_summed_up(self, hold_s: float, uneven: float):
        """Against SciPy's quadrature of a flow that opens evenly, and stays as it was for the moment after."""

        def flow(t: float) -> float:
            return 22.0 * uneven * min(t / OPENS_S, 1.0)

        summed = quad(flow, 0, hold_s, points=[OPENS_S] if hold_s > OPENS_S else None)[0] + flow(hold_s) * RUNS_ON_S
        self.assertAlmostEqual(ran_out(hold_s, uneven), summed, delta=1e-6 * max(1, summed))

    @given(st.sampled_from(list(POURS)), _SEEDS, st.data())
    def test_the_same_presses_always_pour_the_same(self, kind: str, seed: int, data):
        task = pour_task(f"{kind}-{seed % 40 + 1}")
        press = st.builds(Press, part=st.sampled_from(("A", "B")), hold_s=st.floats(0.05, 10))
        presses = data.draw(st.lists(press, max_size=8))
        self.assertEqual(in_cup(task, presses), in_cup(pour_task(task.id), presses))
        a, b = in_cup(task, presses)
        more = in_cup(task, [*presses, Press(part="A", hold_s=1)])
        self.assertGreater(more[0], a)
        self.assertEqual(more[1], b)

    def _pour(self, task: PourTask, a: float, b: float, **named) -> "Poured":
        """Presses that come to so much of each, found by halving."""
        presses: list[Press] = []
        for part, wanted in (("A", a), ("B", b)):
            low, high = 0.0, 60.0
            for _ in range(60):
                middle = (low + high) / 2
                now = in_cup(task, [*presses, Press(part=part, hold_s=middle or 1e-9)])[part == "B"]
                low, high = (middle, high) if now < wanted else (low, middle)
            if high > 1e-6:
                presses.append(Press(part=part, hold_s=high))
        return Poured(presses=tuple(presses), seconds=30, **named)

    def test_on_its_ratio_is_right_and_past_its_tolerance_is_not(self):
        """Exact: five per cent either way, whatever was planned."""
        task = pour_task("weigh-5")
        right = task.wanted_a * task.b_per_a
        for off, good in ((0, True), (4.9, True), (-4.9, True), (5.1, False), (-5.1, False), (40, False)):
            with self.subTest(off):
                told = marked(task, self._pour(task, task.wanted_a, right * (1 + off / 100)))
                self.assertAlmostEqual(told.off_pct, off, places=3)
                self.assertEqual(told.right, good)
        more = task.wanted_a + 15
        followed = marked(task, self._pour(task, more, more * task.b_per_a))
        self.assertTrue(followed.right)
        self.assertIn("not as large as planned", " ".join(followed.words))

    def test_too_much_hardener_is_set_right_with_resin(self):
        for seed in range(1, 40):
            task = pour_task(f"rescue-pour-{seed}")
            over = task.in_b / task.in_a / task.b_per_a
            self.assertTrue(1.05 < over <= 1.27 and 0 < task.wanted_a < 60, task.says)
        task = pour_task("rescue-pour-4")
        left = Poured(presses=(Press(part="B", hold_s=0.05),), seconds=5)
        self.assertFalse(marked(task, left).right)
        saved = marked(task, self._pour(task, task.in_b / task.b_per_a, task.in_b))
        self.assertTrue(saved.right, saved.words)
        self.assertAlmostEqual(saved.off_pct, 0, places=3)

    def test_of_the_ways_offered_one_is_right(self):
        for seed in range(1, 12):
            task = pour_task(f"marks-{seed}")
            came = []
            for way in task.ways:
                first, second = way.first_to, way.then_to - way.first_to
                a, b = (first, second) if way.first == "A" else (second, first)
                came.append(marked(task, self._pour(task, a, b)).right)
            self.assertEqual(came.count(True), 1, task.ways)
        whole = {marked(task, self._pour(task, task.wanted_a, 400)).right}
        self.assertEqual(whole, {False})

    def test_a_cup_that_runs_over_is_not_right(self):
        task = pour_task("weigh-5")
        over = marked(task, self._pour(task, task.holds, task.holds * task.b_per_a))
        self.assertFalse(over.right)
        self.assertIn("runs over", " ".join(over.words))

    def test_against_the_clock(self):
        task = pour_task("hot-3")
        a, b = task.wanted_a, task.wanted_a * task.b_per_a
        for stirred, out, good, says in (
            (2.0, task.use_by_min, True, "in which it spreads"),
            (1.9, task.use_by_min, False, "spots of it stay soft"),
            (2.0, task.use_by_min + 0.1, False, "spread no more"),
            (2.0, task.life_min, False, "set in the cup"),
            (2.0, None, False, "set in the cup"),
        ):
            with self.subTest(says, out=out):
                told = marked(task, self._pour(task, a, b, stirred_min=stirred, out_min=out))
                self.assertEqual(told.right, good)
                self.assertIn(says, " ".join(told.words))

    def test_a_hotter_day_leaves_less(self):
        by_room = {}
        for seed in range(1, 60):
            task = pour_task(f"hot-{seed}")
            room = float(re.search(r"at ([\d.]+) °C", task.says)[1])
            by_room.setdefault((room, task.wanted_a), task.life_min)
        for (room, mass), life in by_room.items():
            for (warmer, heavier), shorter in by_room.items():
                # Told to a tenth of a minute: a degree or ten grams may not show.
                if warmer >= room and heavier >= mass:
                    self.assertLessEqual(shorter, life)
                if warmer > room + 1 and heavier > mass + 10:
                    self.assertLess(shorter, life)

    def test_the_committed_pours_of_the_web_are_the_cores(self):
        self.assertEqual(json.loads(FILE.read_text()), json.loads(written()), "run `make days`")

    def test_one_part_alone_is_not_marked(self):
        with self.assertRaises(Missing) as refused:
            marked(pour_task("weigh-1"), Poured(presses=(Press(part="A", hold_s=2),), seconds=3))
        self.assertEqual(refused.exception.path, "presses")
        for wrong in ("weigh", "weigh-0", "tare-1"):
            with self.assertRaises(Missing):
                pour_task(wrong)


class Samples(TestCase):
    def test_each_shows_its_cause_before_all_others(self):
        """Against the guide of what went wrong, which finds the cause from the signs alone."""
        causes = set()
        for seed in range(1, 241):
            shown = sample(f"sample-{seed}")
            ids = [choice.id for choice in shown.choices]
            self.assertEqual((len(ids), len(set(ids)), ids[-1]), (4, 4, GOOD))
            self.assertTrue(4 <= len(shown.signs) <= 7, shown.signs)
            self.assertEqual(set(shown.against), set(ids) - {shown.cause, GOOD})
            self.assertIn(shown.cause, ids)
            causes.add(shown.cause)
            if shown.cause == GOOD:
                continue
            ranked = found({sign.question: sign.answer for sign in shown.signs}).causes
            self.assertEqual(ranked[0].id, shown.cause, shown.signs)
            self.assertGreater(ranked[0].share, 4 * ranked[1].share, shown.signs)
        self.assertGreater(len(causes), 0.9 * len(guide().causes))
        self.assertIn(GOOD, causes)

    def test_a_good_one_has_no_sign_of_a_fault(self):
        shown = sample("sample-6")
        self.assertEqual(shown.cause, GOOD)
        for sign in shown.signs:
            self.assertIn(
                (sign.question, sign.answer),
                {("mark", "none"), ("sand", "dust"), ("rag", "nothing"), ("knock", "clear"), ("cup", "hard")},
            )

    def test_there_is_none_of_another_name(self):
        for wrong in ("sample-0", "sample", "sampl-1", "sample-1.5"):
            with self.assertRaises(Missing):
                sample(wrong)


class Lessons(TestCase):
    READ = {
        "tins": {"parts": 2, "a_g": 57.5, "b_g": 52},
        "cup": {"five_g": 61},
        "pour": {"a_g": 102, "b_g": 47},
        "pot": {"gel_min": 24, "room_c": 24},
        "ply": {"fabric_g": 12, "resin_g": 13},
        "pace": {"minutes": 3, "width_mm": 200, "length_mm": 200},
        "window": {"tack_min": 95, "gel_min": 24},
        "off": {"fabric_g": 18, "resin_g": 42, "width_mm": 200, "length_mm": 200, "thickness_mm": 1.1},
    }

    def test_each_ends_with_a_figure_that_its_formula_makes(self):
        self.assertEqual([lesson.id for lesson in lessons()], list(self.READ))
        for lesson_id, read in self.READ.items():
            figure = figure_of(lesson_id, read)
            self.assertAlmostEqual(worked_by_hand(figure.working), figure.working.result, places=6)
            self.assertTrue(figure.working.rule and figure.words)

    def test_the_figures_are_those_of_the_trade(self):
        # shared check value, common practice: 2 to 1 by volume weighs about 100 to 45 at 1.15 and 1.04.
        self.assertAlmostEqual(figure_of("tins", self.READ["tins"]).working.result, 45, delta=2)
        # common practice: 10 °C warmer is about half.
        warm, cool = ({"gel_min": m, "room_c": c} for m, c in ((15, 30), (30, 20)))
        self.assertAlmostEqual(figure_of("pot", warm).working.result, figure_of("pot", cool).working.result)
        # published: ISO 12215-5, 450 g/m² at 0.30 is 1.0508 mm.
        self.assertAlmostEqual(figure_of("off", self.READ["off"]).working.result, 1.0508, places=4)

    def test_what_a_figure_means_is_said(self):
        for b, says in (
            (47, "2.4 % over its ratio, which an epoxy takes"),
            (40, "12.9 % under its ratio, which would leave an epoxy soft"),
        ):
            self.assertEqual(figure_of("pour", {"a_g": 102, "b_g": b}).words, f"Your pour was {says}")
        self.assertEqual(
            figure_of("ply", self.READ["ply"]).words,
            "Your laminate is 48 % fibre: 1.1 g of resin to each gram of fabric",
        )
        self.assertEqual(
            figure_of("pot", self.READ["pot"]).words,
            "Your pot gelled after 24 min; in a room of 20 °C that is about 32 min",
        )
        self.assertEqual(
            figure_of("pace", self.READ["pace"]).words, "You wet out a square metre in about 75 min, at this size"
        )
        self.assertIn("1.05 mm thick by its weights, and measures 1.1 mm", figure_of("off", self.READ["off"]).words)

    def test_what_cannot_be_read_is_refused_at_its_field(self):
        for lesson_id, read in self.READ.items():
            for name in read:
                with self.subTest(lesson=lesson_id, field=name):
                    with self.assertRaises(Missing) as missing:
                        figure_of(lesson_id, {k: v for k, v in read.items() if k != name})
                    self.assertEqual(missing.exception.path, name)
                    for wrong in (-1.0, 1e9):
                        with self.assertRaises(OutOfRange) as refused:
                            figure_of(lesson_id, {**read, name: wrong})
                        self.assertEqual(refused.exception.path, name)
        # To the edge of what can be read, and no further.
        for lesson in lessons():
            for asked in FIGURES[lesson.figure].asked:
                for wrong in (asked.least - 0.001 * abs(asked.least), asked.most * 1.001):
                    with self.assertRaises(OutOfRange) as refused:
                        figure_of(lesson.id, {**self.READ[lesson.id], asked.name: wrong})
                    self.assertEqual(refused.exception.path, asked.name)
        limits = {asked.name: (asked.least, asked.most) for kind in FIGURES.values() for asked in kind.asked}
        self.assertEqual((limits["width_mm"], limits["length_mm"]), ((50, 600), (50, 600)))
        for lesson_id, read, field in (
            ("ply", {"fabric_g": 100, "resin_g": 2}, "resin_g"),
            ("window", {"tack_min": 20, "gel_min": 24}, "tack_min"),
        ):
            with self.assertRaises(OutOfRange) as refused:
                figure_of(lesson_id, read)
            self.assertEqual(refused.exception.path, field)
        with self.assertRaises(LayupError):
            figure_of("nothing", {})

    def test_what_a_lesson_practises_is_there(self):
        known = {*SUMS, *POURS, "sample"}
        for lesson in lessons():
            self.assertLessEqual(set(lesson.practise), known)
            self.assertIn(lesson.figure, FIGURES)
        self.assertEqual(sum(lesson.minutes for lesson in lessons()), 60)


def tried(kind: str, rights: str) -> list[Attempt]:
    """Tries of a kind, one a minute: R right, W wrong."""
    return [
        Attempt(thing=f"{kind}-{n + 1}", right=each == "R", at=_NOON + timedelta(minutes=n))
        for n, each in enumerate(rights)
    ]


class Record(TestCase):
    def task(self, kind: str, rights: str, task: str = ""):
        told = standing(tried(kind, rights), [], [])
        return next(each for each in told.tasks if each.id == (task or kind))

    def test_a_task_is_passed_by_so_many_in_a_row_and_stays_passed(self):
        for rights, in_a_row, passed in (
            ("RR", 2, False),
            ("RRWRR", 2, False),
            ("RRWRRR", 3, True),
            ("RRRWW", 3, True),
            ("", 0, False),
        ):
            with self.subTest(rights):
                told = self.task("weigh", rights)
                self.assertEqual((told.in_a_row, told.passed), (in_a_row, passed))
        self.assertTrue(self.task("fillet", "R" * 10, "sums").passed)
        self.assertFalse(self.task("fillet", "R" * 9, "sums").passed)

    def test_the_order_is_that_of_the_clock(self):
        late = tried("weigh", "RRWR")
        self.assertEqual(standing(late, [], []).tasks, standing(late[::-1], [], []).tasks)

    def test_every_kind_to_practise_counts_for_a_task(self):
        of_tasks = {kind for task in TASKS.values() for kind in task.kinds}
        self.assertLessEqual({*SUMS, *POURS, "sample"}, of_tasks)

    @given(st.lists(st.booleans(), max_size=60), st.booleans())
    def test_good_pots_let_it_grow_and_a_lost_one_takes_that_back(self, pots: list[bool], signed: bool):
        by = [Signed(task="weigh", by="wren", at=_NOON)] if signed else []
        told = standing([], by, pots)
        self.assertGreaterEqual(standing([], by, [*pots, True]).times, told.times)
        self.assertEqual(
            standing([], by, [*pots, False]).times, times_larger(signed_for_pouring=signed, good_in_a_row=0)
        )
        self.assertEqual(told.good_pots + told.lost_pots, len(pots))
        if not signed:
            self.assertEqual(told.times, 1.0)

    def test_what_comes_next_is_said(self):
        self.assertEqual(
            standing(tried("weigh", "RR"), [], []).next_step,
            "1 more pour right in a row by the scale, then somebody skilled signs it",
        )
        self.assertIn("Somebody skilled watches", standing(tried("weigh", "RRR"), [], []).next_step)
        by = [Signed(task="weigh", by="wren", at=_NOON)]
        self.assertEqual(
            standing([], by, [True] * 4).next_step, "1 good pot more in a row, and the pots may grow again"
        )


class Caps(TestCase):
    """The beginner's pots of the work order (memory): 250 g of epoxy, 500 g of polyester; the shop's own largest holds."""

    def test_a_learners_pot_grows_to_the_shops_and_no_further(self):
        alone = PotWishes(crew=(Person(id="a", name="Tern", learner=True),))
        for times, epoxy, polyester in ((1, 250, 500), (2, 500, 1000), (3, 750, 1500), (40, 1000, 3000)):
            shop = ShopFacts(learners=(Learner(name="tern", times=times),))
            self.assertEqual(largest_allowed_g(shop, "epoxy", alone), epoxy)
            self.assertEqual(largest_allowed_g(shop, "polyester", alone), polyester)

    def test_who_is_not_known_is_a_beginner_and_the_least_of_several_counts(self):
        shop = ShopFacts(learners=(Learner(name="tern", times=3), Learner(name="knot", times=2)))
        unknown = PotWishes(crew=(Person(id="a", name="Rail", learner=True),))
        both = PotWishes(crew=(Person(id="a", name="Tern", learner=True), Person(id="b", name="Knot", learner=True)))
        mate = PotWishes(crew=(Person(id="a", name="Rail", learner=True), Person(id="b", name="Wren")))
        self.assertEqual(largest_allowed_g(shop, "epoxy", unknown), 250)
        self.assertEqual(largest_allowed_g(shop, "epoxy", both), 500)
        self.assertEqual(largest_allowed_g(shop, "epoxy", mate), 1000)
        of_all = shop.model_copy(update={"learner": True})
        self.assertEqual(largest_allowed_g(of_all, "epoxy", PotWishes()), 500)
        self.assertEqual(largest_allowed_g(ShopFacts(learner=True), "epoxy", PotWishes()), 250)


class Days(TestCase):
    """A day at the simulated bench, worked by a hand of the test's own: each pot mixed and spread, one after the other."""

    def worked(
        self, day: PracticeDay, *, idle_min: float = 0.0, off: float = 1.0, gels: int = 0
    ) -> tuple[list[Event], float]:
        events: list[Event] = []
        now = 0.5

        def tap(about: str, subject: str, kind: str, **data) -> None:
            events.append(
                Event.model_validate(
                    {
                        "id": f"{len(events)}",
                        "about": about,
                        "subject": subject,
                        "kind": kind,
                        "at_min": now,
                        "by": "tern",
                        "data": data,
                    }
                )
            )

        tap("run", "", "opened")
        for pot in day.card.pots:
            number = str(pot.number)
            first, second = pot.pours
            for kind, amount in (("A in", first.amount), ("B in", second.amount * off)):
                now += day.takes_min[kind]
                tap("pot", number, kind, amount=round(amount, 1))
            now += day.takes_min["stirred"]
            tap("pot", number, "stirred")
            now += pot.spread_min + idle_min
            if pot.number == gels:
                tap("pot", number, "gelled")
                continue
            tap("pot", number, "used up")
            for layer in day.card.layers:
                if layer.last_pot == pot.number:
                    tap("layer", layer.id, "laid")
        return events, now

    def test_one_that_is_worked_as_planned_is_good(self):
        for number in range(1, DAYS + 1):
            day = practice_day(f"day-{number}")
            self.assertEqual(day, practice_day(day.id))
            came = marked_day(day, *self.worked(day))
            self.assertTrue(came.right, came.words)
            self.assertEqual((came.lost_pots, came.late_layers), (0, 0))
            # Its calls come while there is still work, and each would cost a pot its life.
            for call in day.calls:
                self.assertLess(call.at_min, day.planned_min)
                self.assertGreater(call.for_min, 0)

    def test_a_pot_left_to_itself_through_a_call_is_lost(self):
        """By the card's own lives, which the heat model gave: mixed, a call of its longest, and only then spread."""
        for number in range(1, DAYS + 1):
            day = practice_day(f"day-{number}")
            pot = day.card.pots[0]
            life = next(each.cup_min for each in pot.lives if each.room_c == pot.room_c) * day.lives
            busy = day.takes_min["stirred"] + pot.spread_min
            self.assertLess(busy, 0.8 * life, "worked at once it is used in time")
            self.assertGreater(2 * busy + 7.0, 0.8 * life, "two in hand, and the phone taken, is too late")

    def test_what_went_wrong_is_told(self):
        day = practice_day("day-4")
        lost = marked_day(day, *self.worked(day, gels=1))
        self.assertFalse(lost.right)
        self.assertRegex(" ".join(lost.words), r"Pot 1 kicked in its cup after \d+ min, 175 g of it")
        # Ended when half of the pots were on the work.
        events, ended = self.worked(day)
        unlaid = marked_day(
            day, [event for event in events if event.subject not in ("3", "4", day.card.layers[-1].id)], ended
        )
        self.assertFalse(unlaid.right)
        self.assertEqual(unlaid.words[0], "1 of 2 layers is laid")
        off = marked_day(day, *self.worked(day, off=1.2))
        self.assertFalse(off.right)
        self.assertEqual(off.lost_pots, len(day.card.pots))
        slow = marked_day(day, *self.worked(day, idle_min=5))
        self.assertIn("It took", " ".join(slow.words))

    def test_a_layer_on_a_closed_one_is_late_unless_it_was_sanded(self):
        day = practice_day("day-4")
        events, ended = self.worked(day)
        below, above = day.card.layers
        closes = below.closes_after_min + 60
        moved = [
            event.model_copy(update={"at_min": event.at_min + closes})
            if event.subject in (above.id, "3", "4")
            else event
            for event in events
        ]
        late = marked_day(day, moved, ended + closes)
        self.assertEqual(late.late_layers, 1, late.words)
        self.assertFalse(late.right)
        laid = next(event for event in moved if event.subject == above.id)
        sanded = Event.model_validate(
            {
                "id": "s",
                "about": "layer",
                "subject": below.id,
                "kind": "mended",
                "at_min": laid.at_min - 1,
                "by": "tern",
            }
        )
        self.assertEqual(marked_day(day, [*moved, sanded], ended + closes).late_layers, 0)

    def test_there_is_none_of_another_name(self):
        for wrong in ("day-0", "day", "dy-1", "day-1000000"):
            with self.assertRaises(Missing):
                practice_day(wrong)


class WhyEachStep(TestCase):
    def test_every_kind_of_step_has_a_reason_in_one_line(self):
        for kind in STEP_KINDS:
            why = why_of(kind)
            self.assertTrue(why.words.endswith("."), kind)
            self.assertLess(len(why.words), 110, kind)
            self.assertEqual(why.source, "common practice")
        self.assertEqual(set(WHY), set(STEP_KINDS))
