"""What is known of the tins that a job is mixed from: their dates, and how they stand."""

from collections.abc import Iterator

from layup.cautions.rule import Facts, Finding, ResinFacts, Rule
from layup.chemistry.blend import shares_in_hand
from layup.shop_facts import TinFact
from layup.stock.articles import Article, of_catalyst, of_hardener, of_resin

# memory: a tin so much colder than the room is thicker than its mixer expects
_COLDER_BY_K = 5.0


def _tins(facts: Facts) -> Iterator[tuple[ResinFacts, TinFact]]:
    """The tins that are taken next of what each resin is mixed from, as far as the shop keeps a stock of it."""
    seen: set[str] = set()
    for each in facts.mixed():
        for article in _articles(each):
            tin = facts.tins.get(article.key)
            if tin and article.key not in seen:
                seen.add(article.key)
                yield each, tin


def _articles(each: ResinFacts) -> Iterator[Article]:
    yield of_resin(each.resin)
    if each.resin.catalyst:
        yield of_catalyst(each.resin.catalyst)
    elif each.hardener and each.hardener.chosen:
        chosen = each.hardener.chosen.hardener.id
        yield from (of_hardener(hardener) for hardener, _ in shares_in_hand(each.resin, each.use, chosen))


def _path(each: ResinFacts) -> str:
    return f"{each.path}.resin_id"


def _past_its_date(facts: Facts) -> Iterator[Finding]:
    for each, tin in _tins(facts):
        if tin.keeping == "past" and tin.until and not tin.trial_holds:
            yield Finding(_path(each), f"{tin.called} is past its date, {facts.scales.customs.day(tin.until)}")


def _no_date(facts: Facts) -> Iterator[Finding]:
    for each, tin in _tins(facts):
        if tin.keeping == "no date" and not tin.trial_holds:
            yield Finding(_path(each), f"{tin.called} has no date: nobody knows how old it is")


def _crystallised(facts: Facts) -> Iterator[Finding]:
    for each, tin in _tins(facts):
        if "crystallised" in tin.conditions:
            yield Finding(_path(each), f"{tin.called} has crystallised")


def _spoiled(facts: Facts) -> Iterator[Finding]:
    for each, tin in _tins(facts):
        for condition in tin.conditions:
            if condition != "crystallised":
                yield Finding(_path(each), f"{tin.called} has {_HAS[condition]}")


_HAS = {"clouded": "clouded", "skinned": "a skin on it", "thickened": "thickened"}


def _cold(facts: Facts) -> Iterator[Finding]:
    for each, tin in _tins(facts):
        if tin.stored_c is not None and facts.room_c - tin.stored_c >= _COLDER_BY_K:
            stands, room = facts.scales.temperature(tin.stored_c), facts.scales.temperature(facts.room_c)
            yield Finding(_path(each), f"{tin.called} stands at {stands}, in a room of {room}")


RULES = (
    Rule(
        id="tins.past_its_date",
        severity="care",
        step="chemistry",
        reason="An old tin gels late, or never, or in the tin. Polyester keeps about 12 months, epoxy about two years.",
        do="Gel a trial pot of {50 g} from it first and write it down under Stock. Take a fresh tin for work that carries load.",
        source="common practice",
        find=_past_its_date,
    ),
    Rule(
        id="tins.no_date",
        severity="care",
        step="chemistry",
        reason="A tin without a date may be of last month or of the last owner.",
        do="Write the day it was made or came on its lot under Stock, or gel a trial pot of {50 g} from it first.",
        source="common practice",
        find=_no_date,
    ),
    Rule(
        id="tins.crystallised",
        severity="care",
        step="chemistry",
        reason="Crystals are resin that is missing from what you pour: the ratio is wrong by as much.",
        do="Stand the closed tin in warm water, {50 °C} at most, until it is clear to the bottom. Stir, let it cool to the "
        "room, and only then weigh it. Never warm a peroxide.",
        source="memory",
        find=_crystallised,
    ),
    Rule(
        id="tins.spoiled",
        severity="care",
        step="chemistry",
        reason="A skin, a cloud or a thick pour says that air, damp or age has been at it.",
        do="Lift a skin off, never stir it in. Gel a trial pot of {50 g}; where it is late, cloudy or stays soft, use another tin.",
        source="memory",
        find=_spoiled,
    ),
    Rule(
        id="tins.cold",
        severity="note",
        step="chemistry",
        reason="Cold resin is thick: it whips in air, comes out of pumps and cups short, and gels late.",
        do="Bring the tins into the room the evening before.",
        source="common practice",
        find=_cold,
    ),
)
