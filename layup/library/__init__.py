"""The generic library: materials of the usual kinds, under generic names, used until a shop types its own sheets."""

import tomllib
from functools import cache
from importlib.resources import files
from typing import Any

from layup.shelf import Library


@cache
def generic(*, in_ounces: bool = False) -> Library:
    """The library that ships with the core, its fabrics by their grams or by the ounces they are sold by, its brushes
    in millimetres or inches.

    >>> generic().fabrics[1].name, generic(in_ounces=True).fabrics[1].name
    ('450 chopped mat', '1.5 oz chopped mat')
    """
    read: dict[str, Any] = {}
    for name in ("fabrics", "resins", "fillers", "coats", "equipment"):
        read |= tomllib.loads(files("layup.library").joinpath(f"{name}.toml").read_text(encoding="utf-8"))
    for material in (*read["fabrics"], *read["consumables"]):
        sold_as = material.pop("in_ounces", material["name"])
        if in_ounces:
            material["name"] = sold_as
    return Library.model_validate(read)
