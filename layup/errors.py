"""The errors of the core. Each carries words a builder can act on and, where there is one, the field they belong to."""

from collections.abc import Iterable, Mapping
from typing import Any, TypeVar

from pydantic import ValidationError
from pydantic_core import PydanticCustomError

# Of a document that is wrong all over, so many faults are told.
MOST_TOLD = 500


class LayupError(ValueError):
    """Something the plan cannot go on without. `path` names the field in the job, such as `parts.p1.width_m`."""

    def __init__(self, message: str, path: str = ""):
        super().__init__(message)
        self.message = message
        self.path = path


class Unreadable(LayupError):
    """Typed text that cannot be understood as what the field holds."""


class OutOfRange(LayupError):
    """A value that was understood and cannot be right."""


class Missing(LayupError):
    """A fact that has to be known first."""


T = TypeVar("T")


def known(value: T | None, message: str = "this is not known yet", path: str = "") -> T:
    """A fact that has to be there by now. Raises Missing where it is not.

    >>> known(2.5)
    2.5
    """
    if value is None:
        raise Missing(message, path)
    return value


def at_field(field: str, message: str) -> PydanticCustomError:
    """What a check of a whole thing raises to have its fault said at one field of it."""
    return PydanticCustomError("at_field", "{words}", {"words": message, "field": field})


def place_of(detail: Mapping[str, Any]) -> tuple[int | str, ...]:
    """Where a fault belongs: its place, with the field that a check of the whole named."""
    field = detail.get("ctx", {}).get("field") if detail["type"] == "at_field" else None
    return (*detail["loc"], field) if field else tuple(detail["loc"])


def words_for(detail: Mapping[str, Any]) -> str:
    """One Pydantic error in a builder's words.

    >>> words_for({"type": "greater_than", "ctx": {"gt": 0}, "msg": ""})
    'must be more than 0'
    """
    limits = detail.get("ctx", {})
    match detail["type"]:
        case "greater_than":
            return f"must be more than {limits['gt']:g}"
        case "greater_than_equal":
            return f"must be {limits['ge']:g} or more"
        case "less_than":
            return f"must be less than {limits['lt']:g}"
        case "less_than_equal":
            return f"must be {limits['le']:g} or less"
        case "missing":
            return "is missing"
        case "extra_forbidden":
            return "is not a field of this document"
        case "literal_error" | "enum":
            return f"must be one of {limits.get('expected', 'the listed words')}"
        case "float_parsing" | "float_type" | "int_parsing" | "int_type" | "finite_number":
            return "must be a number"
        case "string_too_long":
            return f"must be {limits['max_length']} letters or fewer"
        case "string_too_short":
            return "must not be empty"
        case "model_type" | "dict_type" | "tuple_type" | "list_type" | "model_attributes_type":
            return "is not filled in as a thing of its kind"
        case "too_short":
            return "needs at least one"
        case "too_long":
            return f"may hold {limits['max_length']} at most"
        case "json_invalid":
            return f"is not JSON: {limits.get('error', '')}".strip()
    return detail["msg"].removeprefix("Value error, ")


def field_path(steps: Iterable[object]) -> str:
    """A fault's place as a path of the document: without the kind of a shape, which is no field of it.

    >>> field_path(("parts", 0, "shape", "rectangle", "width_m"))
    'parts.0.shape.width_m'
    """
    kept: list[str] = []
    words = [str(step) for step in steps]
    for at, word in enumerate(words):
        names_a_shape = at > 0 and words[at - 1] == "shape" and at < len(words) - 1
        if not names_a_shape:
            kept.append(word)
    return ".".join(kept)


def problems_of(error: ValidationError) -> list[tuple[str, str]]:
    """Each fault of a refused document as (path, words), as many as one reads. Of two readings of a field, the first."""
    found: dict[str, str] = {}
    for detail in error.errors(include_url=False, include_input=False)[:MOST_TOLD]:
        found.setdefault(field_path(place_of(detail)), words_for(detail))
    return list(found.items())
