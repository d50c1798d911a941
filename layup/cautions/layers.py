"""What lies beneath and what comes on top, layer by layer and product by product: the ground, the coats, the plies, and
what is to come later."""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from layup.cautions.rule import Facts, ResinFacts
from layup.job import OnTop, Part, Substrate
from layup.laminate.parts import coat_use

Bond = Literal["epoxy", "styrene", ""]

_GROUNDS: dict[Substrate, Bond] = {"cured epoxy": "epoxy", "cured polyester": "styrene"}
_LATER: dict[OnTop, Bond] = {"gel coat": "styrene", "polyester": "styrene", "epoxy": "epoxy"}


@dataclass(frozen=True)
class Stuff:
    """One thing of a part, at its path: `ground` as it was found, `later` where it is to come on top one day.

    `bond` tells what it is to whatever it meets, "" where that is neither; `primes` where it is made to go between.
    """

    path: str
    name: str
    bond: Bond
    ground: bool = False
    later: bool = False
    primes: bool = False
    gel_coat: bool = False


def stuff_of(facts: Facts, path: str, part: Part) -> list[Stuff]:
    """The things of a part from its ground upward; what is laid in a resin that is not chosen yet is left out."""
    laid = [_of_ply(facts, path, part, at) for at in range(len(part.plies))]
    own = facts.resin_of(part.use_id)
    if not part.plies and own:
        laid = [_of_resin(f"{path}.plies", own)]
    ground = Stuff(f"{path}.substrate", part.substrate, _GROUNDS.get(part.substrate, ""), ground=True)
    later = part.ground.later
    on_top = [Stuff(f"{path}.ground.later", later, _LATER.get(later, ""), later=True)] if later else []
    return [ground, *filter(None, laid), *on_top]


def meetings(facts: Facts) -> Iterator[tuple[Part, Stuff, Stuff]]:
    """Each two things that meet on a part: what lies beneath and what comes on it."""
    for path, part in facts.parts():
        for beneath, above in pairwise(stuff_of(facts, path, part)):
            yield part, beneath, above


def _of_ply(facts: Facts, path: str, part: Part, at: int) -> Stuff | None:
    ply, ply_path = part.plies[at], f"{path}.plies.{at}"
    if ply.coat:
        use = coat_use(facts.job, part, ply.coat)
        if use is None:
            # A gel coat by its own sheet: polyester, as most are.
            return None if ply.coat.use_id else Stuff(ply_path, "gel coat", "styrene", gel_coat=True)
        of = facts.resin_of(use.id)
    else:
        of = facts.resin_of(part.use_id)
    return _of_resin(ply_path, of) if of else None


def _of_resin(path: str, of: ResinFacts) -> Stuff:
    made_for = of.resin.made_for
    bond: Bond = "styrene" if of.styrene else "epoxy" if of.resin.family == "epoxy" else ""
    return Stuff(path, of.resin.name, bond, primes="primer" in made_for, gel_coat=made_for == "gel coat")
