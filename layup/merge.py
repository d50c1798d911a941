"""Two people's edits of one document, brought together by id and field: a conflict only where both changed the same."""

from dataclasses import dataclass
from typing import Any

Node = Any  # JSON: dict, list, str, number, bool or None
Fields = dict[str, Node]


class _Absent:
    """Stands where a thing or a field is not there, which is not the same as being empty."""


ABSENT = _Absent()


@dataclass(frozen=True)
class Conflict:
    """One field that both changed. `path` goes by ids, such as parts/bottom/shape/width_m; values are JSON.

    A value of None together with `mine_removed` or `theirs_removed` means that the whole thing was taken away.
    """

    path: str
    base: Node
    mine: Node
    theirs: Node
    mine_removed: bool = False
    theirs_removed: bool = False


@dataclass(frozen=True)
class Merged:
    """The document with both people's edits, mine where they conflict, and what conflicts."""

    document: Node
    conflicts: tuple[Conflict, ...]


def merge(base: Node, mine: Node, theirs: Node) -> Merged:
    """Merge two edits of one JSON document. Things in lists are known by their `id`, never by their place.

    >>> base = {"parts": [{"id": "a", "count": 1, "name": "Lid"}]}
    >>> mine = {"parts": [{"id": "a", "count": 2, "name": "Lid"}]}
    >>> theirs = {"parts": [{"id": "a", "count": 1, "name": "Hatch"}, {"id": "b", "count": 1}]}
    >>> merge(base, mine, theirs).document
    {'parts': [{'id': 'a', 'count': 2, 'name': 'Hatch'}, {'id': 'b', 'count': 1}]}
    """
    conflicts: list[Conflict] = []
    document = _merge(base, mine, theirs, "", conflicts)
    return Merged(document, tuple(conflicts))


def _merge(base: Node, mine: Node, theirs: Node, path: str, conflicts: list[Conflict]) -> Node:
    if _same(mine, theirs) or _same(base, theirs):
        return mine
    if _same(base, mine):
        return theirs
    if all(isinstance(node, dict) for node in (base, mine, theirs)) and _one_kind(base, mine, theirs):
        return _merge_fields(base, mine, theirs, path, conflicts)
    if all(_is_list_of_things(node) for node in (base, mine, theirs)):
        return _merge_things(base, mine, theirs, path, conflicts)
    was, ours, others = (None if node is ABSENT else node for node in (base, mine, theirs))
    conflicts.append(Conflict(path, was, ours, others, mine is ABSENT, theirs is ABSENT))
    return mine


def _same(one: Node, other: Node) -> bool:
    return one is other or (one is not ABSENT and other is not ABSENT and one == other)


def _one_kind(*nodes: Fields) -> bool:
    """Whether these are one kind of thing: a rectangle and a typed area have no fields to bring together."""
    return len({node.get("kind") for node in nodes}) == 1


def _is_list_of_things(node: Node) -> bool:
    return isinstance(node, list) and all(isinstance(item, dict) and "id" in item for item in node)


def _merge_fields(base: Fields, mine: Fields, theirs: Fields, path: str, conflicts: list[Conflict]) -> Fields:
    merged: Fields = {}
    for field in dict.fromkeys([*mine, *theirs]):
        if field == "typed":
            continue
        was, ours, others = (side.get(field, ABSENT) for side in (base, mine, theirs))
        value = _merge(was, ours, others, f"{path}/{field}".lstrip("/"), conflicts)
        if value is not ABSENT:
            merged[field] = value
    if "typed" in mine or "typed" in theirs:
        merged["typed"] = _typed_words(merged, mine, theirs)
    return merged


def _typed_words(merged: Fields, mine: Fields, theirs: Fields) -> Fields:
    """The words a quantity was typed in go with the quantity that stands."""
    ours, others = mine.get("typed", {}), theirs.get("typed", {})
    words = {}
    for field in dict.fromkeys([*ours, *others]):
        source = ours if merged.get(field) == mine.get(field) and field in ours else others
        if field in source:
            words[field] = source[field]
    return words


def _merge_things(
    base: list[Fields], mine: list[Fields], theirs: list[Fields], path: str, conflicts: list[Conflict]
) -> list[Fields]:
    by_id = [{item["id"]: item for item in side} for side in (base, mine, theirs)]
    kept: dict[str, Node] = {}
    for thing_id in dict.fromkeys(item["id"] for item in (*mine, *theirs, *base)):
        was, ours, others = (side.get(thing_id, ABSENT) for side in by_id)
        value = _merge(was, ours, others, f"{path}/{thing_id}".lstrip("/"), conflicts)
        if value is not ABSENT:
            kept[thing_id] = value
    return [kept[thing_id] for thing_id in _order(base, mine, theirs) if thing_id in kept]


def _order(base: list[Fields], mine: list[Fields], theirs: list[Fields]) -> list[str]:
    """The ids in the order of whoever moved things (mine where both did), the other's additions after what they followed."""
    base_ids, mine_ids, their_ids = ([item["id"] for item in side] for side in (base, mine, theirs))
    i_moved = [i for i in mine_ids if i in base_ids] != [i for i in base_ids if i in mine_ids]
    leading, other = (mine_ids, their_ids) if i_moved else (their_ids, mine_ids)
    order = list(leading)
    for at, thing_id in enumerate(other):
        if thing_id not in order:
            before = next((order.index(i) + 1 for i in reversed(other[:at]) if i in order), 0)
            order.insert(before, thing_id)
    return order
