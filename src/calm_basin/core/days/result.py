"""What is done on which day, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import Result, Working

State = Literal["done", "begun", "to come"]


class TaskSlot(Result):
    """A task with its hands and the wait after it: minutes from midnight before the first day, as
    moments of the site (``begins``, ``ends``; "" without a first day), and in words.

    ``spare`` is by how many minutes it may end later with nothing behind it moved, ``critical``
    whether that is none; ``meanwhile`` names what can be done in its wait. ``agreed`` is the day
    before which it does not begin, and ``agreed_text`` what is to be known of that. ``state`` tells
    whether it was done, is being done or is still to come; ``signed`` by whom a hold point was,
    ``first_text`` how it lies to what was first agreed, and ``own`` that it is of one's own.
    """

    task: str
    name: str
    who: str
    start: int
    end: int
    free: int
    begins: str
    ends: str
    day_text: str
    begin_text: str
    end_text: str
    hands_text: str
    wait_text: str
    hold: bool
    agreed: str | None
    agreed_text: str
    spare: int
    spare_text: str
    critical: bool
    meanwhile: tuple[str, ...]
    after: tuple[str, ...]
    state: State
    signed: str
    first_text: str
    own: bool
    why: Working


class WorkDay(Result):
    """A day of the calendar from the first to the last: its ``number`` from 0, whether it is
    worked, and which tasks have hands on it."""

    number: int
    text: str
    date: str
    worked: bool
    tasks: tuple[str, ...]


class DaysResult(Result):
    """The days of the job: its tasks in the order of the work, the calendar, when it is done, at
    the usual pace and between quick and slow, on how many ``visits``. ``proven`` where no order is
    done sooner, ``first_text`` how its end lies to what was first agreed. ``warned`` is what went
    on past a hold point that nobody signed, and what does not hang together; minutes count from
    midnight before ``first_day``, "" where none is agreed."""

    tasks: tuple[TaskSlot, ...]
    days: tuple[WorkDay, ...]
    begin: int
    end: int
    finish: int
    finish_text: str
    range_text: str
    visits: int
    visits_text: str
    warmth_text: str
    proven: bool
    slower: float
    said: tuple[str, ...]
    first_text: str
    warned: tuple[str, ...]
    first_day: str
    none_because: str = ""
