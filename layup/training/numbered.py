"""What is practised is made from a kind and a number: the same id makes the same thing, in every shop and year."""

from collections.abc import Collection

from layup.errors import Missing

MOST_SEED = 999_999


def numbered(thing_id: str, kinds: Collection[str]) -> tuple[str, int]:
    """The kind and the number of an id, such as `tare-17`. Raises Missing, at `thing`, where there is no such kind, or the
    number is none, or is not written as it is counted.

    >>> numbered("rescue-pour-3", ("rescue-pour",))
    ('rescue-pour', 3)
    """
    kind, _, seed = thing_id.rpartition("-")
    # One thing has one id: whoever has seen its answer does not get it again as 007.
    if kind not in kinds or not (seed.isascii() and seed.isdigit() and str(int(seed)) == seed):
        raise Missing("there is nothing of this name to practise", "thing")
    if not 1 <= int(seed) <= MOST_SEED:
        raise Missing("there is nothing of this name to practise", "thing")
    return kind, int(seed)


def after(kind: str, last: int, place: int = 0) -> str:
    """The id that comes so many places after the last that was tried; after the highest number the lowest comes again.

    >>> after("tare", 4), after("tare", 4, 2), after("tare", MOST_SEED)
    ('tare-5', 'tare-7', 'tare-1')
    """
    return f"{kind}-{(last + place) % MOST_SEED + 1}"
