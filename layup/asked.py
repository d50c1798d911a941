"""One measure that is asked for: of a shape, of a joint, of whatever else is measured."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Asked:
    """`field` is its name in the document, whose ending is its unit, and `label` the word beside it.

    `ask` is said while it is missing; what has none may be left out, and `left_out` then says what stands. `example` is a
    size as the trade has it, in the field's own unit (memory); `usual` stands where nothing is typed.
    """

    field: str
    label: str
    ask: str = ""
    example: float | None = None
    usual: float | None = None
    left_out: str = ""
