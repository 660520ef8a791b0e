"""What is marked on floor and walls as CSV, in the order of work and the plan's own unit."""

from __future__ import annotations

import csv
import io

from calm_basin.core.setting_out.result import MarksResult
from calm_basin.formats.cells import plain

COLUMNS = (
    "group",
    "mark",
    "what",
    "cut to",
    "staff reads",
    "end",
    "where",
    "check",
    "marked",
    "x mm",
    "y mm",
    "height mm",
)


def write_marks(result: MarksResult) -> str:
    """Write marks, a row a place of each: a line has two; at the end what holds no more."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(COLUMNS)
    for group in result.groups:
        for mark in group.marks:
            height = "" if mark.marked.height is None else f"{mark.marked.height:.2f}"
            told = (group.title, mark.name, mark.text, mark.cut_text, mark.staff_text)
            said = [plain(cell) for cell in told]
            done = "yes" if mark.noted else ""
            if not mark.places:
                table.writerow([*said, "", "round the walls", "", done, "", "", height])
            for number, place in enumerate(mark.places):
                x, y = place.at
                end = "AB"[number] if len(mark.places) > 1 else ""
                where = [end, plain(place.from_text), plain(place.check_text)]
                table.writerow([*said, *where, done, f"{x:.1f}", f"{y:.1f}", height])
    for stale in result.stale:
        said = ["Holds no more", plain(stale.noted.name), plain(stale.said), "", "", ""]
        table.writerow([*said, plain(stale.from_text), "", "yes", "", "", ""])
    return out.getvalue()
