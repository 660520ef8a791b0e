"""Make changes to plans."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import BaseModel

from calm_basin.core.answer.result import Change
from calm_basin.plan import Plan

PartT = TypeVar("PartT", bound=BaseModel)


def changed(plan: Plan, changes: tuple[Change, ...]) -> Plan:
    """The plan with these changes made; only the parts that change are checked again.

    Raises pydantic's error where a value does not fit its part, and `LookupError` where a pointer
    leads nowhere.
    """
    for change in changes:
        plan = _set(plan, change.path.removeprefix("/").split("/"), change.value)
    return plan


def _set(part: PartT, path: list[str], value: Any) -> PartT:
    name, *rest = path
    if name not in type(part).model_fields:
        raise LookupError(f"There is no {name} in a {type(part).__name__.lower()}.")
    old = getattr(part, name)
    if isinstance(old, BaseModel) and rest:
        return part.model_copy(update={name: _set(old, rest, value)})
    return type(part).model_validate({**dict(part), name: _within(old, rest, value)})


def _within(old: Any, path: list[str], value: Any) -> Any:
    """What stands at a field, with the value put at a place inside it: an item of a list, a
    coordinate of a point."""
    if not path:
        return value
    name, *rest = path
    if isinstance(old, BaseModel):
        return _set(old, path, value)
    if not isinstance(old, tuple) or not name.isdigit() or int(name) >= len(old):
        raise LookupError(f"There is no place {name} to change.")
    items = list(old)
    items[int(name)] = _within(items[int(name)], rest, value)
    return tuple(items)
