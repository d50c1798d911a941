"""Pouring, practised: a cup, a scale or marks, a hand that runs on, and what came of it. The same presses always pour the same."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from random import Random
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from layup.chemistry.gel import pot_life_min
from layup.chemistry.off_ratio import Cup, Grade, two_part
from layup.chemistry.ratio import weight_ratio_from_volume
from layup.errors import Missing, known
from layup.heat.pot_heat import HeatOf, full_heat
from layup.library import generic
from layup.pots.sizing import MOST_WORKING_SHARE
from layup.record import Record
from layup.scales import METRIC, Scales
from layup.training.numbered import numbered

Part = Literal["A", "B"]
MOST_PRESSES = 200
# memory: a tin tipped for so long, s, runs full at so much a second, g or ml; let go, it runs on for so long, s
OPENS_S, FULL_PER_S, RUNS_ON_S = 2.0, 22.0, 0.22
# memory: one time it runs by so much more or less than another
_UNEVEN = 0.35
_UNEVEN_KEPT = 24
# A day of which six seconds are a minute, and so long at least a pot is stirred by its clock, min (common practice).
_HOT_PACE, STIR_MIN = 10.0, 2.0
_HOT_ROOMS_C = (29, 30, 31, 32, 33)


class CupWay(Record):
    """One way to go about it that is offered: its words, which part goes in first, the mark it goes to, and the mark of the second."""

    words: str
    first: Part
    first_to: float
    then_to: float


class PourTask(Record):
    """A pot to pour. Amounts in `unit`, g or ml. `b_per_a` is the ratio in that unit.

    `wanted_a` is the resin asked for; `cup` what the empty cup weighs, nought where it is tared; `in_a` and `in_b` are in
    the cup when it begins. `holds` is what the cup takes. `uneven` is how fast each press runs, by turns. Where there is a
    `life_min`, the clock runs at `pace` from the first of part B, and it is stirred `stir_min` of it.
    """

    id: str
    kind: str
    title: str
    says: str
    unit: Literal["g", "ml"]
    b_per_a: float
    tolerance_pct: float
    wanted_a: float
    cup: float
    in_a: float = 0.0
    in_b: float = 0.0
    holds: float
    step: float
    uneven: tuple[float, ...]
    opens_s: float = OPENS_S
    full_per_s: float = FULL_PER_S
    runs_on_s: float = RUNS_ON_S
    ways: tuple[CupWay, ...] = ()
    life_min: float | None = None
    use_by_min: float | None = None
    pace: float = 1.0
    stir_min: float = 0.0


class Press(BaseModel):
    """A tin tipped over the cup: which part, and for how long, s."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    part: Part
    hold_s: float = Field(gt=0, le=120, allow_inf_nan=False)


