"""The steps of a finish, in their order, with their minutes."""

from collections.abc import Iterator, Mapping, Sequence
from math import ceil
from statistics import mean

from layup.finish.grits import GRAIN_UM, ladder
from layup.finish.outcome import FinishStep
from layup.finish_wishes import FinishedTo, FinishWishes, SurfaceNow
from layup.words import counted

# Where each surface begins, and where each finish ends (common practice).
BEGINS: Mapping[SurfaceNow, int] = {"old laminate": 40, "weave or brush marks": 80, "filled": 80, "from a mould": 320}
ENDS: Mapping[FinishedTo, int] = {
    "ready to bond": 80,
    "under paint": 240,
    "under varnish": 320,
    "clear, matt": 1200,
    "clear, gloss": 2000,
}
# Minutes for a square metre by the grain's size, µm, dry and wet, and discs for it (memory; the shop's own minutes win).
_PACES = ((250.0, 12.0, 15.0, 1.5), (110.0, 8.0, 12.0, 1.0), (50.0, 6.0, 10.0, 0.7), (0.0, 6.0, 10.0, 0.5))
# From this grit on it is sanded wet (common practice).
WET_FROM = 400
_DUST_OFF_MIN, _WASH_MIN = 2.0, 5.0  # a square metre (memory)
# However small a place is, each step takes its things to hand and put away again (memory).
SET_OUT_MIN = 3.0
KNIFE_MIN_PER_M, SAW_MIN_PER_M = 1.0, 4.0  # memory
FILLED_OVER = 0.2  # what is filled takes so much more than its gaps (common practice)
_BOARD_MIN = 15.0  # a square metre with a long board and a guide coat (memory)
_FILL_MIN = 10.0  # a square metre to mix and draw on (memory)
# Until a filler may be sanded, h (memory; its sheet wins).
FILLER_SETS_H = {"epoxy": 12.0, "polyester": 1.0}
_COAT_MIN = 10.0  # a square metre and coat (memory)
_CUT_MIN, _FINE_MIN = 15.0, 10.0  # a square metre with cutting and with fine compound (memory)


def fairing_ml(wishes: FinishWishes, area_m2: float) -> float:
    """What fills the low places, ml: area by mean gap, and a fifth more. Exact, but for the fifth (common practice).

    >>> round(fairing_ml(FinishWishes(low_mm=(1.0, 2.0, 3.0)), 2.0))
    4800
    """
    if not wishes.low_mm:
        return 0.0
    return 1000 * min(wishes.faired_m2 or area_m2, area_m2) * mean(wishes.low_mm) * (1 + FILLED_OVER)


def steps_of(
    wishes: FinishWishes, area_m2: float, perimeter_m: float, *, blushes: bool = False
) -> tuple[FinishStep, ...]:
    """Every step from the surface as it is to the one that is wanted, for an area of all copies; nothing where none is wanted.

    >>> told = steps_of(FinishWishes(to="under paint"), 2.0, 6.0)
    >>> [step.grit for step in told], round(told[0].minutes)
    ([80, 120, 180, 240], 23)
    """
    if not wishes.to:
        return ()
    return (*_before(wishes, area_m2, perimeter_m, blushes), *_sanded(wishes, area_m2), *_after(wishes, area_m2))


