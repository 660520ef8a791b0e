"""The page of all that is marked, and of the card to check the bed with."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import CondPageBreak, KeepTogether, Spacer

from calm_basin.core.setting_out.result import CheckLine, Mark
from calm_basin.formats.sheet.page import HEAD, Page, Sheet
from calm_basin.formats.sheet.style import STRONG, table, text

MOST_KEPT = 8
"""Groups of fewer rows are not parted."""

COLUMNS = ("", "Mark", "Where", "Check", "Staff")
SHARES = (0.05, 0.26, 0.4, 0.19, 0.1)


def _marks(sheet: Sheet) -> list[Any]:
    result = sheet.solution.marks
    if result is None:
        return []
    told: list[Any] = [text(result.measured_from)]
    for stale in result.stale:
        told.append(
            text(f"Holds no more: {stale.noted.name}, {stale.from_text}. {stale.said}", STRONG)
        )
    for group in result.groups:
        head = [Spacer(1, 6), text(group.title, STRONG), text(group.said)]
        rows = [list(COLUMNS), *(row for mark in group.marks for row in _rows(mark))]
        drawn = table(rows, [share * sheet.width for share in SHARES])
        short = len(rows) < MOST_KEPT
        told += [KeepTogether([*head, drawn])] if short else [CondPageBreak(HEAD), *head, drawn]
    if result.pins.none_because:
        told.append(text(result.pins.none_because))
    told += [_card(sheet, line) for line in result.pins.lines]
    return told


def _rows(mark: Mark) -> list[list[Any]]:
    """The rows of one mark, one a place: a box to tick, or a tick."""
    cut = f"cut to {mark.cut_text}" if mark.cut_text else ""
    said = ": ".join([mark.name, ", ".join(one for one in (mark.text, cut) if one)])
    places = mark.places
    first = [places[0].from_text, places[0].check_text] if places else ["round the walls", ""]
    rows = [["x" if mark.noted else "[ ]", text(said), text(first[0]), text(first[1])]]
    rows[0].append(mark.staff_text)
    rows += [["", "", text(f"to {p.from_text}"), text(p.check_text), ""] for p in places[1:]]
    return rows


def _card(sheet: Sheet, line: CheckLine) -> KeepTogether:
    card = [["From the rim", *line.distances], ["Rises", *line.rises]]
    share = sheet.width / max(len(line.distances) + 1, 4)
    drawn = table(card, [share] * (len(line.distances) + 1), head=False)
    return KeepTogether([text(f"Check: {line.name}", STRONG), drawn])


MARKS = Page("marks", "Setting out and check card", _marks, part="marks")
