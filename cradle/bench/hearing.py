"""What the surfaces of a run's pots say, as they were read by hand and by instruments."""

from django.utils import timezone

from cradle.bench.models import Run
from cradle.beside.heat import with_heat_at_hand
from layup.bench.events import Event
from layup.bench.heard import PotHeard, heard_of
from layup.bench.now import BenchState, PotNow


def heard_of_pots(run: Run, state: BenchState, pots: list[PotNow] | None = None) -> list[PotHeard]:
    """What is heard of pots of a run, its live ones unless others are named, by what was tapped and what was kept."""
    read = [event.fact() for event in run.standing() if event.kind == "surface"]
    read += [
        Event(
            id=f"warmth {warmth.pk}",
            about="pot",
            subject=str(warmth.pot),
            kind="surface",
            at_min=run.minute_of(warmth.at),
            data={"temperature_c": warmth.temperature_c},
        )
        for warmth in run.warmths.all()
    ]
    if not read:
        return []
    now_min = run.minute_of(timezone.now())
    return with_heat_at_hand(lambda heat_of: list(heard_of(run.spec, state, read, now_min, heat_of, pots)))
