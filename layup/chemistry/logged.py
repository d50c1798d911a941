"""The shop's own gels, put beside what a product's label states."""

from collections.abc import Sequence

from layup.materials import ResinSystem, SourceKind, StatedTime
from layup.shop_facts import LoggedGel


def with_logged(resin: ResinSystem, gels: Sequence[LoggedGel]) -> ResinSystem:
    """A resin whose hardeners, or whose catalyst, carry the gels logged of them as times of their own.

    >>> from layup.library import generic
    >>> slow = generic().resins[0].hardeners[2]
    >>> gel = LoggedGel(resin_id=generic().resins[0].id, hardener_id=slow.id, minutes=36, temperature_c=25, mass_g=100)
    >>> with_logged(generic().resins[0], [gel]).hardeners[2].stated_times[0].minutes
    36.0
    """
    of_resin = [gel for gel in gels if gel.resin_id == resin.id]
    if not of_resin or resin.one_part:
        return resin
    if resin.catalyst:
        times = (*resin.catalyst.stated_times, *map(_time, of_resin))
        return resin.model_copy(update={"catalyst": resin.catalyst.model_copy(update={"stated_times": times})})
    hardeners = tuple(
        hardener.model_copy(
            update={
                "stated_times": (
                    *hardener.stated_times,
                    *(_time(gel) for gel in of_resin if gel.hardener_id == hardener.id),
                )
            }
        )
        for hardener in resin.hardeners
    )
    return resin.model_copy(update={"hardeners": hardeners})


def _time(gel: LoggedGel) -> StatedTime:
    return StatedTime(
        ends="gel",
        minutes=gel.minutes,
        temperature_c=gel.temperature_c,
        mass_g=gel.mass_g,
        cup_mm=gel.cup_mm,
        catalyst_pct=gel.catalyst_pct,
        spread=gel.spread,
        source=SourceKind.SHOP_LOG,
    )
