"""What pots are spread from: one table says all that holds of each."""

from dataclasses import dataclass
from typing import Literal

from layup.job import PotVessel


@dataclass(frozen=True)
class SpreadFrom:
    """How the heat of a pot is followed there, `body`; whether it is poured out of its cup first, and onto a cool pack;
    what else is offered in its place.
    """

    body: Literal["cup", "tray", "cool pack"]
    instead: PotVessel
    poured: bool = True
    on_a_pack: bool = False


VESSELS: dict[PotVessel, SpreadFrom] = {
    "cup": SpreadFrom("cup", "tray", poured=False),
    "tray": SpreadFrom("tray", "tray on a cool pack"),
    "tray on a cool pack": SpreadFrom("cool pack", "cup", on_a_pack=True),
}
