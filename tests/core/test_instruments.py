"""Lines of instruments as they are sent, recorded and hostile; a pot weighed by a shaky hand; what is not believed.

Of `layup.instruments.lines`, `layup.instruments.followed`, `layup.instruments.weighing`, `layup.instruments.stand_in`.
"""

import unittest
from datetime import date

from hypothesis import given, settings
from hypothesis import strategies as st

from layup.bench.card import CardPot
from layup.bench.now import PotNow
from layup.bench.state import fold
from layup.errors import OutOfRange
from layup.instruments.followed import Believed, ScaleFollower, WarmthFollower
from layup.instruments.lines import (
    LONGEST_LINE,
    NAMED,
    PLAIN,
    STATUS,
    LineRead,
    numbers_in,
    read_line,
    shape_by_example,
)
from layup.instruments.stand_in import ScaleStandIn
from layup.instruments.weighing import Step, Weighing
from layup.plan import plan
from layup.shop_facts import ScaleChecked, ShopFacts
from tests.core.bench_days import JOBS, card_of, tap

# common practice, no source: what scales and thermometers of these three shapes send
RECORDED = (
    ("  123.4 g", "scale", 123.4, None),
    ("-0.5g", "scale", -0.5, None),
    ("12,5 g", "scale", 12.5, None),
    ("ST,  +  412.5 g", "scale", 412.5, True),
    ("US,NT,+00412.5  g", "scale", 412.5, False),
    ("S 0.412 kg", "scale", 412.0, True),
    ("M: 2.00 lb", "scale", 907.18474, False),
    ("ok 16.00 oz", "scale", 453.59237, True),
    ("21.5", "thermometer", 21.5, None),
    ("IR1, 98.6, F", "thermometer", 37.0, None),
    ("probe-2,40.1,C,ok", "thermometer", 40.1, True),
    ("room,-3.5,°C", "room", -3.5, None),
)
HOSTILE = (
    "",
    "   ",
    "g",
    "12.",
    "+",
    "ST,",
    "12.5 g 13.5 g",
    "\x00\xff\x12",
    "1e9 g",
    "nan g",
    "9999999 kg",
    "12 ml",
    "٣ g",
)


class Lines(unittest.TestCase):
    def test_lines_of_three_shapes_are_read(self):
        for text, kind, value, still in RECORDED:
            with self.subTest(text):
                self.assertEqual(read_line(text, kind), LineRead(value, still))

    def test_what_is_no_reading_is_not_one(self):
        for text in (*HOSTILE, "1" * (LONGEST_LINE + 1), "+" + " " * 100 + "1", "x" * 1_000_000):
            with self.subTest(text[:20]):
                self.assertIsNone(read_line(text, "scale"))
        self.assertIsNone(read_line("12.5 g", "thermometer"), "a scale at the thermometer's port")
        self.assertIsNone(read_line("21.5 C", "scale"))

    def test_a_bare_number_is_in_the_unit_that_is_said(self):
        self.assertEqual(read_line("2.0", "scale", unit="lb").value, 907.18474)
        self.assertEqual(read_line("2.0 g", "scale", unit="lb").value, 2.0, "what the line says stands over it")
        self.assertEqual(read_line("212", "thermometer", unit="°F").value, 100.0)

    @given(st.text(max_size=200), st.sampled_from(["scale", "thermometer", "room"]))
    def test_any_text_is_read_or_left(self, text, kind):
        read = read_line(text, kind)
        if read:
            self.assertTrue(-200_000 <= read.value <= 200_000)

    def test_each_shape_reads_its_own(self):
        for shape, text in ((PLAIN, "5 g"), (STATUS, "ST 5 g"), (NAMED, "a,5,g")):
            others = [each for each in (PLAIN, STATUS, NAMED) if each is not shape]
            self.assertEqual(read_line(text, "scale", shape).value, 5)
            self.assertEqual([read_line(text, "scale", other) for other in others], [None, None], text)


