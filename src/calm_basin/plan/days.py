"""When the work is done: from which day, in which hours, how warm, by which schools."""

from __future__ import annotations

from calendar import monthrange
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from calm_basin.plan.base import ContradictionError, Part

FIRST, LAST = 2000, 2199
"""The years in which days are planned."""

Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]

Hour = Annotated[float, Field(ge=0, le=24, allow_inf_nan=False)]

MembraneSchool = Literal["sheet", "liquid"]
WallSchool = Literal["floor first", "walls first"]


class Agreed(Part):
    """A task that does not begin before a day: a trade's appointment, or a choice."""

    task: Annotated[str, Field(pattern=r"^[a-z][a-z_]{0,40}$")]
    day: Day


class Days(Part):
    """The calendar of the job. Hours are of the day; ``weekdays`` count from Monday, 0."""

    start: Day | None = Field(default=None, description="the first day; null: not agreed yet")
    begin: Hour = Field(default=8.0, description="when the crew begins, hours of the day")
    end: Hour = Field(default=16.5, description="when it ends")
    weekdays: tuple[Annotated[int, Field(ge=0, le=6)], ...] = Field(
        default=(0, 1, 2, 3, 4), max_length=7, description="that are worked, Monday 0"
    )
    off: tuple[Day, ...] = Field(
        default=(), max_length=200, description="days off and public holidays"
    )
    temperature: float = Field(
        default=20.0, ge=-20, le=50, allow_inf_nan=False, description="of the room, °C"
    )
    slower: float | None = Field(
        default=None,
        ge=0.2,
        le=20,
        allow_inf_nan=False,
        description="how many times as long cures take; null: by the temperature",
    )
    agreed: tuple[Agreed, ...] = Field(
        default=(), max_length=60, description="tasks that wait for a day"
    )
    membrane: MembraneSchool = "sheet"
    walls: WallSchool = "floor first"

    @model_validator(mode="after")
    def _hours_come(self) -> Self:
        if self.end - self.begin < 0.5:
            raise ContradictionError(
                ("days", "end"), "A working day has half an hour or more. Change its hours."
            )
        if not self.weekdays:
            raise ContradictionError(
                ("days", "weekdays"), "No day of the week is worked. Choose one or more."
            )
        for i, day in enumerate((self.start, *self.off)):
            if day is not None and not _is_day(day):
                where: tuple[str | int, ...] = ("days", "off", i - 1) if i else ("days", "start")
                raise ContradictionError(where, f"{day} is no day. Correct it.")
        seen: set[str] = set()
        for i, one in enumerate(self.agreed):
            if not _is_day(one.day):
                raise ContradictionError(
                    ("days", "agreed", i, "day"), f"{one.day} is no day. Correct it."
                )
            if one.task in seen:
                raise ContradictionError(
                    ("days", "agreed", i, "task"), f"“{one.task}” is there twice. Remove one."
                )
            seen.add(one.task)
        return self

    def day_of(self, task: str) -> str | None:
        """The day that was agreed for a task; None where none was."""
        return next((one.day for one in self.agreed if one.task == task), None)


def _is_day(text: str) -> bool:
    year, month, day = (int(part) for part in text.split("-"))
    return FIRST <= year <= LAST and 1 <= month <= 12 and 1 <= day <= monthrange(year, month)[1]
