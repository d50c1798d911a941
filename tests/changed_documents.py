"""Documents of the demo jobs changed anywhere, as a slip, a broken file or ill will would change them."""

import copy
import random
from collections.abc import Iterator

from cradle.demo_jobs import DEMO_JOBS

_NUMBERS = (0, -1, 1e-300, 1e300, 1e9, -1e300, 5e-324, 0.5, 1, 7, 1e-6, 1e6, True, None, "", "many")
_WORDS = ("", "±45", "x" * 400, "0", "nan", "-", "\x00", "waxed mould", "epoxy-2-1-slow", None, 3, [])


def documents(count: int, seed: int) -> Iterator[dict]:
    """So many changed documents, the same for the same seed."""
    chance = random.Random(seed)
    sound = [job().model_dump(mode="json") for job in DEMO_JOBS]
    for _ in range(count):
        document = copy.deepcopy(chance.choice(sound))
        for _ in range(chance.choice((1, 1, 1, 2, 4))):
            _change(document, chance)
        yield document


def every_leaf_changed() -> Iterator[dict]:
    """The demo jobs with each of their numbers, words and yeses changed in turn, to each value there is for its kind."""
    for job in DEMO_JOBS:
        document = job().model_dump(mode="json")
        for holder, key in list(_places(document)):
            was = holder[key]
            if isinstance(was, dict | list):
                continue
            for value in _instead_of(was):
                holder[key] = value
                yield copy.deepcopy(document)
            holder[key] = was


def _instead_of(value: object) -> tuple:
    match value:
        case bool() | None:
            return (True, False, None, 3, "yes")
        case int() | float():
            return (*_NUMBERS, value * 1000, value / 1000, -value, value + 0.1)
        case _:
            return _WORDS


def _change(document: dict, chance: random.Random) -> None:
    holder, key = chance.choice(list(_places(document)))
    value = holder[key]
    match value:
        case bool() | None:
            holder[key] = chance.choice((True, False, None, 3, "yes"))
        case int() | float():
            holder[key] = chance.choice((*_NUMBERS, value * 1000, value / 1000, -value, value + 0.1))
        case str():
            holder[key] = chance.choice(_WORDS)
        case list():
            holder[key] = chance.choice(([], value * 2, value[::-1], value[:1] * 40, [{}], None))
        case dict():
            holder[key] = chance.choice(({}, None, [], value | {"unknown": 1}))


def _places(node: dict | list) -> Iterator[tuple[dict | list, str | int]]:
    keys = list(node) if isinstance(node, dict) else range(len(node))
    for key in keys:
        yield node, key
        if isinstance(node[key], dict | list) and node[key]:
            yield from _places(node[key])
