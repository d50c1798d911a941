"""How long choosing the bays takes, how many ways are tried for it, and what the choice saves."""

import statistics
import time
from unittest import mock

from layup.day.planner import Planner
from layup.plan import laid_out, settled
from layup.shop_facts import ShopFacts
from tests.core.jobs import at, on, panel, wishing

PROMISED_MS, TIMES = 400, 12


def main() -> None:
    print("Choosing the bays, one part, mats in polyester by four people and a mixer:")
    for area, plies in ((24, 3), (45, 2), (45, 12)):
        job = panel("polyester-general", *["csm-450"] * plies, width_m=4.5, length_m=area / 4.5)
        job = wishing(on(job, substrate="bare plywood"), hands=4, mixer="a person more")
        facts = at(18)
        took, tried = _timed(job, facts)
        day = laid_out(settled(job, facts))
        lane = day.schedule.lanes[0]
        said = f", promised under {PROMISED_MS}" if (area, plies) == (45, 12) else ""
        print(
            f"  {area} m², {plies} plies: {statistics.median(took):.0f} ms, 95th percentile"
            f" {statistics.quantiles(took, n=20)[-1]:.0f}{said}; {tried} plans tried, {len(lane.bays) or 1} bays,"
            f" {len(day.schedule.pots)} pots"
        )


def _timed(job, facts: ShopFacts) -> tuple[list[float], int]:
    """Milliseconds a choice takes, another room each time, and how many plans are tried for one."""
    laid_out(settled(job, facts))
    took = []
    for turn in range(1, TIMES + 1):
        of = settled(job, facts.model_copy(update={"room_shift_c": 0.05 * turn}))
        began = time.perf_counter()
        laid_out(of)
        took.append((time.perf_counter() - began) * 1000)
    with mock.patch.object(Planner, "__init__", autospec=True, side_effect=Planner.__init__) as made:
        laid_out(settled(job, facts))
    return took, made.call_count


if __name__ == "__main__":
    main()
