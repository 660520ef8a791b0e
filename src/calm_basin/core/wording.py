"""Print figures in the plan's display units, and make changes to plans."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, TypeVar

from pydantic import BaseModel

from calm_basin.core.solution import Change
from calm_basin.plan import Plan
from calm_basin.units import (
    Display,
    Rounding,
    format_fall,
    format_fall_limit,
    format_length,
    format_limit,
)

PartT = TypeVar("PartT", bound=BaseModel)


@dataclass(frozen=True)
class Words:
    """Prints lengths and falls the way the plan asks."""

    display: Display

    @classmethod
    def of(cls, plan: Plan) -> Words:
        choice = plan.display
        return cls(Display(choice.length, choice.fraction, choice.fall))

    def length(self, value: float, rounding: Rounding = "nearest") -> str:
        return format_length(value, self.display, rounding=rounding)

    def fall(self, value: float) -> str:
        return format_fall(value, self.display.fall)

    def limit(self, value: float) -> str:
        """A length that something is held against: never rounded to the wrong side."""
        return format_limit(value, self.display)

    def fall_limit(self, value: float) -> str:
        """A fall that planes are held against, likewise."""
        return format_fall_limit(value, self.display.fall)

    def bare(self, value: float) -> str:
        """A length without the name of its metric unit, for figures on a drawing."""
        return format_length(value, self.display, unit=False)

    def move(self, dx: float, dy: float) -> str:
        """A displacement on plan, such as ``38 mm left and 20 mm up``."""
        parts = []
        for distance, ways in ((dx, ("right", "left")), (dy, ("up", "down"))):
            if abs(distance) >= self.display.step / 2:
                parts.append(f"{self.length(abs(distance))} {ways[0] if distance > 0 else ways[1]}")
        return " and ".join(parts) + " on the plan"


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
