"""A lot, one tin, roll or box of a shop: its dates, how it stands, and which is taken first."""

from collections.abc import Iterable, Mapping
from datetime import date, timedelta
from typing import Literal, get_args

from dateutil.relativedelta import relativedelta

from layup.errors import OutOfRange
from layup.materials import SourceKind
from layup.record import Record
from layup.stock.articles import Article, KeepsFor

Condition = Literal["crystallised", "clouded", "skinned", "thickened"]
CONDITIONS: tuple[Condition, ...] = get_args(Condition)
Keeping = Literal["keeps", "good", "soon", "past", "no date"]
# memory: what has no longer than this is to be used first
SOON_DAYS = 30
# memory: a trial that was right says so of an old tin for so long
TRIAL_HOLDS_DAYS = 30
_DAYS_PER_MONTH = 30.44
# Amounts are written down to the milligram, the millimetre.
DIGITS = 3


class Lot(Record):
    """One tin, roll or box. `left` is in the article's unit: g, m or pieces.

    `expires` is the date on its label, `bad` why it must not be used, `trial_on` when a trial pot of it last gelled as it
    should, `stored_c` how cold it stands where that is not the room.
    """

    id: str
    article: Article
    name: str
    batch: str = ""
    left: float = 0.0
    received: date
    made: date | None = None
    opened: date | None = None
    expires: date | None = None
    conditions: tuple[Condition, ...] = ()
    stored_c: float | None = None
    trial_on: date | None = None
    bad: str = ""

    @property
    def called(self) -> str:
        """The lot in words.

        >>> Lot(id="1", article=Article(kind="resin", product_id="r"), name="Resin", batch="K7", received=date(2026, 1, 1)).called
        'Resin, lot K7'
        """
        return f"{self.name}, lot {self.batch}" if self.batch else self.name


class Kept(Record):
    """How a lot stands by its dates: until when it keeps, and who says so. `trial_holds` where it is past that and a trial pot
    of it was right since."""

    keeping: Keeping
    until: date | None = None
    source: SourceKind | None = None
    trial_holds: bool = False

    @property
    def asks_for_a_trial(self) -> bool:
        return self.keeping in ("past", "no date") and not self.trial_holds


def kept(lot: Lot, keeps: KeepsFor | None, today: date) -> Kept:
    """Until when a lot keeps: the date on its label, else its making with what such a thing keeps for.

    An opened tin that the air spoils keeps no longer than that. The trial of an old tin holds for 30 days (memory).

    >>> article = Article(kind="resin", product_id="r")
    >>> tin = Lot(id="1", article=article, name="Resin", received=date(2026, 1, 1), made=date(2025, 1, 31))
    >>> kept(tin, KeepsFor(months=13, source=SourceKind.MEMORY), date(2026, 2, 20)).until
    datetime.date(2026, 2, 28)
    """
    if keeps is None and lot.expires is None:
        return Kept(keeping="keeps")
    until, source = lot.expires, SourceKind.DATA_SHEET
    if until is None and lot.made and keeps:
        until, source = _after(lot.made, keeps.months), keeps.source
    if keeps and keeps.opened_days and lot.opened:
        opened = lot.opened + timedelta(days=keeps.opened_days)
        if until is None or opened < until:
            until, source = opened, SourceKind.MEMORY
    trial_holds = lot.trial_on is not None and today <= lot.trial_on + timedelta(days=TRIAL_HOLDS_DAYS)
    if until is None:
        return Kept(keeping="no date", trial_holds=trial_holds)
    if until < today:
        return Kept(keeping="past", until=until, source=source, trial_holds=trial_holds)
    return Kept(keeping="soon" if until <= today + timedelta(days=SOON_DAYS) else "good", until=until, source=source)


def _after(made: date, months: float) -> date:
    whole = int(months)
    return made + relativedelta(months=whole) + timedelta(days=round((months - whole) * _DAYS_PER_MONTH))


def check_dates(made: date | None, opened: date | None, expires: date | None, received: date, today: date) -> None:
    """Whether the dates of a lot can be. Raises OutOfRange at the one that cannot."""
    if made and made > today:
        raise OutOfRange("it was made on a day that has not come yet: read the label again", "made")
    if made and made > received:
        raise OutOfRange("it came before it was made: read both dates again", "made")
    if received > today:
        raise OutOfRange("it cannot have come on a day that has not come yet", "received")
    if opened and made and opened < made:
        raise OutOfRange("it was opened before it was made: read both dates again", "opened")
    if opened and opened > today:
        raise OutOfRange("it cannot have been opened on a day that has not come yet", "opened")
    if expires and made and expires <= made:
        raise OutOfRange("it expires before it was made: read both dates again", "expires")


def in_order(lots: Iterable[Lot], keeps: KeepsFor | None, today: date, first_id: str = "") -> list[Lot]:
    """The lots of one article in the order they are taken: the tin that was chosen, then the first to expire first.

    One that was opened goes before its like; one with no date goes after, and one past its date last. A bad one is never
    taken. Source: common practice; what is past its date last: memory.
    """

    def place(lot: Lot) -> tuple[bool, bool, date, bool, date, str]:
        standing = kept(lot, keeps, today)
        late = standing.keeping == "past" and not standing.trial_holds
        return (lot.id != first_id, late, standing.until or date.max, lot.opened is None, lot.received, lot.id)

    return sorted((lot for lot in lots if not lot.bad and lot.left > 0), key=place)


class Draw(Record):
    """So much out of a lot."""

    lot_id: str
    amount: float


class Drawn(Record):
    """What a need took, lot by lot, and what no lot had."""

    draws: tuple[Draw, ...]
    short: float


def draw(lots: Iterable[Lot], amount: float) -> Drawn:
    """An amount out of lots, one after the other as they stand. Stock never goes under nought: what is short is told.

    >>> article = Article(kind="resin", product_id="r")
    >>> tins = [Lot(id=i, article=article, name="R", left=100, received=date(2026, 1, 1)) for i in "ab"]
    >>> found = draw(tins, 130)
    >>> [(one.lot_id, one.amount) for one in found.draws], found.short
    ([('a', 100.0), ('b', 30.0)], 0.0)
    """
    still, draws = round(amount, DIGITS), []
    for lot in lots:
        if still <= 0:
            break
        taken = round(min(lot.left, still), DIGITS)
        if taken > 0:
            draws.append(Draw(lot_id=lot.id, amount=taken))
            still = round(still - taken, DIGITS)
    return Drawn(draws=tuple(draws), short=max(0.0, still))


def put_back(drawn: Mapping[str, float], amount: float) -> tuple[Draw, ...]:
    """What goes back of an amount that was not used after all, into the lots it was drawn from: the last first."""
    still, back = round(amount, DIGITS), []
    for lot_id, had in reversed(list(drawn.items())):
        given = round(min(had, still), DIGITS)
        if given > 0:
            back.append(Draw(lot_id=lot_id, amount=given))
            still = round(still - given, DIGITS)
    return tuple(back)
