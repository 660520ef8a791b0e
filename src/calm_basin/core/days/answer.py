"""The days in words: when each task begins and ends, what is waited for, what is done meanwhile."""

from __future__ import annotations

import numpy as np

from calm_basin.core.answer.build import working
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Input
from calm_basin.core.days.calendar import DAY, NeverError, WorkHours
from calm_basin.core.days.result import DaysResult, TaskSlot, WorkDay
from calm_basin.core.days.schedule import CycleError, Schedule, Slot, floats, scheduled
from calm_basin.core.days.tasks import HOUR, STEP, Placed, cure_times, hands, placed, tasks
from calm_basin.core.days.worked import Record, first_text, warned, whole_text, worked
from calm_basin.plan import Plan
from calm_basin.rules import TRADE

MONDAY = "2024-01-01"
"""Where no first day is agreed the days are counted from a Monday."""

NAMES = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")

LATEST = 400
"""So many days are shown at most, besides those with hands on them."""


def first_day(plan: Plan) -> np.datetime64:
    """The first day of the calendar."""
    return np.datetime64(plan.days.start or MONDAY, "D")


def weekday(day: np.datetime64) -> int:
    """The day of the week, Monday 0: the first of 1970 was a Thursday."""
    return int((day.astype(int) + 3) % 7)


def hours_of(plan: Plan) -> WorkHours:
    """When the crew works, from the first day on."""
    days, first = plan.days, first_day(plan)
    off = frozenset(int((np.datetime64(day, "D") - first).astype(int)) for day in days.off)
    return WorkHours(
        begin=round(days.begin * HOUR),
        end=round(days.end * HOUR),
        week=tuple(day in days.weekdays for day in range(7)),
        first=weekday(first),
        off=off if days.start else frozenset(),
    )


def days(case: Case) -> DaysResult:
    """The days of a job at the usual pace, and when it is done at a quick and at a slow one."""
    plan = case.plan
    hours, found, times = hours_of(plan), placed(case), cure_times(plan)
    record = worked(plan, found, first_day(plan), hours, times)
    earliest = {
        one.usual.id: max(record.since, agreed_minute(plan, one.usual.id) or 0) for one in found
    }
    try:
        made, quick, slow = (
            scheduled(
                tasks(found, pace, times, earliest),
                hours,
                record.since,
                record.slots(pace),
                plan.days.goal,
            )
            for pace in ("usual", "quick", "slow")
        )
    except NeverError as error:
        return _none(plan, str(error))
    except CycleError as error:
        names = {one.usual.id: one.usual.name for one in found}
        ring = ", ".join(f"“{names[task]}”" for task in error.ring)
        why = f"These wait for each other: {ring}. Change what one of your own tasks comes after."
        return _none(plan, why)
    spare = floats(tasks(found, "usual", times, earliest), made)
    slots = tuple(
        _slot(case, one, made, max(spare[one.usual.id], 0), found, times, record) for one in found
    )
    last = max(slot.end for slot in made.slots.values())
    return DaysResult(
        tasks=tuple(sorted(slots, key=lambda slot: (slot.start, slot.end))),
        days=_calendar(plan, hours, made),
        begin=hours.begin,
        end=hours.end,
        finish=made.finish,
        finish_text=moment_text(plan, last),
        range_text=f"{day_text(plan, _last(quick) // DAY)} to {day_text(plan, _last(slow) // DAY)}",
        visits=made.visits,
        warmth_text=warmth_text(plan.days.temperature),
        visits_text=f"{made.visits} day{'' if made.visits == 1 else 's'} on site",
        proven=made.proven and quick.proven and slow.proven,
        slower=times,
        said=_said(plan, times, made),
        first_text=whole_text(plan, last, first_day(plan)),
        warned=warned(plan, found, record),
        first_day=plan.days.start or "",
    )


def agreed_minute(plan: Plan, task: str) -> int | None:
    """The minute before which a task that waits for a day does not begin; None for others."""
    day = plan.days.day_of(task)
    if plan.days.start is None or day is None:
        return None
    return int((np.datetime64(day, "D") - first_day(plan)).astype(int)) * DAY


def _day_agreed(plan: Plan, one: Placed, start: int) -> str:
    """What is said of the day that was agreed for a task, or has to be."""
    day = plan.days.day_of(one.usual.id)
    if day is None:
        return "" if one.usual.who == "crew" else "day to be agreed"
    if plan.days.start is None:
        return "its day counts once there is a first one"
    wanted, begins = (agreed_minute(plan, one.usual.id) or 0) // DAY, start // DAY
    told = f"agreed for {day_text(plan, wanted)}"
    if begins > wanted:
        told += f", cannot begin before {day_text(plan, begins)}"
    return told


def _last(made: Schedule) -> int:
    return max(slot.end for slot in made.slots.values())


def _none(plan: Plan, why: str) -> DaysResult:
    return DaysResult(
        tasks=(),
        days=(),
        begin=round(plan.days.begin * HOUR),
        end=round(plan.days.end * HOUR),
        finish=0,
        finish_text="—",
        range_text="—",
        visits=0,
        visits_text="—",
        warmth_text=warmth_text(plan.days.temperature),
        proven=False,
        slower=cure_times(plan),
        said=(),
        first_text="",
        warned=(),
        first_day=plan.days.start or "",
        none_because=why,
    )


