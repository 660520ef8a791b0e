"""Every number of a plan that has a unit."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from itertools import chain
from typing import Any, get_args

from pydantic import BaseModel

from calm_basin.plan.base import Part, Quantity, QuantityKind


def quantities(
    part: Part, within: tuple[str, ...] = ("",)
) -> list[tuple[str, QuantityKind, float]]:
    """List every measured number of the document as (JSON pointer, kind, value).

    ``within`` names the fields of the document, as pointers, that are looked into; all by default.
    """
    found: list[tuple[str, QuantityKind, float]] = []
    for name, marked in _fields(type(part)):
        if any(pointer.startswith(f"/{name}") or not pointer for pointer in within):
            _collect(getattr(part, name), f"/{name}", marked, found)
    return found


def _collect(
    value: Any,
    path: str,
    kind: QuantityKind | None,
    found: list[tuple[str, QuantityKind, float]],
) -> None:
    if isinstance(value, BaseModel):
        for name, marked in _fields(type(value)):
            _collect(getattr(value, name), f"{path}/{name}", marked, found)
    elif isinstance(value, tuple):
        for i, item in enumerate(value):
            # Nested numbers of the document are coordinates of points, and nothing else.
            _collect(item, f"{path}/{i}", "length" if isinstance(item, float) else None, found)
    elif kind is not None and isinstance(value, int | float):
        found.append((path, kind, float(value)))


def kind_at(part: type[BaseModel], place: Sequence[str | int]) -> QuantityKind | None:
    """What the number at a place in a document of this form measures; None where it is none that
    has a unit, or there is no such place."""
    kinds, parts = set(), {part}
    for step in place:
        if isinstance(step, int):
            continue
        fields = [(one.model_fields[step], one) for one in parts if step in one.model_fields]
        kinds = {kind for _, one in fields for name, kind in _fields(one) if name == step}
        parts = {found for field, _ in fields for found in _parts_in(field.annotation)}
    if parts:
        return None
    # Numbers in lists are coordinates of points, and nothing else.
    return "length" if place and isinstance(place[-1], int) else next(iter(kinds - {None}), None)


def _parts_in(annotation: Any) -> set[type[BaseModel]]:
    """The parts of the document that a field may hold, in tuples and unions too."""
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return {annotation}
    return {found for side in get_args(annotation) for found in _parts_in(side)}


@cache
def _fields(part: type[BaseModel]) -> list[tuple[str, QuantityKind | None]]:
    """The fields of a part of the plan, with what kind of number each is."""
    fields = []
    for name, field in part.model_fields.items():
        # Where the value may be absent, the mark stands on one side of the union.
        choices = (getattr(side, "__metadata__", ()) for side in get_args(field.annotation))
        given = [*field.metadata, *chain.from_iterable(choices)]
        marks = [mark.kind for mark in given if isinstance(mark, Quantity)]
        fields.append((name, marks[0] if marks else None))
    return fields
