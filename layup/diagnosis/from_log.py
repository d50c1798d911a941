"""What a run's log says of the causes: what it rules out, and what it points to."""

from collections.abc import Iterator

from layup.diagnosis.guide import Family
from layup.errors import OutOfRange
from layup.record import Record
from layup.scales import METRIC, Scales

# Of its life: a pot used up before this was thin to its last gram; after the second it was setting (memory).
STILL_THIN, SETTING = 0.8, 1.0
# So many pots are told of one thing.
MOST_POTS = 3


class PotLogged(Record):
    """What is written of a pot, two-part or catalysed; of one that is not `written` nothing is known. `off_pct` is how far its ratio is off, hardener heavy over nought; the catalyst in % of its
    resin with the product's limits; `life_used` the share of its life at its last gram. `past_lots` are the tins it was of that were past their date;
    `lots_good` where each tin had a date that was not past. None is what nobody wrote down.
    """

    number: int
    two_part: bool = True
    written: bool = True
    off_pct: float | None = None
    tolerance_pct: float = 5.0
    catalyst_pct: float | None = None
    least_pct: float = 0.0
    most_pct: float = 0.0
    life_used: float | None = None
    past_lots: tuple[str, ...] = ()
    lots_good: bool = False


class Logged(Record):
    """A run as far as it tells of a fault; its `family` where all of it is of one. The coldest the room was read, °C, and the least it cures well at."""

    family: Family | None = None
    pots: tuple[PotLogged, ...] = ()
    coldest_c: float | None = None
    least_c: float | None = None
    read_until_hard: bool = False


class LogSays(Record):
    """One thing the log says of a cause: that it was not that, or that it was."""

    cause: str
    rules_out: bool
    words: str


def said_by(logged: Logged, scales: Scales = METRIC) -> tuple[LogSays, ...]:
    """What the log says of each cause it knows of. Nothing is ruled out by what nobody wrote down.

    >>> wrong = Logged(family="two_part", pots=(PotLogged(number=1, off_pct=38.0),))
    >>> [(each.cause, each.rules_out) for each in said_by(wrong)]
    [('hardener_heavy', False), ('resin_heavy', True)]
    """
    return (*_ratios(logged, scales), *_doses(logged, scales), *_ages(logged), *_dates(logged), *_cold(logged, scales))


def of_pot(logged: Logged, number: int) -> Logged:
    """The same of one pot alone. Raises OutOfRange for one of which nothing is written.

    >>> two = Logged(pots=(PotLogged(number=1), PotLogged(number=2, two_part=False)))
    >>> of_pot(two, 2).family
    'styrene'
    """
    pots = tuple(pot for pot in logged.pots if pot.number == number and pot.written)
    if not pots:
        raise OutOfRange("nothing is written of this pot", "pot")
    return logged.model_copy(update={"pots": pots, "family": "two_part" if pots[0].two_part else "styrene"})


def _ratios(logged: Logged, scales: Scales) -> Iterator[LogSays]:
    pots = [pot for pot in logged.pots if pot.two_part]
    known = [(pot, pot.off_pct) for pot in pots if pot.off_pct is not None]
    for cause, name, sign in (("hardener_heavy", "hardener heavy", 1), ("resin_heavy", "resin heavy", -1)):
        towards = [(pot, sign * off) for pot, off in known]
        so = [(pot, off) for pot, off in towards if off > pot.tolerance_pct]
        for pot, off in so[:MOST_POTS]:
            yield LogSays(cause=cause, rules_out=False, words=f"Pot {pot.number} was {off:.0f} % {name}")
        if not so and known and len(known) == len(pots):
            most = max(0.0, *(off for _, off in towards))
            words = (
                f"No pot was more than {scales.written(most, '.1f')} % {name}" if most >= 0.05 else f"No pot was {name}"
            )
            yield LogSays(cause=cause, rules_out=True, words=words)


def _doses(logged: Logged, scales: Scales) -> Iterator[LogSays]:
    pots = [pot for pot in logged.pots if not pot.two_part]
    known = [(pot, pot.catalyst_pct) for pot in pots if pot.catalyst_pct is not None]
    written = scales.written
    for pot, pct in [(pot, pct) for pot, pct in known if not pot.least_pct <= pct <= pot.most_pct][:MOST_POTS]:
        cause, limit, name = (
            ("little_catalyst", pot.least_pct, "least")
            if pct < pot.least_pct
            else ("much_catalyst", pot.most_pct, "most")
        )
        words = f"Pot {pot.number} had {written(pct, '.2f')} % of catalyst, and {written(limit)} % is the {name}"
        yield LogSays(cause=cause, rules_out=False, words=words)
    if known and len(known) == len(pots) and all(pct >= pot.least_pct for pot, pct in known):
        words = f"No pot had less than {written(min(pct for _, pct in known), '.2f')} % of catalyst"
        yield LogSays(cause="little_catalyst", rules_out=True, words=words)


def _ages(logged: Logged) -> Iterator[LogSays]:
    known = [(pot, pot.life_used) for pot in logged.pots if pot.life_used is not None]
    old = [(pot, used) for pot, used in known if used >= SETTING]
    for pot, used in old[:MOST_POTS]:
        words = f"Pot {pot.number} was used to {used:.0%} of its life"
        for cause in ("past_gel", "stall_gel"):
            yield LogSays(cause=cause, rules_out=False, words=words)
    if known and len(known) == len(logged.pots) and all(used < STILL_THIN for _, used in known):
        words = f"The oldest pot was used up at {max(used for _, used in known):.0%} of its life"
        yield LogSays(cause="past_gel", rules_out=True, words=words)


def _dates(logged: Logged) -> Iterator[LogSays]:
    for pot in [pot for pot in logged.pots if pot.past_lots][:MOST_POTS]:
        words = f"Pot {pot.number} was of {' and '.join(pot.past_lots)}, past its date"
        yield LogSays(cause="old_catalyst", rules_out=False, words=words)
    if logged.pots and all(pot.lots_good for pot in logged.pots):
        yield LogSays(cause="old_catalyst", rules_out=True, words="Every tin was within its date")


def _cold(logged: Logged, scales: Scales) -> Iterator[LogSays]:
    if logged.coldest_c is None or logged.least_c is None:
        return
    read, least = scales.temperature(logged.coldest_c), scales.temperature(logged.least_c)
    if logged.coldest_c < logged.least_c:
        yield LogSays(
            cause="cold",
            rules_out=False,
            words=f"The room was at {read}, and under {least} it cures late or not through",
        )
    elif logged.read_until_hard:
        yield LogSays(
            cause="cold", rules_out=True, words=f"The room was never read under {read}, and {least} is enough"
        )
