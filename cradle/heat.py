"""Plans for the screen: at once, by the rough heat model while the full one's table is built beside it."""

from concurrent.futures import Future, ThreadPoolExecutor

from django.conf import settings

from layup.heat_fit import StatedPot
from layup.job import JobSpec, ShopFacts
from layup.outcome import Plan
from layup.plan import plan
from layup.pot_heat import PotHeat, full_heat, rough_heat

# A person who types many labels may not make the others wait: past these nothing more is taken on until one is done.
MOST_WAITING = 40
MOST_KEPT = 400

_builder = ThreadPoolExecutor(max_workers=1, thread_name_prefix="heat")
_tables: dict[StatedPot, Future[PotHeat]] = {}


def planned(spec: JobSpec, facts: ShopFacts) -> Plan:
    """The plan for a screen; its chemistry says where it is still rough."""
    return plan(spec, facts, heat_at_hand if settings.HEAT_IN_BACKGROUND else full_heat)


def heat_at_hand(stated: StatedPot) -> PotHeat:
    """The full heat model of a product where it is built; else the rough one, and the full one is begun."""
    table = _tables.get(stated)
    if table is None and sum(not other.done() for other in _tables.values()) < MOST_WAITING:
        if len(_tables) >= MOST_KEPT:
            _tables.pop(next(iter(_tables)))
        table = _tables[stated] = _builder.submit(full_heat, stated)
    if table and table.done() and not table.exception():
        return table.result()
    return rough_heat(stated)
