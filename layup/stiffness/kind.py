"""What is laid to stiffen what lies there, as a kind of work: it lays nothing itself, and compares."""

from layup.errors import LayupError, Missing
from layup.job import JobSpec
from layup.kind import Draft, KindOfWork, Mixes, Products
from layup.stiffness.compare import stiffened
from layup.stiffness.outcome import StiffResult


class Stiffening(KindOfWork):
    """Parts that are laid on what was measured."""

    key = "stiffened"

    def has(self, job: JobSpec) -> bool:
        return any(part.found.layers for part in job.parts)

    def weigh(self, job: JobSpec, products: Products, draft: Draft) -> None:
        found: list[StiffResult] = draft.found.setdefault(self.key, [])
        told = {part.id: part for part in draft.found["parts"].parts}
        for number, part in enumerate(job.parts):
            if not part.found.layers or part.id not in told:
                continue
            try:
                found.append(stiffened(part, told[part.id]))
            except LayupError as error:
                path = f"parts.{number}.found.{error.path}"
                draft.missing(path, error.message, "stack", wrong=not isinstance(error, Missing))

    def results(self, mixes: Mixes, draft: Draft) -> list[StiffResult]:
        return draft.found.get(self.key, [])


STIFFENING = Stiffening()
