"""What a run's log tells of a fault: its pots, and how cold it became."""

from cradle.bench.models import Run
from cradle.bench.running import PotStory, stories_of
from layup.bench.events import RoomRead
from layup.diagnosis.from_log import Logged, PotLogged
from layup.errors import OutOfRange
from layup.materials import ResinSystem

# memory: so long after its last pot a run that stayed warm was not too cold
_A_NIGHT_MIN = 12 * 60.0


def logged(run: Run, pot: int | None = None) -> Logged:
    """A run as far as its log tells of a fault; of one pot alone, by its number. Raises OutOfRange for one of which nothing
    is written."""
    stories = [story for story in stories_of(run) if story.poured and pot in (None, story.number)]
    if pot is not None and not stories:
        raise OutOfRange("nothing is written of this pot", "pot")
    resins = [run.spec.product_of(run.spec.use_of(story.planned.use_id)) for story in stories]
    known = [(story, resin) for story, resin in zip(stories, resins, strict=True) if resin is not None]
    first = run.spec.product_of(run.spec.resins[0])
    laid_in = [resin for _, resin in known] or ([first] if first else [])
    read = [event.fact().data for event in run.standing() if event.kind == "room read"]
    rooms = [data.room_c for data in read if isinstance(data, RoomRead)]
    return Logged(
        two_part=bool(laid_in) and not any(resin.styrene for resin in laid_in),
        pots=tuple(_pot(story, resin) for story, resin in known),
        coldest_c=min([*rooms, run.issued.conditions.room_c]),
        least_c=max((resin.comfort_minimum_c for resin in laid_in), default=None),
        read_until_hard=_read_until_hard(run, stories),
    )


def _read_until_hard(run: Run, stories: list[PotStory]) -> bool:
    """Whether the room was read for a night after the last pot."""
    poured = [run.minute_of(story.poured.at) for story in stories if story.poured]
    read = [run.minute_of(event.happened_at) for event in run.standing() if event.kind == "room read"]
    return bool(poured and read) and max(read) - max(poured) >= _A_NIGHT_MIN


def _pot(story: PotStory, resin: ResinSystem) -> PotLogged:
    history, poured, life_min = story.history, story.poured, story.planned.life_min
    weighed = poured if poured and poured.a_g and poured.b_g is not None else None
    catalyst = resin.catalyst
    return PotLogged(
        number=story.number,
        off_pct=history.ratio_error_pct if resin.two_part else None,
        tolerance_pct=resin.ratio_tolerance_pct,
        catalyst_pct=100 * weighed.b_g / weighed.a_g if weighed and catalyst else None,
        least_pct=catalyst.least_pct if catalyst else 0.0,
        most_pct=catalyst.most_pct if catalyst else 0.0,
        life_used=history.used_in_min / life_min if history.used_in_min is not None and life_min else None,
    )