class Poured(BaseModel):
    """What a hand did: its presses in order, how long it all took, s, and by the clock of a pot how long it was stirred and
    when it was poured out, min from the first of part B.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    presses: tuple[Press, ...] = Field(min_length=1, max_length=MOST_PRESSES)
    seconds: float = Field(gt=0, le=7200, allow_inf_nan=False)
    stirred_min: float = Field(default=0.0, ge=0, le=600, allow_inf_nan=False)
    out_min: float | None = Field(default=None, ge=0, le=600, allow_inf_nan=False)


class PourMark(Record):
    """What came of it: what is in the cup, how far off its ratio, in per cent, whether it may be used, and why in words."""

    a: float
    b: float
    off_pct: float
    grade: Grade
    seconds: float
    right: bool
    words: tuple[str, ...]


def ran_out(hold_s: float, uneven: float) -> float:
    """What runs out of a tin that is tipped for so long, and for the moment after: it opens over two seconds.

    >>> round(ran_out(0.2, 1.0), 2), round(ran_out(4.0, 1.0), 2)
    (0.7, 70.84)
    """
    opened = min(hold_s / OPENS_S, 1.0)
    held = opened * min(hold_s, OPENS_S) / 2 + max(0.0, hold_s - OPENS_S)
    return FULL_PER_S * uneven * (held + opened * RUNS_ON_S)


def in_cup(task: PourTask, presses: Sequence[Press]) -> tuple[float, float]:
    """Resin and hardener in the cup after some presses. What was in it at the beginning counts.

    >>> task = pour_task("weigh-1")
    >>> in_cup(task, []), in_cup(task, [Press(part="A", hold_s=3)]) == in_cup(task, [Press(part="A", hold_s=3)])
    ((0.0, 0.0), True)
    """
    amounts = {"A": task.in_a, "B": task.in_b}
    for place, press in enumerate(presses):
        amounts[press.part] += ran_out(press.hold_s, task.uneven[place % len(task.uneven)])
    return amounts["A"], amounts["B"]


def marked(task: PourTask, poured: Poured, scales: Scales = METRIC) -> PourMark:
    """What came of a pour. Raises Missing where one of the parts is not in the cup.

    >>> task = pour_task("weigh-1")
    >>> marked(task, Poured(presses=[Press(part="A", hold_s=9), Press(part="B", hold_s=9)], seconds=30)).grade
    'gone'
    """
    a, b = in_cup(task, poured.presses)
    if a <= 0 or b <= 0:
        raise Missing("pour both parts first: there is nothing to mark", "presses")
    cup = Cup(most_g=task.holds)
    verdict = two_part(a, b, task.b_per_a, task.tolerance_pct, cup, lambda _: task.life_min or 30.0, scales)
    words = [f"{verdict.words[0].upper()}{verdict.words[1:]}"]
    right = verdict.grade == "within tolerance"
    if right and a + b > task.holds:
        right = False
        words.append("The cup runs over: it holds " + _amount(task, task.holds, scales))
    elif not right and not verdict.refused:
        more = "resin" if verdict.add == "A" else "hardener"
        words.append(f"{_amount(task, verdict.add_g, scales)} more of {more} would have set it right")
    elif not right:
        words.append(f"{verdict.refused[0].upper()}{verdict.refused[1:]}")
    asked = task.wanted_a + task.in_a
    if right and not task.in_b and abs(a / asked - 1) > _AS_PLANNED:
        words.append(
            f"The pot is not as large as planned: {_amount(task, a, scales)} of resin for {_amount(task, asked, scales)}"
        )
    if task.life_min is not None:
        in_time, said = _by_the_clock(task, poured, scales)
        right = right and in_time
        words += said
    return PourMark(
        a=a, b=b, off_pct=verdict.off_pct, grade=verdict.grade, seconds=poured.seconds, right=right, words=tuple(words)
    )


# memory: so far from the resin that was asked for a pot is another one
_AS_PLANNED = 0.1


def _amount(task: PourTask, amount: float, scales: Scales) -> str:
    return f"{scales.written(amount, '.0f')} {task.unit}"


def _by_the_clock(task: PourTask, poured: Poured, scales: Scales) -> tuple[bool, list[str]]:
    life, by = known(task.life_min), known(task.use_by_min)
    stirred, ends = scales.written(poured.stirred_min, ".1f"), scales.written(by, ".1f")
    out = "" if poured.out_min is None else scales.written(poured.out_min, ".1f")
    said = []
    if poured.stirred_min < task.stir_min:
        said.append(f"It was stirred {stirred} min, and takes {task.stir_min:g} min: spots of it stay soft")
    if poured.out_min is None or poured.out_min >= life:
        said.append(f"It set in the cup after {life:.0f} min")
    elif poured.out_min > by:
        said.append(f"It was poured out at {out} min, when it spread no more: that ends at {ends} min")
    else:
        said.append(f"It was poured out at {out} min, of {ends} min in which it spreads")
        return poured.stirred_min >= task.stir_min, said
    return False, said


@dataclass(frozen=True)
class PourKind:
    """One kind of pour: its title, and how a task of it is made from dice."""

    title: str
    made: Callable[[str, Random, Scales, HeatOf], PourTask]


def pour_task(task_id: str, scales: Scales = METRIC, heat_of: HeatOf = full_heat) -> PourTask:
    """The task that an id names, such as `weigh-3`. Raises Missing where there is none.

    >>> task = pour_task("weigh-3")
    >>> task.title, task.unit, task == pour_task("weigh-3")
    ('Two parts by the scale', 'g', True)
    """
    kind_id, _ = numbered(task_id, POURS)
    return POURS[kind_id].made(task_id, Random(f"pour {task_id}"), scales, heat_of)


def _uneven(dice: Random) -> tuple[float, ...]:
    return tuple(round(1 + _UNEVEN * (2 * dice.random() - 1), 3) for _ in range(_UNEVEN_KEPT))


def _weigh(task_id: str, dice: Random, scales: Scales, heat_of: HeatOf) -> PourTask:
    ratio, resin, cup = dice.choice((25, 40, 43, 45, 50)), dice.randrange(80, 180, 10), dice.randrange(9, 28)
    return PourTask(
        id=task_id,
        kind="weigh",
        title=POURS["weigh"].title,
        says=f"The cup weighs {cup} g, and the scale is not set to nought. Pour {resin} g of resin, then hardener, {ratio} to "
        "100 by weight. Hardener follows what is really in the cup.",
        unit="g",
        b_per_a=ratio / 100,
        tolerance_pct=_TOLERANCE_PCT,
        wanted_a=resin,
        cup=cup,
        holds=500,
        step=1,
        uneven=_uneven(dice),
    )


def _rescue(task_id: str, dice: Random, scales: Scales, heat_of: HeatOf) -> PourTask:
    ratio, resin = dice.choice((25, 40, 45, 50)), dice.randrange(100, 180, 10)
    over = round(resin * ratio / 100 * dice.choice((1.12, 1.16, 1.2, 1.25)))
    return PourTask(
        id=task_id,
        kind="rescue-pour",
        title=POURS["rescue-pour"].title,
        says=f"{resin} g of resin and {over} g of hardener are in the cup. The ratio is {ratio} to 100 by weight, so there is "
        "too much hardener. Pour what sets it right. The cup is tared.",
        unit="g",
        b_per_a=ratio / 100,
        tolerance_pct=_TOLERANCE_PCT,
        wanted_a=round(over / (ratio / 100) - resin),
        cup=0,
        in_a=resin,
        in_b=over,
        holds=500,
        step=1,
        uneven=_uneven(dice),
    )


def _by_marks(task_id: str, dice: Random, scales: Scales, heat_of: HeatOf) -> PourTask:
    parts, resin = dice.choice((2, 3, 4, 5)), dice.choice((60, 80, 100, 120))
    hardener = resin / parts
    whole = resin + hardener
    ways = [
        CupWay(
            words=f"Resin to the mark {resin}, then hardener to {scales.written(whole)}",
            first="A",
            first_to=resin,
            then_to=whole,
        ),
        CupWay(
            words=f"Hardener to the mark {resin}, then resin to {scales.written(whole)}",
            first="B",
            first_to=resin,
            then_to=whole,
        ),
        CupWay(
            words=f"Resin to the mark {resin}, then hardener to {resin + resin}",
            first="A",
            first_to=resin,
            then_to=2 * resin,
        ),
    ]
    dice.shuffle(ways)
    return PourTask(
        id=task_id,
        kind="marks",
        title=POURS["marks"].title,
        says=f"A straight cup with marks each 5 ml. The resin is mixed {parts} to 1 by volume: {parts} of resin, 1 of hardener. "
        f"Choose the way, then pour {resin} ml of resin and its hardener into one cup.",
        unit="ml",
        b_per_a=1 / parts,
        tolerance_pct=2 * _TOLERANCE_PCT,
        wanted_a=resin,
        cup=0,
        holds=300,
        step=5,
        uneven=_uneven(dice),
        ways=tuple(ways),
    )


def _hot(task_id: str, dice: Random, scales: Scales, heat_of: HeatOf) -> PourTask:
    resin_product = generic().resins[0]
    hardener = resin_product.hardeners[1]
    per_a = weight_ratio_from_volume(
        known(resin_product.ratio_volume_b_per_a),
        known(resin_product.density_g_per_cm3),
        known(hardener.density_g_per_cm3),
    )
    room_c, resin = dice.choice(_HOT_ROOMS_C), dice.randrange(120, 200, 10)
    ratio = round(100 * per_a)
    life = round(pot_life_min(hardener, room_c, resin * (1 + ratio / 100), heat_of), 1)
    by = round(MOST_WORKING_SHARE * life, 1)
    return PourTask(
        id=task_id,
        kind="hot",
        title=POURS["hot"].title,
        says=f"The room is at {scales.temperature(room_c)}, the hardener a medium one. Pour {resin} g of resin and "
        f"{ratio} to 100 of hardener by weight; the cup is tared. The clock starts with the first of the hardener and goes ten "
        f"times as fast as yours. Stir for {scales.written(STIR_MIN)} min of it, and pour it out on the work before it sets.",
        unit="g",
        b_per_a=ratio / 100,
        tolerance_pct=_TOLERANCE_PCT,
        wanted_a=resin,
        cup=0,
        holds=500,
        step=1,
        uneven=_uneven(dice),
        life_min=life,
        use_by_min=by,
        pace=_HOT_PACE,
        stir_min=STIR_MIN,
    )


# memory: what a pot of two parts stands of its ratio, %
_TOLERANCE_PCT = 5.0
POURS: Mapping[str, PourKind] = {
    "weigh": PourKind("Two parts by the scale", _weigh),
    "rescue-pour": PourKind("Too much ran in", _rescue),
    "marks": PourKind("Two parts by the marks of a cup", _by_marks),
    "hot": PourKind("Against the clock of a hot day", _hot),
}
