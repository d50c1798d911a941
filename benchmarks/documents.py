"""Changed documents planned by the core: how many are taken, that none breaks it, and how long the worst one takes."""

import time

from pydantic import ValidationError

from layup.job import JobSpec
from layup.plan import plan
from tests.changed_documents import documents
from tests.core.jobs import at

COUNT, SEED = 2_000, 17


def main() -> None:
    taken, broken, worst = 0, [], (0.0, "")
    for number, document in enumerate(documents(COUNT, SEED)):
        try:
            job = JobSpec.model_validate(document)
        except ValidationError:
            continue
        taken += 1
        began = time.perf_counter()
        try:
            plan(job, at(20))
        except Exception as error:
            broken.append(f"{number}: {type(error).__name__}: {error}")
        worst = max(worst, (time.perf_counter() - began, job.name))
    print(f"Changed documents, {COUNT:,}: {taken:,} taken, {len(broken)} broke the plan (promised 0)")
    for line in broken[:20]:
        print(f"  {line}")
    print(f"  the slowest plan took {worst[0]:.2f} s ({worst[1]})")
