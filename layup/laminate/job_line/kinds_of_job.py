"""The kinds of job that a line to begin from is kept of."""

import tomllib
from functools import cache
from importlib.resources import files

from layup.scales import FabricUnit


@cache
def job_lines(fabric_unit: FabricUnit = "g/m²") -> dict[str, str]:
    """A line for each kind of job, by the name of the kind, in the units that a shop buys in. Sizes and plies are examples.

    >>> job_lines()["a deck"], job_lines("oz")["a tank"]
    ('Deck: 1.2 x 2.4 m, plywood, 450 biax, 300 cloth, epoxy', 'Tank: 26 ft², plywood, 2x 9 cloth, epoxy')
    """
    text = files("layup.library").joinpath("job_lines.toml").read_text(encoding="utf-8")
    key = "in_ounces" if fabric_unit == "oz" else "line"
    return {entry["name"]: entry[key] for entry in tomllib.loads(text)["lines"]}
