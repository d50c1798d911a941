"""The words of a job line, each with what it means in the job's document."""

from layup.castings import LiesIn
from layup.job import Process, Substrate
from layup.materials import MadeFor, ResinFamily

SURFACES: dict[str, Substrate] = {
    "plywood": "bare plywood",
    "bare plywood": "bare plywood",
    "ply": "bare plywood",
    "timber": "timber",
    "wood": "timber",
    "sanded laminate": "sanded laminate",
    "laminate": "sanded laminate",
    "old polyester": "cured polyester",
    "cured polyester": "cured polyester",
    "old epoxy": "cured epoxy",
    "cured epoxy": "cured epoxy",
    "foam core": "foam core",
    "foam": "foam core",
    "polystyrene": "polystyrene foam",
    "polystyrene foam": "polystyrene foam",
    "aluminium": "aluminium",
    "aluminum": "aluminium",
    "concrete": "concrete",
    "mould": "waxed mould",
    "mold": "waxed mould",
    "waxed mould": "waxed mould",
}
PROCESSES: dict[str, Process] = {
    "open mould": "open mould",
    "vacuum bag": "vacuum bag",
    "bagged": "vacuum bag",
    "vacuum": "vacuum bag",
    "under vacuum": "vacuum bag",
    "infusion": "infusion",
    "infused": "infusion",
}
# Of these the shop's own come first, then the generic ones, in the order they stand.
RESINS: dict[str, tuple[ResinFamily, MadeFor]] = {
    "epoxy": ("epoxy", "laminating"),
    "laminating epoxy": ("epoxy", "laminating"),
    "infusion epoxy": ("epoxy", "infusion"),
    "coating epoxy": ("epoxy", "coating"),
    "casting epoxy": ("epoxy", "casting"),
    "fairing compound": ("epoxy", "fairing"),
    "polyester": ("polyester", "laminating"),
    "vinyl ester": ("vinyl ester", "laminating"),
    "vinylester": ("vinyl ester", "laminating"),
}
LIES_IN: dict[str, LiesIn] = {
    "in softwood": "softwood",
    "in hardwood": "hardwood",
    "in oak": "hardwood",
    "in walnut": "hardwood",
    "in ash": "hardwood",
    "in pine": "softwood",
    "in board": "board",
    "in a mould": "laminate mould",
    "in foam": "foam",
    "in stone": "stone",
}
