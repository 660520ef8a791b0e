"""The page of screed pins and of the card to check the bed with."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import KeepTogether, Spacer

from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import STRONG, table, text


def _pins(sheet: Sheet) -> list[Any]:
    result = sheet.solution.pins
    if result is None:
        return []
    told: list[Any] = []
    if result.none_because:
        told.append(text(result.none_because))
    else:
        told.append(text(f"Measured from {result.stands_on}. {result.cost}"))
        rows: list[list[Any]] = [["Pin", "At", "From", "Cut to", "Staff"]]
        rows += [
            [str(pin.number), pin.kind, pin.from_text, pin.text, pin.staff_text]
            for pin in result.pins
        ]
        told += [
            Spacer(1, 6),
            table(rows, [w * sheet.width for w in (0.1, 0.12, 0.42, 0.18, 0.18)]),
        ]
    for line in result.lines:
        card = [["From the rim", *line.distances], ["Rises", *line.rises]]
        share = sheet.width / max(len(line.distances) + 1, 4)
        drawn = table(card, [share] * (len(line.distances) + 1), head=False)
        told.append(KeepTogether([text(f"Check: {line.name}", STRONG), drawn]))
    return told


PINS = Page("pins", "Screed pins and check card", _pins, part="pins")
