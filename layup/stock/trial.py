"""A trial pot out of a doubtful tin: whether it gelled when it should."""

from typing import Literal

from layup.chemistry.blend import hardener_in_hand
from layup.chemistry.gel import catalysed_gel_min, pot_life_min
from layup.chemistry.logged import with_logged
from layup.errors import Missing, OutOfRange
from layup.job import ResinInUse
from layup.materials import ResinSystem
from layup.record import Record
from layup.shop_facts import LoggedGel

TrialVerdict = Literal["right", "late", "early"]
# memory: gel times of one tin on two days differ by as much, so that a trial within it says nothing against the tin
_LATE_FROM, _EARLY_FROM = 1.35, 0.7
LEAST_TRIAL_G, MOST_TRIAL_G = 20.0, 300.0


class Trial(Record):
    """What a trial pot should take to its gel and what it took, minutes, and what that says of its tin."""

    expected_min: float
    seen_min: float
    verdict: TrialVerdict


def trial(
    resin: ResinSystem,
    *,
    hardener_id: str = "",
    catalyst_pct: float | None = None,
    room_c: float,
    mass_g: float,
    seen_min: float,
    gels: tuple[LoggedGel, ...] = (),
) -> Trial:
    """Hold a trial pot against the label and the shop's own gels.

    Later than 1.35 times, or earlier than 0.7 times what is expected tells against the tin (memory). Raises OutOfRange for
    a pot that is too small or too large to tell, Missing for a resin that gels in no cup.

    >>> from layup.library import generic
    >>> polyester = next(resin for resin in generic().resins if resin.catalyst)
    >>> trial(polyester, catalyst_pct=2, room_c=20, mass_g=50, seen_min=40).verdict
    'late'
    """
    if not LEAST_TRIAL_G <= mass_g <= MOST_TRIAL_G:
        raise OutOfRange(f"a trial pot weighs {LEAST_TRIAL_G:g} to {MOST_TRIAL_G:g} g: mix one of 50 g", "mass_g")
    if resin.one_part:
        raise Missing("it sets by the moisture of the air: brush it out thin on glass, and see when it is dry", "lot")
    learnt = with_logged(resin, gels)
    if learnt.catalyst:
        if catalyst_pct is None:
            raise Missing("say how much catalyst went in", "catalyst_pct")
        expected = catalysed_gel_min(learnt.catalyst, room_c, catalyst_pct)
    else:
        if all(hardener.id != hardener_id for hardener in learnt.hardeners):
            raise Missing("say which hardener went in", "hardener_id")
        in_use = ResinInUse(id="resin", resin_id=resin.id)
        expected = pot_life_min(hardener_in_hand(learnt, in_use, hardener_id), room_c, mass_g)
    share = seen_min / expected
    verdict: TrialVerdict = "late" if share > _LATE_FROM else "early" if share < _EARLY_FROM else "right"
    return Trial(expected_min=expected, seen_min=seen_min, verdict=verdict)
