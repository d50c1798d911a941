"""How what was built is said, on the screen and on paper."""

from layup.as_built.outcome import AsBuilt, BuiltLayer, BuiltPlace, BuiltPot, WentOn
from layup.record import Record
from layup.scales import Scales
from layup.words import counted

_WENT_ON: dict[WentOn, str] = {
    "ground": "on the",
    "wet": "while it was wet beneath",
    "tacky": "within the window beneath",
    "keyed": "after it was keyed beneath",
    "closed": "after the window beneath had closed",
}
_BY_TEST = ", by a test"


class LayerSaid(Record):
    """A layer in words: when and by whom it was laid, how it went on, its resin, and what was read of it."""

    laid: str
    went_on: str
    resin: str
    read: str


def layer_said(layer: BuiltLayer, place: BuiltPlace, built: AsBuilt, scales: Scales) -> LayerSaid:
    """A layer of a place in words, in the reader's units."""
    room = f"room {scales.temperature(layer.room_c)}" if layer.room_c is not None else ""
    read = room, film_words(layer, scales), tests_words(layer, built, scales)
    return LayerSaid(
        laid=laid_words(layer, built, scales),
        went_on=went_on_words(layer, place),
        resin=resin_words(layer),
        read="; ".join(word for word in read if word),
    )


def went_on_words(layer: BuiltLayer, place: BuiltPlace) -> str:
    """How a layer of a place went on.

    >>> deck = BuiltPlace(id="a", owner_id="a", name="Deck", bay="", layers=())
    >>> layer = BuiltLayer(id="a", words="ply 1", item_ids=(), state="laid", went_on="tacky", told_by="test")
    >>> went_on_words(layer, deck), went_on_words(layer.model_copy(update={"went_on": "ground"}), deck)
    ('within the window beneath, by a test', 'on the ground')
    """
    if layer.went_on is None:
        return ""
    if layer.went_on == "ground":
        return f"{_WENT_ON['ground']} {place.planned.substrate if place.planned else 'ground'}"
    tested = layer.told_by == "test" and layer.went_on in ("wet", "tacky")
    return _WENT_ON[layer.went_on] + (_BY_TEST if tested else "")


def laid_words(layer: BuiltLayer, built: AsBuilt, scales: Scales) -> str:
    """When a layer was laid, and by whom; or that it was not."""
    if layer.state == "not laid":
        return "not laid"
    if layer.state == "in part":
        return f"{layer.strips_laid} of {counted(layer.strips, 'piece')} laid" if layer.strips > 1 else "not finished"
    when = scales.customs.moment(built.moment(layer.laid_min or 0.0))
    return f"{when}, {layer.by}" if layer.by else when


def resin_words(layer: BuiltLayer) -> str:
    """The resin that was laid against what was planned.

    >>> resin_words(BuiltLayer(id="a", words="ply 1", item_ids=(), state="laid", resin_share=1.04))
    '4 % more than planned'
    """
    if layer.resin_share is None:
        return "not weighed" if layer.state == "laid" else ""
    percent = round(100 * (layer.resin_share - 1))
    return "as planned" if not percent else f"{abs(percent)} % {'more' if percent > 0 else 'less'} than planned"


def film_words(layer: BuiltLayer, scales: Scales) -> str:
    """What a gauge showed of a coat, beside what was planned."""
    if layer.film_um is None:
        return ""
    read = scales.words("film", layer.film_um)
    return read if layer.planned_film_um is None else f"{read}, {scales.words('film', layer.planned_film_um)} planned"


def tests_words(layer: BuiltLayer, built: AsBuilt, scales: Scales) -> str:
    """What the tests of a layer showed."""
    return "; ".join(
        f"{test.test} {scales.customs.clock(built.moment(test.at_min))}: {test.shows}" for test in layer.tests
    )


def gel_words(pot: BuiltPot) -> str:
    """What became of a pot.

    >>> gel_words(BuiltPot(number=1, where="", resin_name="", hardener="", planned_g=85, life_min=24, gelled_in_min=22.4))
    'gelled in 22 of 24 min'
    """
    gelled = f"gelled in {pot.gelled_in_min:.0f} of {pot.life_min:.0f} min" if pot.gelled_in_min is not None else ""
    if pot.ended == "used up" and pot.used_in_min is not None:
        used = f"used up in {pot.used_in_min:.0f} min"
        return f"{used}; the rest {gelled}" if gelled else f"{used}, {pot.life_min:.0f} told"
    return gelled or pot.ended
