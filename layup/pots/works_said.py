"""What a pot or a layer lays, in words: plies of one stuff that follow each other are said at once."""

from collections.abc import Sequence
from itertools import groupby

from layup.pots.work import Work


def works_said(works: Sequence[Work]) -> tuple[str, ...]:
    """The works in their order, as they are read on a ticket.

    >>> plies = [Work(f"ply {n}, 200 cloth", "p", f"y{n}", 90, 2, ply=n, stuff="200 cloth") for n in (1, 2, 3)]
    >>> works_said([Work("wet out the surface", "p", "", 90, 2), *plies])
    ('wet out the surface', 'plies 1 to 3, 200 cloth')
    >>> works_said(plies[:2]), works_said(plies[:1])
    (('plies 1 and 2, 200 cloth',), ('ply 1, 200 cloth',))
    """
    said = []
    for _, run in groupby(enumerate(works), key=lambda at: (at[0] - at[1].ply, at[1].stuff)):
        first, *rest = (work for _, work in run)
        if not rest or not first.ply:
            said += [work.label for work in (first, *rest)]
            continue
        said.append(f"plies {first.ply} {'and' if len(rest) == 1 else 'to'} {rest[-1].ply}, {first.stuff}")
    return tuple(said)


def works_in_short(works: Sequence[Work]) -> str:
    """The same in as few letters as name it: the numbers of plies, a word or two of the rest.

    >>> plies = [Work(f"ply {n}, 200 cloth", "p", f"y{n}", 90, 2, ply=n, stuff="200 cloth") for n in (1, 2, 3)]
    >>> works_in_short([Work("wet out the surface", "p", "", 90, 2, short="wet out"), *plies]), works_in_short(plies[1:2])
    ('wet out, 1 to 3', '2')
    """
    said = []
    for _, run in groupby(enumerate(works), key=lambda at: at[0] - at[1].ply if at[1].ply else at[1].short):
        first, *rest = (work for _, work in run)
        said.append(first.short if not first.ply else f"{first.ply} to {rest[-1].ply}" if rest else f"{first.ply}")
    return ", ".join(filter(None, said))
