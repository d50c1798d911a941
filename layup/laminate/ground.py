"""What is laid on: how much resin it drinks before anything lies on it."""

from dataclasses import dataclass

from layup.job import Reach, Substrate


@dataclass(frozen=True)
class Steep:
    """What a surface that is not laid downhand asks for (memory): how many times as long it takes to spread, the share of a
    pot that may be mixed at once, and the share of what is laid that runs off besides."""

    times: float = 1.0
    pots_at: float = 1.0
    runs_off: float = 0.0


STEEP: dict[str, Steep] = {"down": Steep(), "upright": Steep(1.5, 0.75, 0.05), "overhead": Steep(2.0, 0.5, 0.15)}

# How many times as long work takes that is reached so (memory): leaning a metre over a gunwale, or from a ladder.
REACHED: dict[Reach, float] = {"at hand": 1.0, "leaning over": 1.25, "from a ladder": 1.5}

# Resin a surface drinks before the first ply, g/m² (memory; 150 to 250 for bare plywood, 60 to 100 for laminate).
WET_OUT_GSM: dict[Substrate, float] = {
    "bare plywood": 200.0,
    "timber": 200.0,
    "sanded laminate": 80.0,
    "cured polyester": 80.0,
    "cured epoxy": 80.0,
    "foam core": 400.0,
    "polystyrene foam": 400.0,
    "aluminium": 60.0,
    "concrete": 500.0,
    "waxed mould": 0.0,
}
