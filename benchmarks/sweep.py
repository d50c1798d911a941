"""Every number, word and yes of the demo jobs changed in turn: what is taken is planned, and nothing of it breaks."""

import os
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor

from pydantic import ValidationError

from layup.errors import LayupError
from layup.heat.pot_heat import rough_heat
from layup.job import JobSpec
from layup.plan import plan
from layup.preparing.cutting import cut_plan
from tests.changed_documents import every_leaf_changed
from tests.core.jobs import at


def planned(document: dict) -> tuple[str, float]:
    """What becomes of a document: refused, planned, or how it breaks; and the seconds it took."""
    began = time.perf_counter()
    try:
        job = JobSpec.model_validate(document)
    except ValidationError:
        return "refused", 0.0
    try:
        plan(job, at(20), rough_heat)
        cut_plan(job)
    except LayupError:
        return "refused by the plan", time.perf_counter() - began
    except Exception as error:
        return f"{type(error).__name__}: {error}", time.perf_counter() - began
    return "planned", time.perf_counter() - began


def main() -> None:
    documents = list(every_leaf_changed())
    with ProcessPoolExecutor(os.cpu_count()) as beside:
        found = list(beside.map(planned, documents, chunksize=100))
    became = Counter(what for what, _ in found)
    fine = became.pop("planned"), became.pop("refused"), became.pop("refused by the plan", 0)
    print(
        f"Every leaf changed, {len(documents):,} documents: {fine[0]:,} planned, {fine[1]:,} refused, "
        f"{fine[2]:,} refused by the plan, {became.total():,} broke it (promised 0); "
        f"the slowest took {max(seconds for _, seconds in found):.1f} s"
    )
    for what, count in became.most_common(20):
        print(f"  {count}: {what}")


if __name__ == "__main__":
    main()
