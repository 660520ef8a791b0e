"""Screed pins as CSV, in laying order and the plan's own unit."""

from __future__ import annotations

import csv
import io

from calm_basin.core.setting_out.result import PinsResult

COLUMNS = (
    "pin",
    "at",
    "stands on",
    "x",
    "y",
    "cut to",
    "staff reading",
    "cut to mm",
    "x mm",
    "y mm",
)


def write_pins(result: PinsResult, texts: list[tuple[str, str]]) -> str:
    """Write pins, one a row; ``texts`` are their places as the plan's display prints them."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(COLUMNS)
    for pin, (x, y) in zip(result.pins, texts, strict=True):
        table.writerow(
            [
                pin.number,
                pin.kind,
                pin.on,
                x,
                y,
                pin.text,
                pin.staff_text,
                f"{pin.cut:.2f}",
                f"{pin.x:.1f}",
                f"{pin.y:.1f}",
            ]
        )
    return out.getvalue()
