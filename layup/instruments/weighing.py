"""A pot that is weighed on a scale that is listened to: what of it is in, and what may be written down of itself.

Cup on, part A when it stands still, part B as it follows, the moment they touch, a cup that is taken off and put back, a
scale that is set to nought in between.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from layup.bench.card import CardPot, CardPour
from layup.bench.events import EventKind
from layup.bench.now import PotNow
from layup.bench.pot_now import weighed
from layup.instruments.followed import Believed

# memory: what is set is all in where it stands still within this share of what was planned, or over it
_SHORT_OF = 0.02
# memory: a part that follows is at its mark within this share of it; inside its tolerance it is waited for so long, s
_AT_MARK, _LINGERS_S = 0.005, 4.0
# memory: an empty cup weighs within this share of what the card says, or under this share of the first part and so many
# times what the card says; it lands on the scale within so long, s
_CUP_NEAR, _CUP_MOST, _CUP_HEAVY, _LANDS_S = 0.6, 0.5, 3.0, 1.0
_MOST_KEPT = 1200
# memory: two weights are the same within so many steps of the scale, or this share
_SAME_STEPS, _SAME_SHARE = 2.0, 0.003
# memory: so much less than what was there before this part, g, is a cup that was lifted
_LIFTED_G = 3.0
# memory: a rise that lasts so many readings and so long, s, is the second part going in
_RISES, _RISES_S = 3, 0.4

Stage = Literal["no cup", "cup", "pouring", "in", "cup off"]
Part = Literal["first", "second"]


@dataclass(frozen=True)
class Step:
    """What may be written down of itself, and when it happened, s: a cup in g, a part in its tool's own unit."""

    kind: EventKind
    at_s: float
    amount: float = 0.0


@dataclass(frozen=True)
class OnScale:
    """What lies on the scale: the part in hand, how much of it is in and is wanted, and what the scale shows, all g."""

    stage: Stage
    part: Part
    in_g: float
    wanted_g: float
    shows_g: float
    still: bool


