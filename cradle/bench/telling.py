"""What a run's log tells of a fault: its pots, and how cold it became."""

from collections.abc import Mapping

from cradle.bench.models import Run
from cradle.bench.running import PotStory, planned_pot, stories_of
from cradle.stock.drawing import held_of, keeps_of
from cradle.stock.models import Lot
from layup.bench.events import RoomRead
from layup.diagnosis.from_log import Logged, PotLogged
from layup.diagnosis.guide import Family
from layup.materials import ResinSystem
from layup.stock.articles import mixed_from
from layup.stock.lots import kept

# memory: so long after its last pot a run that stayed warm was not too cold
_A_NIGHT_MIN = 12 * 60.0


def logged(run: Run) -> Logged:
    """A run as far as its log tells of a fault. A pot that was passed over in it is told as one of which nothing is written; of
    a run that is closed every pot of its plan is looked for.
    """
    stories = [story for story in stories_of(run) if story.poured]
    resins = [run.spec.product_of(run.spec.use_of(story.planned.use_id)) for story in stories]
    known = [(story, resin) for story, resin in zip(stories, resins, strict=True) if resin is not None]
    first = run.spec.product_of(run.spec.resins[0])
    laid_in = [resin for _, resin in known] or ([first] if first else [])
    families = {_family(resin) for resin in laid_in}
    standing = run.standing()
    read = [event.fact().data for event in standing if event.kind == "room read"]
    rooms = [data.room_c for data in read if isinstance(data, RoomRead)]
    closed = any(event.kind == "closed" for event in standing)
    last = run.plan["pot_count"] if closed else max((story.number for story in stories), default=0)
    drawn = held_of(run)
    pots = {story.number: _pot(story, resin, drawn.get(story.number, {}), run) for story, resin in known}
    return Logged(
        family=families.pop() if len(families) == 1 else None,
        pots=tuple(pots.get(number) or _unwritten(run, number) for number in range(1, last + 1)),
        coldest_c=min([*rooms, run.issued.conditions.room_c]),
        least_c=max((resin.comfort_minimum_c for resin in laid_in), default=None),
        read_until_hard=_read_until_hard(run, stories),
    )


def _family(resin: ResinSystem) -> Family:
    return "styrene" if resin.styrene else "two_part"


def _unwritten(run: Run, number: int) -> PotLogged:
    resin = run.spec.product_of(run.spec.use_of(planned_pot(run, number).use_id))
    return PotLogged(number=number, two_part=resin is None or not resin.styrene, written=False)


def _read_until_hard(run: Run, stories: list[PotStory]) -> bool:
    """Whether the room was read for a night after the last pot."""
    poured = [run.minute_of(story.poured.at) for story in stories if story.poured]
    read = [run.minute_of(event.happened_at) for event in run.standing() if event.kind == "room read"]
    return bool(poured and read) and max(read) - max(poured) >= _A_NIGHT_MIN


def _pot(story: PotStory, resin: ResinSystem, lots: Mapping[Lot, float], run: Run) -> PotLogged:
    history, poured, life_min = story.history, story.poured, story.planned.life_min
    weighed = poured if poured and poured.a_g and poured.b_g is not None else None
    catalyst, past, good = resin.catalyst, *_by_date(story, resin, lots, run)
    return PotLogged(
        number=story.number,
        two_part=not resin.styrene,
        off_pct=history.ratio_error_pct if resin.two_part else None,
        tolerance_pct=resin.ratio_tolerance_pct,
        catalyst_pct=100 * weighed.b_g / weighed.a_g if weighed and catalyst else None,
        least_pct=catalyst.least_pct if catalyst else 0.0,
        most_pct=catalyst.most_pct if catalyst else 0.0,
        life_used=history.used_in_min / life_min if history.used_in_min is not None and life_min else None,
        past_lots=past,
        lots_good=good,
    )


def _by_date(story: PotStory, resin: ResinSystem, lots: Mapping[Lot, float], run: Run) -> tuple[tuple[str, ...], bool]:
    """The tins of a pot that were past their date when it was poured; and whether each of its parts came of one that was not."""
    day, keeps = run.own_time(story.poured_at).date(), keeps_of(run.spec)
    mixed = {article.key for article in mixed_from(resin)}
    stood = {lot: kept(lot.fact(), keeps.get(lot.article.key), day).keeping for lot in lots if lot.article.key in mixed}
    past = tuple(str(lot) for lot, keeping in stood.items() if keeping == "past")
    parts = {lot.article_kind for lot in stood}
    whole = len(parts) == (1 if resin.one_part else 2)
    return past, whole and all(keeping in ("good", "soon") for keeping in stood.values())
