"""What is laid on: how much resin it drinks before anything lies on it."""

from layup.job import Substrate

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