class Weighing:
    """One pot on the scale, by its bench card; `pot` is how it stands by what was written down.

    >>> pours = tuple(
    ...     CardPour.model_construct(part=part, tool="scale", unit_is=1.0, amount=grams, step=1.0)
    ...     for part, grams in (("A", 290.0), ("B", 130.0))
    ... )
    >>> card = CardPot.model_construct(pours=pours, b_first=False, cup_reads=20.0, second_per_first=0.45)
    >>> pot = Weighing(card, PotNow(number=1))
    >>> [step.kind for at, g in enumerate((21, 150, 310, 311)) for step in pot.take(Believed(at, g, g in (21, 311)))]
    ['cup on', 'A in']
    """

    def __init__(self, card: CardPot, pot: PotNow) -> None:
        self._card, self._pot = card, pot
        # What the scale shows while none of the part in hand is in, g; none while that is not known.
        self._zero_g = pot.cup_g if pot.first is None else None
        # Whether the cup is off, and what of the part in hand was in it when it last stood still.
        self._off, self._rested_g = False, 0.0
        # When the empty scale was last seen, s, and what it showed since.
        self._nought_s: float | None = None
        self._from_nought: list[tuple[float, float]] = []
        self._rise: list[float] = []
        self._held: tuple[float, float] | None = None
        self._touched = pot.touched_min is not None
        self.on_scale: OnScale | None = None

    def follow(self, card: CardPot, pot: PotNow) -> None:
        """How the pot stands now, after something was written down of it.

        >>> pours = (CardPour.model_construct(part="all", tool="scale", unit_is=1.0, amount=50.0, step=1.0),)
        >>> card = CardPot.model_construct(pours=pours, b_first=False, cup_reads=20.0)
        >>> pot = Weighing(card, PotNow(number=1, state="weighing", cup_g=20.0))
        >>> pot.follow(card, PotNow(number=1))
        >>> pot.take(Believed(1, 21, True))[0].kind
        'cup on'
        """
        before = self._in_hand()
        began_again = self._pot.state != "planned" and pot.state == "planned"
        self._card, self._pot = card, pot
        self._touched = pot.touched_min is not None or (self._touched and not began_again)
        if began_again:
            self._zero_g, self._off, self._rested_g, self._rise = None, False, 0.0, []
        elif self._in_hand() != before and self.on_scale and self._zero_g is not None:
            self._rested_g = self._already_g(self._in_hand())
            self._zero_g = self.on_scale.shows_g - self._rested_g
            self._rise = []

    def take(self, read: Believed) -> list[Step]:
        """Take a weight that is believed; answers with what may be written down.

        >>> card = CardPot.model_construct(pours=(CardPour.model_construct(tool="pumps"),))
        >>> Weighing(card, PotNow(number=1)).take(Believed(0, 20, True))
        []
        """
        return list(self._steps(read))

    @property
    def in_all_g(self) -> float:
        """What is in the cup, g, once all of the part in hand is in it: by what is written down, whatever the scale shows."""
        part = self._in_hand()
        return self._wanted_g(part) + self._already_g("second" if part == "first" else "first")

    def _steps(self, read: Believed) -> Iterator[Step]:
        part = self._in_hand()
        if self._pour(part).tool != "scale":
            self.on_scale = None
            return
        wanted_g = self._wanted_g(part)
        if self._zero_g is None:
            yield from self._begin(read, part, wanted_g)
            return
        if self._lifted(read):
            self.on_scale = OnScale("cup off", part, self._rested_g, wanted_g, read.value, read.still)
            if self._same(self._rested_g, 0.0) and self._pot.first is None:
                # Nothing is in it yet: the next cup may be another.
                self._zero_g, self._off = None, False
            return
        in_g = read.value - self._zero_g
        if part == "second" and not self._touched:
            yield from self._touch(read, in_g)
        done = self._done(read, part, in_g, wanted_g)
        self.on_scale = OnScale("in" if done else "pouring", part, in_g, wanted_g, read.value, read.still)
        if done:
            self._held = None
            yield Step(self._kind(part), read.at_s, round(in_g / self._pour(part).unit_is, 4))

    def _in_hand(self) -> Part:
        """The part that goes in now, or that went in last."""
        if self._pot.mend:
            return self._pot.mend
        return "first" if self._pot.first is None or len(self._card.pours) < 2 else "second"

    def _pour(self, part: Part) -> CardPour:
        return self._card.pours[0 if part == "first" else 1]

    def _kind(self, part: Part) -> EventKind:
        return "A in" if (part == "first") != self._card.b_first else "B in"

    def _already_g(self, part: Part) -> float:
        """What of a part was written down as in."""
        amount = self._pot.first if part == "first" else self._pot.second
        return (amount or 0.0) * self._pour(part).unit_is

    def _wanted_g(self, part: Part) -> float:
        pour = self._pour(part)
        if self._pot.mend == part:
            return self._already_g(part) + self._pot.mend_amount * pour.unit_is
        target = self._pot.target if part == "second" else None
        return (pour.amount if target is None else target) * pour.unit_is

    def _same(self, one_g: float, other_g: float) -> bool:
        pour = self._card.pours[0]
        return abs(one_g - other_g) <= max(_SAME_STEPS * pour.step * pour.unit_is, _SAME_SHARE * abs(other_g))

    def _begin(self, read: Believed, part: Part, wanted_g: float) -> Iterator[Step]:
        """Until it is known where this pour begins: an empty cup, or a scale set to nought under it."""
        self.on_scale = OnScale("no cup", part, 0.0, wanted_g, read.value, read.still)
        if self._same(read.value, 0.0) or read.value < 0:
            self._nought_s, self._from_nought = read.at_s, []
        elif len(self._from_nought) < _MOST_KEPT:
            self._from_nought.append((read.at_s, read.value))
        if not read.still:
            return
        if self._pot.first is not None:
            self._zero_g = self._beneath_g(read, part) - self._already_g(part)
        elif not self._same(read.value, 0.0) and read.value > 0:
            says_g = self._card.cup_reads * self._pour(part).unit_is
            near = abs(read.value - says_g) <= _CUP_NEAR * says_g
            landed = self._landed(read)
            if landed is not False and (near or read.value <= min(_CUP_MOST * wanted_g, _CUP_HEAVY * says_g)):
                self._zero_g = read.value
                self.on_scale = OnScale("cup", part, 0.0, wanted_g, read.value, read.still)
                if self._pot.cup_g is None or not self._same(read.value, self._pot.cup_g):
                    yield Step("cup on", read.at_s, round(read.value, 2))
            elif landed is False:
                # It rose from nought as what is poured does: the scale was set to nought under its cup.
                self._zero_g = 0.0

    def _beneath_g(self, read: Believed, part: Part) -> float:
        """What the scale shows with what is in, of a pot that was weighed by hand so far, or before the server began anew: what
        it shows now, or less where its cup is known and some of the second part is in it already."""
        if part == "first" or self._pot.cup_g is None:
            return read.value
        beneath_g = self._pot.cup_g + self._already_g("first") + self._already_g("second")
        return beneath_g if read.value >= beneath_g else read.value

    def _landed(self, read: Believed) -> bool | None:
        """Whether what lies on the scale came there at once, as a cup does, and not as what is poured; none where nobody saw."""
        if self._nought_s is None:
            return None
        reached = next((at_s for at_s, value in self._from_nought if self._same(value, read.value)), read.at_s)
        return reached - self._nought_s <= _LANDS_S

    def _lifted(self, read: Believed) -> bool:
        """Whether the cup is off the scale, or the scale was just set to nought under it."""
        zero_g = self._zero_g or 0.0
        if read.value >= zero_g - max(_LIFTED_G, _SAME_SHARE * abs(zero_g)):
            if read.still:
                self._rested_g = read.value - zero_g
            # What is less than it was a moment ago is on its way off, or back.
            self._off = self._off and not read.still
            return self._off
        self._off = True
        if read.still and read.value > 0 and not self._same(read.value, 0.0):
            # It rises from nought: the scale was set to nought with the cup on it.
            self._zero_g, self._off = -self._rested_g, False
        return self._off

    def _touch(self, read: Believed, in_g: float) -> Iterator[Step]:
        """The parts touch when the second begins to go in: at the first reading of a rise that lasts."""
        if in_g <= 0 or self._same(read.value, read.value - in_g):
            self._rise = []
            return
        self._rise.append(read.at_s)
        if len(self._rise) >= _RISES and read.at_s - self._rise[0] >= _RISES_S:
            self._touched = True
            yield Step("touched", self._rise[0])

    def _done(self, read: Believed, part: Part, in_g: float, wanted_g: float) -> bool:
        """Whether the part in hand stands still at what may be taken for all of it."""
        pour = self._pour(part)
        step_g, already_g = pour.step * pour.unit_is, self._already_g(part)
        if not read.still or self._pot.stirred or in_g <= already_g + max(step_g, _SAME_SHARE * already_g):
            self._held = None
            return False
        if self._held is None or not self._same(self._held[1], in_g):
            self._held = read.at_s, in_g
        lasted = read.at_s - self._held[0] >= _LINGERS_S
        if part == "first" and self._pot.mend != part:
            return in_g >= wanted_g - max(2 * step_g, _SHORT_OF * wanted_g)
        if in_g >= wanted_g - max(step_g, _AT_MARK * wanted_g):
            return True
        return lasted and self._inside(part, in_g / pour.unit_is)

    def _inside(self, part: Part, amount: float) -> bool:
        """Whether so much of the part in hand is inside the tolerance of the ratio."""
        first, second = (amount, self._pot.second) if part == "first" else (self._pot.first, amount)
        on_ratio = weighed(self._card, first, second)
        return on_ratio.off_pct is not None and not on_ratio.mend and not on_ratio.lost
