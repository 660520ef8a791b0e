"""Make changes to plans."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from calm_basin.core.answer.result import Change
from calm_basin.plan import Plan
from calm_basin.plan.agreement import check_drains, check_levels, check_parts, check_under
from calm_basin.plan.agreement_walls import check_walls
from calm_basin.plan.base import ContradictionError
from calm_basin.plan.pointers import steps

PartT = TypeVar("PartT", bound=BaseModel)


class EditError(ValueError):
    """Changes that make no plan: a value does not fit its part, a pointer leads nowhere, or the
    parts do not agree with one another."""


def changed(plan: Plan, changes: tuple[Change, ...]) -> Plan:
    """The plan with these changes made; only the parts that change are checked again, and not
    whether they agree with others.

    Raises
    ------
    EditError
        A value does not fit its part, or a pointer leads nowhere.
    """
    try:
        for change in changes:
            plan = _set(plan, steps(change.path), change.value)
    except ValidationError as error:
        raise EditError(str(error)) from None
    return plan


def edited(plan: Plan, changes: tuple[Change, ...]) -> Plan:
    """The plan with these changes made, where all that they touch agrees again.

    Raises
    ------
    EditError
        As of `changed`, and where parts do not agree.
    """
    after = changed(plan, changes)
    touched = {tuple(steps(change.path)[:2]) for change in changes}
    parts = {first for first, *_ in touched}
    try:
        if parts & {"room", "floor"} or ("shower", "outline") in touched:
            check_parts(after.room, after.floor, after.shower, after.survey)
        else:
            check_drains(after.shower)
        if parts & {"room", "floor", "waste"}:
            check_under(after.room, after.floor, after.waste)
        if parts & {"room", "walls"}:
            check_walls(after.room, after.walls)
        if ("survey", "levels") in touched:
            check_levels(after.survey.levels)
    except ContradictionError as error:
        raise EditError(str(error)) from None
    return after


def _set(part: PartT, path: list[str], value: Any) -> PartT:
    name, *rest = path
    if name not in type(part).model_fields:
        raise EditError(f"There is no {name} in a {type(part).__name__.lower()}.")
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
        raise EditError(f"There is no place {name} to change.")
    items = list(old)
    items[int(name)] = _within(items[int(name)], rest, value)
    return tuple(items)
