"""The page for what happens on site: hold points to sign, and lines to write on."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import Spacer

from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import STRONG, table, text

LINES = 12
"""Empty lines."""


def _log(sheet: Sheet) -> list[Any]:
    days = sheet.solution.days
    if days is None or not days.tasks:
        return []
    holds = [slot for slot in days.tasks if slot.hold]
    rows: list[list[Any]] = [["Hold point", "Day", "Reading", "Signed"]]
    rows += [[slot.name, slot.day_text, "", slot.signed] for slot in holds]
    blank: list[list[Any]] = [["Day, time", "What was done, read or changed", "Signed"]]
    blank += [["\u00a0", "", ""] for _ in range(LINES)]
    shares = (0.4, 0.15, 0.25, 0.2)
    return [
        text("Nothing goes on past a hold point that is not signed.", STRONG),
        table(rows, [share * sheet.width for share in shares]),
        Spacer(1, 10),
        table(blank, [share * sheet.width for share in (0.18, 0.64, 0.18)]),
    ]


LOG = Page("log", "Site log", _log, part="days")