def _before(wishes: FinishWishes, area_m2: float, perimeter_m: float, blushes: bool) -> Iterator[FinishStep]:
    if wishes.trim:
        pace = KNIFE_MIN_PER_M if wishes.trim == "knife, while green" else SAW_MIN_PER_M
        words = (
            "Trim with a knife, while it is green" if pace == KNIFE_MIN_PER_M else "Trim with a saw, when it is hard"
        )
        yield FinishStep(kind="trim", words=words, minutes=pace * perimeter_m)
    if blushes:
        words = "Wash with warm water and a pad, wipe dry, before anything is sanded"
        yield FinishStep(kind="wash", words=words, minutes=SET_OUT_MIN + _WASH_MIN * area_m2)
    if any(wishes.low_mm):
        faired = min(wishes.faired_m2 or area_m2, area_m2)
        # What is filled has to hold: it is keyed first.
        yield _grit(80, wishes, faired)
        yield FinishStep(
            kind="fill",
            words=f"Fill the low places with {wishes.fairing} fairing compound, drawn off with a batten",
            minutes=SET_OUT_MIN + _FILL_MIN * faired,
            wait_h=FILLER_SETS_H[wishes.fairing],
        )
        yield FinishStep(
            kind="grit",
            words="Guide coat, then a long board with P80, crosswise, until the guide coat is gone",
            minutes=SET_OUT_MIN + _BOARD_MIN * faired,
            grit=80,
            grain_um=GRAIN_UM[80],
            discs=_discs(80, faired),
        )


def _sanded(wishes: FinishWishes, area_m2: float) -> Iterator[FinishStep]:
    faired = any(wishes.low_mm)
    grits = ladder(BEGINS["filled" if faired else wishes.now], ENDS[wishes.to])
    # What the long board has been all over is sanded so coarse already.
    done = faired and len(grits) > 1 and (wishes.faired_m2 or area_m2) >= area_m2
    for grit in grits[1:] if done else grits:
        yield _grit(grit, wishes, area_m2)


def _after(wishes: FinishWishes, area_m2: float) -> Iterator[FinishStep]:
    if wishes.to == "clear, gloss":
        pad = "with a pad of its own, slowly first"
        yield FinishStep(kind="polish", words=f"Cutting compound, {pad}", minutes=SET_OUT_MIN + _CUT_MIN * area_m2)
        yield FinishStep(kind="polish", words=f"Fine compound, {pad}", minutes=SET_OUT_MIN + _FINE_MIN * area_m2)
    if wishes.topped:
        for number in range(1, wishes.top_coats + 1):
            last = number == wishes.top_coats
            yield FinishStep(
                kind="coat",
                words=f"{wishes.topped.capitalize()}, coat {number} of {wishes.top_coats}"
                + ("" if last else ", sanded lightly before the next where its sheet says so"),
                minutes=SET_OUT_MIN + _COAT_MIN * area_m2,
                wait_h=wishes.hours_between,
            )
    if wishes.fittings_min:
        yield FinishStep(kind="fittings", words="Fittings and edge strips", minutes=wishes.fittings_min)


def _grit(grit: int, wishes: FinishWishes, area_m2: float) -> FinishStep:
    wet = wishes.wet or grit >= WET_FROM
    dry_min, wet_min, _ = _pace(grit)
    pace = wishes.own_min_per_m2 or (wet_min if wet else dry_min)
    discs = _discs(grit, area_m2)
    how = "wet, with a drop of soap; rinse and wipe dry" if wet else "dry; dust off and wipe"
    return FinishStep(
        kind="grit",
        words=f"P{grit} {how}, {counted(discs, 'sheet' if wet else 'disc')}",
        minutes=SET_OUT_MIN + (pace + _DUST_OFF_MIN) * area_m2,
        grit=grit,
        grain_um=GRAIN_UM[grit],
        wet=wet,
        discs=discs,
    )


def _pace(grit: int) -> tuple[float, float, float]:
    """Minutes for a square metre dry and wet, and discs for it."""
    return next((dry, wet, discs) for over_um, dry, wet, discs in _PACES if GRAIN_UM[grit] > over_um)


def _discs(grit: int, area_m2: float) -> int:
    return max(1, ceil(_pace(grit)[2] * area_m2))


def hours_of(steps: Sequence[FinishStep]) -> tuple[float, float]:
    """The hours of one pair of hands, and those that are waited between: what is waited after the last is nobody's hold-up.

    >>> hours_of(steps_of(FinishWishes(to="ready to bond", topped="oil", top_coats=2), 1.0, 4.0))[1]
    12.0
    """
    return sum(step.minutes for step in steps) / 60, sum(step.wait_h for step in steps[:-1])