def _slot(
    case: Case,
    one: Placed,
    made: Schedule,
    spare: int,
    found: list[Placed],
    times: float,
    record: Record,
) -> TaskSlot:
    plan, words = case.plan, case.words
    usual, slot = one.usual, made.slots[one.usual.id]
    state = record.state(usual.id)
    signed = next((done.signed for done in plan.days.worked if done.task == usual.id), "")
    if state == "done":
        spare = 0
    waited = ""
    if slot.free > slot.end:
        waited = f"{span_text(slot.free - slot.end)} {usual.wait_for}".strip()
    quick, slow = hands(one, "quick"), hands(one, "slow")
    given = span_text(quick) if quick == slow else f"{span_text(quick)} to {span_text(slow)}"
    inputs = [Input(name="hands, quick to slow", text=given)]
    if one.area:
        inputs.append(Input(name="area", text=words.area(one.area * 1e6)))
    if usual.wait:
        warm = f"wait at {warmth_text(TRADE.tasks.usual_warmth.value)}"
        inputs.append(Input(name=warm, text=span_text(round(usual.wait * HOUR))))
    if usual.wait and times != 1:
        inputs.append(Input(name="times as long", text=f"{times:.2g}"))
    return TaskSlot(
        task=usual.id,
        name=usual.name,
        who=usual.who,
        start=slot.start,
        end=slot.end,
        free=slot.free,
        begins=moment_of(plan, slot.start),
        ends=moment_of(plan, slot.end),
        day_text=day_text(plan, slot.start // DAY),
        begin_text=clock_text(slot.start),
        end_text=clock_text(slot.end),
        hands_text=given,
        wait_text=waited,
        hold=usual.hold,
        agreed=plan.days.day_of(usual.id),
        agreed_text=_day_agreed(plan, one, slot.start),
        spare=spare,
        spare_text=span_text(spare // STEP * STEP) if spare >= STEP else "",
        critical=spare == 0 and state != "done",
        meanwhile=_meanwhile(slot, found, made, usual.id),
        after=one.after,
        state=state,
        signed=signed,
        first_text=first_text(plan, usual.id, slot.end, first_day(plan)),
        own=usual.id in {own.id for own in plan.days.own},
        why=working(
            "begins when all before it is done and waited for, in the hours that are worked",
            inputs,
            source=usual.source,
            note=usual.note,
        ),
    )


def _meanwhile(slot: Slot, found: list[Placed], made: Schedule, itself: str) -> tuple[str, ...]:
    """What the schedule has the crew do while this is waited for."""
    return tuple(
        other.usual.name
        for other in found
        if other.usual.id != itself
        and made.slots[other.usual.id].start < slot.free
        and made.slots[other.usual.id].end > slot.end
    )


def _calendar(plan: Plan, hours: WorkHours, made: Schedule) -> tuple[WorkDay, ...]:
    last = min(max(slot.free for slot in made.slots.values()) // DAY, LATEST)
    first = first_day(plan)
    # However far off a day was agreed: a task is on the list.
    busy = {
        day
        for slot in made.slots.values()
        for day in range(slot.start // DAY, max(slot.end - 1, slot.start) // DAY + 1)
    }
    return tuple(
        WorkDay(
            number=number,
            text=day_text(plan, number),
            date=str(first + number) if plan.days.start else "",
            worked=hours.is_worked(number),
            tasks=tuple(
                one
                for one, slot in made.slots.items()
                if slot.start // DAY <= number <= max(slot.end - 1, slot.start) // DAY
                and hours.is_worked(number)
            ),
        )
        for number in sorted({*range(last + 1), *busy})
    )


def _said(plan: Plan, times: float, made: Schedule) -> tuple[str, ...]:
    said = []
    if plan.days.start is None:
        said.append("No first day is agreed: days are counted from a Monday.")
    if times > 1:
        how = (
            "as typed"
            if plan.days.slower is not None
            else f"at {warmth_text(plan.days.temperature)}"
        )
        why = TRADE.tasks.slower_per_10_degrees.note
        said.append(f"Cures take {times:.2g} times as long, {how}. {why}")
    if not made.proven:
        said.append("There are more orders than were looked at: another may be done sooner.")
    said.append("A hold point stops everything behind it until it is written down.")
    said.append("Licensed trades: agree their days before the first one.")
    return tuple(said)


def day_text(plan: Plan, number: int) -> str:
    """A day in words: its date, or its number where no first day is agreed."""
    if plan.days.start is None:
        return f"Day {number + 1}"
    day = first_day(plan) + number
    _, month, of_month = (int(part) for part in str(day).split("-"))
    return f"{NAMES[weekday(day)]} {of_month} {MONTHS[month - 1]}"


def moment_of(plan: Plan, moment: int) -> str:
    """A moment as the plan writes it; empty where no first day is agreed."""
    return str(first_day(plan) + np.timedelta64(moment, "m")) if plan.days.start else ""


def clock_text(moment: int) -> str:
    """The time of a moment; midnight ends a day."""
    minutes = moment % DAY
    return f"{minutes // HOUR:02d}:{minutes % HOUR:02d}"


def moment_text(plan: Plan, moment: int) -> str:
    """A moment in words."""
    return f"{day_text(plan, moment // DAY)}, {clock_text(moment)}"


def warmth_text(celsius: float) -> str:
    """A temperature in both its units."""
    return f"{celsius:g} °C ({celsius * 9 / 5 + 32:.0f} °F)"


def span_text(minutes: int) -> str:
    """A span of time in words."""
    if minutes < HOUR:
        return f"{minutes} min"
    hours = minutes / HOUR
    return f"{hours:.2f}".rstrip("0").rstrip(".") + " h"