class ByExample(unittest.TestCase):
    LINES = ("N0001 G S 00412.5g T 21", "N0002 G M 00420.0g T 21", "N0003 G S 00431.5g T 22")

    def test_the_number_that_is_pressed_is_the_reading(self):
        places = [self.LINES[0][begin:end] for begin, end in numbers_in(self.LINES[0])]
        self.assertEqual(places, ["0001", "00412.5", "21"])
        shape = shape_by_example(self.LINES, 1, "scale")
        self.assertEqual(read_line("N0999 G M 00007.5g T 19", "scale", shape), LineRead(7.5, False))
        self.assertEqual(read_line("N0999 G S 00007.5g T 19", "scale", shape), LineRead(7.5, True))
        self.assertIsNone(read_line("N0999 X S 00007.5g T 19", "scale", shape), "what never differed has to be there")
        temperature = shape_by_example(self.LINES, 2, "thermometer")
        self.assertEqual(read_line(self.LINES[2], "thermometer", temperature).value, 22)

    def test_what_cannot_be_learned_from_is_said(self):
        for lines, pressed, path, said in (
            (self.LINES[:2], 1, "lines", "three lines"),
            ((*self.LINES[:2], "ERR"), 1, "lines", "line 3 is not built like the first"),
            (self.LINES, 3, "pressed", "press the number"),
            (("a 5 C", "a 6 C", "a 7 C"), -1, "pressed", "press the number"),
            (("a 999999 kg", "a 6 kg", "a 7 kg"), 0, "pressed", "reads as no weight in line 1"),
        ):
            with self.subTest(said), self.assertRaises(OutOfRange) as refused:
                shape_by_example(lines, pressed, "scale")
            self.assertEqual((refused.exception.path, said in refused.exception.message), (path, True))


class Followed(unittest.TestCase):
    def test_a_knock_is_called_so_and_weighs_nothing(self):
        scale = ScaleFollower(1.0)
        told = [scale.take(n / 10, grams) for n, grams in enumerate([50.0] * 20 + [230.0] + [50.0] * 20)]
        self.assertEqual({read.value for read in told}, {50.0})
        self.assertEqual([read.trouble for read in told].count("knocked"), 1)
        self.assertTrue(told[-1].still)

    def test_two_that_send_on_one_port_are_told(self):
        scale = ScaleFollower(1.0)
        told = [scale.take(n / 10, 50.0 if n % 2 else 400.0, True) for n in range(40)]
        self.assertEqual(told[-1].trouble, "two at once")
        self.assertFalse(told[-1].still)

    def test_it_stands_still_by_its_word_or_by_its_readings(self):
        scale = ScaleFollower(1.0)
        said = [scale.take(n / 10, 100.0 + 3 * min(n, 20)) for n in range(60)]
        first = next(n for n, read in enumerate(said) if read.still)
        self.assertTrue(30 <= first <= 36, "1.2 s after the last gram, a step and a tremor early")
        says = ScaleFollower(1.0)
        self.assertEqual(
            [says.take(n / 10, 5.0, n != 8).still for n in range(10)], [*[False] * 5, *[True] * 3, False, True]
        )

    def test_a_probe_that_looks_away_is_not_believed_until_it_lasts(self):
        probe = WarmthFollower(20.0)
        told = [
            probe.take(5 * n, c) for n, c in enumerate([30.0, 30.5, 31.0, 60.0, 60.0, 60.0, 60.0, 60.0, 60.0, 60.0])
        ]
        troubles = [read.trouble for read in told]
        self.assertEqual(troubles[:6], ["", "", "", "", "jumped", "jumped"])
        self.assertEqual(
            (troubles[-1], told[-1].value), ("", 60.0), "no pot warms by a kelvin a second, but a probe may move"
        )

    def test_what_stays_hot_to_a_tenth_is_stuck(self):
        probe = WarmthFollower(20.0)
        told = [probe.take(5 * n, 85.0) for n in range(20)]
        self.assertEqual([read.trouble for read in told], [""] * 12 + ["stuck"] * 8)
        room = WarmthFollower(20.0)
        self.assertEqual({room.take(5 * n, 21.0).trouble for n in range(20)}, {""}, "a room may stay as it is")


CARD = card_of("panel")


class Hand:
    """A pot weighed on the simulated scale, from its first cup to its last gram, as the bench writes it down."""

    def __init__(self, card: CardPot, seed: int, *, says_still: bool = True) -> None:
        self.card, self.scale, self.events = card, ScaleStandIn(card.pours[0].step, seed), []
        self.follower, self.at_s, self.says_still = ScaleFollower(card.pours[0].step), 0.0, says_still
        self.weighing = Weighing(card, self.pot())
        self.steps: list[Step] = []

    def pot(self) -> PotNow:
        return fold(CARD, self.events, self.at_s / 60 + 0.01).pots[self.card.number - 1]

    def wait(self, seconds: float) -> None:
        for _ in range(round(10 * seconds)):
            self.at_s += 0.1
            read = read_line(self.scale.line(0.1), "scale")
            believed = self.follower.take(self.at_s, read.value, read.still if self.says_still else None)
            for step in self.weighing.take(believed):
                self.steps.append(step)
                data = {"cup on": {"grams": step.amount}, "touched": {}}.get(step.kind, {"amount": step.amount})
                number = str(len(self.events))
                self.events.append(tap(step.at_s / 60, step.kind, str(self.card.number), tap_id=number, **data))
                self.weighing.follow(self.card, self.pot())

    def say(self, kind: str) -> None:
        self.events.append(tap(self.at_s / 60, kind, str(self.card.number), tap_id=str(len(self.events))))
        self.weighing.follow(self.card, self.pot())

    @property
    def kinds(self) -> list[str]:
        return [step.kind for step in self.steps]


