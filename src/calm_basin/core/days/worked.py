"""What was really done, and how the rest lies to what was first agreed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from calm_basin.core.days.calendar import DAY, WorkHours
from calm_basin.core.days.result import State
from calm_basin.core.days.schedule import Slot
from calm_basin.core.days.tasks import HOUR, Pace, Placed, hands
from calm_basin.plan import Plan


class Record(NamedTuple):
    """What has been written down: the ``ended`` slots, when what is still being done was ``begun``,
    and the last moment of all, ``since``: what has not begun begins no earlier."""

    ended: dict[str, Slot]
    begun: dict[str, int]
    since: int
    found: Sequence[Placed]
    hours: WorkHours
    times: float

    def slots(self, pace: Pace) -> dict[str, Slot]:
        """The slots of what was done and is being done; what is being done ends at a pace, though
        not before the last moment that is known."""
        slots = dict(self.ended)
        for one in self.found:
            start = self.begun.get(one.usual.id)
            if start is None:
                continue
            _, end = self.hours.done(start, hands(one, pace), whole=False)
            slots[one.usual.id] = _slot(one, start, max(end, self.since), self.times)
        return slots

    def state(self, task: str) -> State:
        """Whether a task was done, is being done or is still to come."""
        if task in self.ended:
            return "done"
        return "begun" if task in self.begun else "to come"


def worked(
    plan: Plan, found: Sequence[Placed], first: np.datetime64, hours: WorkHours, times: float
) -> Record:
    """What was written down of the tasks that the plan has.

    Minutes count from midnight before the ``first`` day; without a first day nothing counts. A
    hold point has ended only once it is signed.
    """
    ended: dict[str, Slot] = {}
    begun: dict[str, int] = {}
    moments = [0]
    there = {one.usual.id: one for one in found}
    for done in plan.days.worked if plan.days.start else ():
        one = there.get(done.task)
        if one is None:
            continue
        start = minute(done.began, first)
        moments.append(start)
        if done.ended is None or (one.usual.hold and not done.signed):
            begun[done.task] = start
            continue
        end = minute(done.ended, first)
        moments.append(end)
        ended[done.task] = _slot(one, start, max(end, start + 1), times)
    return Record(ended, begun, max(moments), found, hours, times)


def _slot(one: Placed, start: int, end: int, times: float) -> Slot:
    return Slot(start, end, end + round(one.usual.wait * HOUR * times))


def minute(moment: str, first: np.datetime64) -> int:
    """A moment of the site in minutes from midnight before the first day."""
    return int((np.datetime64(moment, "m") - first.astype("datetime64[m]")).astype(int))


def warned(plan: Plan, found: Sequence[Placed], record: Record) -> tuple[str, ...]:
    """What went on past a hold point that nobody signed, and links of one's own tasks to tasks that
    the plan has no more."""
    names = {one.usual.id: one.usual.name for one in found}
    holds = {one.usual.id for one in found if one.usual.hold}
    said = []
    for one in found:
        if record.state(one.usual.id) == "to come":
            continue
        open_holds = [
            before for before in one.after if before in holds and record.state(before) != "done"
        ]
        said += [
            f"“{one.usual.name}” was begun before “{names[hold]}” was signed: uncover it or test "
            "it now."
            for hold in open_holds
        ]
    for own in plan.days.own:
        for other in (*own.after, *own.before):
            if other not in names:
                said.append(f"“{own.name}” is tied to a task that this plan has not: {other}.")
    return tuple(said)


def later_text(minutes: int) -> str:
    """By how much something is later, or below 0 earlier, than it was first agreed."""
    if not minutes:
        return "as first agreed"
    days, hours = divmod(round(abs(minutes) / HOUR * 4) / 4, DAY / HOUR)
    parts = [f"{days:g} day{'' if days == 1 else 's'}"] if days else []
    parts += [f"{hours:g} h"] if hours else []
    told = " ".join(parts) or f"{abs(minutes)} min"
    return f"{told} {'later' if minutes > 0 else 'earlier'} than first agreed"


def first_text(plan: Plan, task: str, end: int, first: np.datetime64) -> str:
    """How the end of a task lies to what was first agreed; empty where nothing was."""
    one = next((one for one in plan.days.first_agreed if one.task == task), None)
    if one is None or plan.days.start is None:
        return ""
    return later_text(end - minute(one.ends, first))


def whole_text(plan: Plan, end: int, first: np.datetime64) -> str:
    """How the end of all hands lies to what was first agreed; empty where nothing was."""
    ends = [minute(one.ends, first) for one in plan.days.first_agreed]
    return later_text(end - max(ends)) if ends and plan.days.start else ""
