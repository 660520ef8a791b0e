"""The page of what is done on which day."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import Spacer

from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import STRONG, table, text


def _days(sheet: Sheet) -> list[Any]:
    days = sheet.solution.days
    if days is None or not days.tasks:
        return []
    told: list[Any] = [text(f"Done {days.finish_text}; {days.visits_text}", STRONG)]
    told += [text(said, STRONG) for said in (days.first_text, *days.warned) if said]
    told += [text(said) for said in days.said]
    rows: list[list[Any]] = [["Day", "From", "To", "Task", "Who", "Then wait"]]
    for slot in days.tasks:
        name = slot.name
        if slot.hold:
            name = f"{name} (hold point: signed {slot.signed or '____'})"
        who = f"{slot.who}, {slot.agreed_text}" if slot.agreed_text else slot.who
        rows.append([slot.day_text, slot.begin_text, slot.end_text, name, who, slot.wait_text])
    widths = [w * sheet.width for w in (0.13, 0.08, 0.08, 0.33, 0.16, 0.22)]
    return [*told, Spacer(1, 6), table(rows, widths)]


DAYS = Page("days", "Days", _days, part="days")
