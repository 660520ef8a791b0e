"""When the work is done: from which day, in which hours, how warm, by which schools; tasks of one's
own, what was first agreed, and what was really done."""

from __future__ import annotations

from calendar import monthrange
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from calm_basin.plan.base import ContradictionError, Part

FIRST, LAST = 2000, 2199
"""The years in which days are planned."""

Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]

Hour = Annotated[float, Field(ge=0, le=24, allow_inf_nan=False)]

Moment = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d$")]
"""A day and a time of the site, of no time zone."""

TaskId = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,40}$")]

MembraneSchool = Literal["sheet", "liquid", "boards", "tape", "lifts", "cement"]
WallSchool = Literal["floor first", "walls first"]
TraySchool = Literal["weights", "walls at once"]
PlumbingSchool = Literal["first", "last"]
TileSchool = Literal["floor first", "walls first"]
"""Floor, cure, cover it, walls; or walls but for their last row, floor, then that row over it."""
Goal = Literal["done first", "fewest days"]
Who = Literal["crew", "plumber", "electrician", "inspector"]


class Agreed(Part):
    """A task that does not begin before a day: a trade's appointment, or a choice."""

    task: TaskId
    day: Day


class OwnTask(Part):
    """A task of one's own: hours of hands, hours of the clock that are waited after it, the tasks
    ``after`` which it comes and those that come after it (``before``)."""

    id: Annotated[str, Field(pattern=r"^own_[a-z0-9_]{1,30}$")]
    name: Annotated[str, Field(min_length=1, max_length=60)]
    who: Who = "crew"
    hours: float = Field(default=1.0, ge=0.25, le=400, allow_inf_nan=False)
    wait: float = Field(default=0.0, ge=0, le=2000, allow_inf_nan=False)
    hold: bool = Field(default=False, description="nothing behind it goes on until it is signed")
    after: tuple[TaskId, ...] = Field(default=(), max_length=20)
    before: tuple[TaskId, ...] = Field(default=(), max_length=20)


class Worked(Part):
    """What was really done of a task: when it was begun and ended, and who ``signed`` for a hold
    point, by initials."""

    task: TaskId
    began: Moment
    ended: Moment | None = None
    signed: Annotated[str, Field(max_length=12)] = ""


class FirstAgreed(Part):
    """When a task was to begin and end as it was first agreed."""

    task: TaskId
    begins: Moment
    ends: Moment


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
    goal: Goal = Field(
        default="done first", description="or the fewest days on site, though it ends later"
    )
    membrane: MembraneSchool = "sheet"
    walls: WallSchool = "floor first"
    tile: TileSchool = "floor first"
    tray: TraySchool = Field(
        default="weights", description="what keeps a tray down while its mortar sets"
    )
    plumbing: PlumbingSchool = Field(
        default="first", description="before the shower's base is set, or after it, from below"
    )
    own: tuple[OwnTask, ...] = Field(default=(), max_length=30)
    worked: tuple[Worked, ...] = Field(default=(), max_length=80)
    first_agreed: tuple[FirstAgreed, ...] = Field(default=(), max_length=80)

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
        for i, one in enumerate(self.agreed):
            if not _is_day(one.day):
                raise ContradictionError(
                    ("days", "agreed", i, "day"), f"{one.day} is no day. Correct it."
                )
        _each_once("agreed", "task", [one.task for one in self.agreed])
        _each_once("own", "id", [one.id for one in self.own])
        _each_once("worked", "task", [one.task for one in self.worked])
        _each_once("first_agreed", "task", [one.task for one in self.first_agreed])
        for i, done in enumerate(self.worked):
            for name, moment in (("began", done.began), ("ended", done.ended)):
                if moment is not None and not _is_day(moment[:10]):
                    raise ContradictionError(
                        ("days", "worked", i, name), f"{moment[:10]} is no day. Correct it."
                    )
            if done.ended is not None and done.ended < done.began:
                raise ContradictionError(
                    ("days", "worked", i, "ended"),
                    f"It ended before it began, at {done.began}. Correct one of the two.",
                )
        for i, first in enumerate(self.first_agreed):
            for name, moment in (("begins", first.begins), ("ends", first.ends)):
                if not _is_day(moment[:10]):
                    raise ContradictionError(
                        ("days", "first_agreed", i, name), f"{moment[:10]} is no day. Correct it."
                    )
        return self

    def day_of(self, task: str) -> str | None:
        """The day that was agreed for a task; None where none was."""
        return next((one.day for one in self.agreed if one.task == task), None)


def _each_once(part: str, field: str, names: list[str]) -> None:
    seen: set[str] = set()
    for i, name in enumerate(names):
        if name in seen:
            raise ContradictionError(
                ("days", part, i, field), f"“{name}” is there twice. Remove one."
            )
        seen.add(name)


def _is_day(text: str) -> bool:
    year, month, day = (int(part) for part in text.split("-"))
    return FIRST <= year <= LAST and 1 <= month <= 12 and 1 <= day <= monthrange(year, month)[1]