class Checked(unittest.TestCase):
    """A scale that was checked with a known weight: told on every ticket that weighs."""

    def said(self, shown_g: float | None, **facts) -> str:
        checked = shown_g and ScaleChecked(on=date(2026, 11, 28), known_g=500, shown_g=shown_g)
        return plan(JOBS["panel"], ShopFacts(scale_checked=checked or None, **facts)).pots[0].ticket.scale_checked

    def test_a_ticket_says_how_far_its_scale_is_off(self):
        self.assertEqual(self.said(502), "the scale was checked on 28 November 2026: 2 g too much at 500 g")
        self.assertEqual(self.said(499), "the scale was checked on 28 November 2026: 1 g too little at 500 g")
        self.assertEqual(self.said(500), "the scale was checked on 28 November 2026: right at 500 g")
        self.assertEqual(self.said(None), "")
        self.assertIn("0.07 oz too much at 17.6 oz", self.said(502, units="US"))


class Weighed(unittest.TestCase):
    def setUp(self):
        self.card = CARD.pots[0]
        self.a_g, self.b_g = (pour.amount for pour in self.card.pours)

    @settings(max_examples=40, deadline=None)
    @given(st.integers(0, 10_000), st.booleans())
    def test_a_shaky_hand_weighs_a_pot_that_is_on_its_ratio(self, seed, says_still):
        hand = Hand(self.card, seed, says_still=says_still)
        hand.wait(2)
        hand.scale.put_cup(self.card.cup_reads)
        hand.wait(3)
        hand.scale.pour(self.a_g)
        hand.wait(self.a_g / 8 + 6)
        poured = hand.pot()
        self.assertAlmostEqual(poured.first, self.a_g, delta=0.06 * self.a_g)
        began_s = hand.at_s
        hand.scale.pour(poured.target)
        hand.wait(self.b_g / 8 + 12)
        self.assertEqual([kind for kind in hand.kinds if kind != "B in"], ["cup on", "A in", "touched"])
        done = hand.pot()
        self.assertTrue(done.on_ratio, (done.off_pct, done.mend))
        self.assertAlmostEqual(60 * done.touched_min, began_s, delta=1.5)
        before = len(hand.steps)
        hand.wait(20)
        self.assertEqual(hand.steps[before:], [], "nothing more is written of a pot at rest")

    def weighed_a(self, seed: int = 3) -> Hand:
        hand = Hand(self.card, seed)
        hand.scale.put_cup(self.card.cup_reads)
        hand.wait(3)
        hand.scale.pour(self.a_g, runs_over=False)
        hand.wait(self.a_g / 8 + 6)
        return hand

    def test_what_is_to_go_is_of_the_part_in_hand_at_once(self):
        hand = self.weighed_a()
        self.assertAlmostEqual(hand.weighing.in_all_g - hand.scale.in_g, hand.pot().target, delta=2)
        hand.scale.pour(0.5 * self.b_g, runs_over=False)
        hand.wait(8)
        self.assertAlmostEqual(hand.weighing.in_all_g - hand.scale.in_g, 0.5 * self.b_g, delta=2)
        # A knock throws the scale for a moment, and not the hand.
        hand.scale.knock()
        for _ in range(5):
            hand.wait(0.1)
            self.assertAlmostEqual(hand.weighing.in_all_g - hand.scale.in_g, 0.5 * self.b_g, delta=2)
        card = self.card
        first = card.pours[0].amount
        weighing = Weighing(card, PotNow(number=1))
        self.assertEqual(weighing.in_all_g, first)
        weighing.follow(card, PotNow(number=1, first=first, target=40.0))
        self.assertEqual(weighing.in_all_g, first + 40.0, "before the scale has sent anything")
        off = {"mend": "first", "mend_amount": 15.0, "second": 60.0}
        weighing.follow(card, PotNow(number=1, first=first, target=40.0, **off))
        self.assertEqual(weighing.in_all_g, first + 15.0 + 60.0)

    def test_what_ran_over_is_mended_by_more_of_the_first(self):
        hand = self.weighed_a()
        hand.scale.pour(1.3 * self.b_g, runs_over=False)
        hand.wait(self.b_g / 6 + 12)
        pot = hand.pot()
        self.assertEqual(pot.mend, "first")
        self.assertAlmostEqual(pot.second, 1.3 * self.b_g, delta=2)
        hand.scale.pour(pot.mend_amount, runs_over=False)
        hand.wait(pot.mend_amount / 6 + 12)
        mended = hand.pot()
        self.assertEqual((mended.mend, hand.kinds[-1]), ("", "A in"))
        self.assertAlmostEqual(mended.first, 1.3 * self.a_g, delta=0.03 * self.a_g)

    def test_too_little_is_waited_for_and_a_pause_inside_the_tolerance_is_taken(self):
        hand = self.weighed_a()
        hand.scale.pour(0.5 * self.b_g, runs_over=False)
        hand.wait(20)
        self.assertIsNone(hand.pot().second)
        self.assertEqual(hand.weighing.on_scale.stage, "pouring")
        hand.scale.pour(0.49 * self.b_g, runs_over=False)
        hand.wait(20)
        self.assertAlmostEqual(hand.pot().second, 0.99 * self.b_g, delta=1.5)

    def test_a_cup_that_is_lifted_and_put_back_goes_on_where_it_was(self):
        hand = self.weighed_a()
        hand.scale.pour(0.5 * self.b_g, runs_over=False)
        hand.wait(8)
        hand.scale.lift()
        hand.wait(4)
        self.assertEqual(hand.weighing.on_scale.stage, "cup off")
        hand.scale.put_back()
        hand.wait(4)
        hand.scale.pour(0.5 * self.b_g, runs_over=False)
        hand.wait(12)
        self.assertAlmostEqual(hand.pot().second, self.b_g, delta=2)
        self.assertEqual(hand.kinds, ["cup on", "A in", "touched", "B in"])

    def test_a_scale_set_to_nought_between_the_parts(self):
        hand = self.weighed_a()
        hand.scale.set_to_nought()
        hand.wait(3)
        hand.scale.pour(self.b_g, runs_over=False)
        hand.wait(self.b_g / 8 + 12)
        self.assertAlmostEqual(hand.pot().second, self.b_g, delta=2)

    def test_a_cup_under_which_the_scale_was_set_to_nought(self):
        hand = Hand(self.card, 5)
        hand.scale.put_cup(self.card.cup_reads)
        hand.scale.set_to_nought()
        hand.wait(3)
        # A pause at what a cup might weigh is no cup.
        hand.scale.pour(1.5 * self.card.cup_reads, runs_over=False)
        hand.wait(8)
        hand.scale.pour(self.a_g - 1.5 * self.card.cup_reads, runs_over=False)
        hand.wait(self.a_g / 8 + 8)
        self.assertAlmostEqual(hand.pot().first, self.a_g, delta=2)
        self.assertEqual(hand.kinds, ["A in"])

    def test_another_cup_before_anything_is_in_it(self):
        hand = Hand(self.card, 5)
        hand.scale.put_cup(self.card.cup_reads)
        hand.wait(3)
        hand.scale.lift()
        hand.wait(3)
        hand.scale.put_cup(1.5 * self.card.cup_reads)
        hand.wait(3)
        self.assertEqual(hand.kinds, ["cup on", "cup on"])
        self.assertAlmostEqual(hand.pot().cup_g, 1.5 * self.card.cup_reads, delta=1)

    def test_what_still_stands_on_the_scale_of_the_last_pot_is_not_the_next(self):
        for seed in range(20):
            hand = Hand(CARD.pots[1], seed)
            hand.scale.put_cup(20)
            hand.scale.pour(3 * CARD.pots[1].mass_g, runs_over=False)
            while "MV" in hand.scale.line(1.0):
                pass
            hand.wait(5)
            self.assertEqual((hand.kinds, hand.weighing.on_scale.stage), ([], "no cup"))
            hand.scale.lift()
            hand.wait(3)
            hand.scale.put_cup(CARD.pots[1].cup_reads)
            hand.wait(3)
            self.assertEqual(hand.kinds, ["cup on"])

    def test_a_knock_writes_nothing_down(self):
        hand = self.weighed_a()
        before = len(hand.steps)
        hand.scale.knock()
        hand.wait(5)
        self.assertEqual(hand.steps[before:], [])

    def test_started_over_it_begins_with_a_cup(self):
        hand = self.weighed_a()
        hand.say("started over")
        hand.scale.lift()
        hand.wait(3)
        hand.scale.put_cup(self.card.cup_reads)
        hand.wait(3)
        self.assertEqual(hand.kinds, ["cup on", "A in", "cup on"])

    def test_what_is_not_weighed_is_left_alone(self):
        pours = tuple(pour.model_copy(update={"tool": "pumps"}) for pour in self.card.pours)
        pumped = Weighing(self.card.model_copy(update={"pours": pours}), PotNow(number=1))
        self.assertEqual(pumped.take(Believed(0, 200, True)), [])
        self.assertIsNone(pumped.on_scale)
