"""The days of a job as iCalendar (RFC 5545) and as CSV."""

from __future__ import annotations

import csv
import io
from datetime import UTC, datetime, timedelta

from icalendar import Calendar, Event, vText

from calm_basin.core.days.result import DaysResult, TaskSlot
from calm_basin.formats.cells import plain

COLUMNS = (
    "day",
    "begins",
    "ends",
    "task",
    "who",
    "hands",
    "wait",
    "hold point",
    "may end later by",
    "state",
    "signed",
    "to what was first agreed",
)


def write_calendar(days: DaysResult, *, job: str, uid: str, first: str, made: datetime) -> bytes:
    """One calendar of the job, an event a task; read in again it moves the same entries.

    Parameters
    ----------
    days : DaysResult
    job : str
        What the calendar is called.
    uid : str
        The job's own id: with the task's it makes the event's.
    first : str
        The first day, ISO 8601: times are those of the site, of no time zone.
    made : datetime
        When it was made.
    """
    begin, called = datetime.fromisoformat(first), " ".join(job.split())
    calendar = Calendar()
    calendar.add("prodid", "-//Calm Basin//Days//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", vText(called))
    for slot in days.tasks:
        event = Event()
        event.add("uid", f"{slot.task}.{uid}@calm-basin")
        event.add("dtstamp", made.astimezone(UTC))
        event.add("dtstart", begin + timedelta(minutes=slot.start))
        event.add("dtend", begin + timedelta(minutes=slot.end))
        event.add("summary", f"{slot.name} · {called}")
        event.add("description", _told(slot))
        event.add("categories", ["hold point" if slot.hold else slot.who])
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def _told(slot: TaskSlot) -> str:
    told = [f"By: {slot.who}."]
    if slot.wait_text:
        told.append(f"Then wait {slot.wait_text}.")
    if slot.hold:
        told.append("Hold point: written down before anything goes on.")
    return " ".join(told)


def write_days(days: DaysResult) -> str:
    """The tasks as CSV, in the order of the work."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(COLUMNS)
    for slot in days.tasks:
        rows.writerow(
            plain(cell)
            for cell in (
                slot.day_text,
                slot.begin_text,
                slot.end_text,
                slot.name,
                slot.who,
                slot.hands_text,
                slot.wait_text,
                "yes" if slot.hold else "",
                slot.spare_text,
                slot.state,
                slot.signed,
                slot.first_text,
            )
        )
    return out.getvalue()
