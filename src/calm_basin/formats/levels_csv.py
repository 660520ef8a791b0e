"""Spot levels as CSV: x, y, reading, kind, and what a kind needs besides."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass

from pydantic import ValidationError

from calm_basin.plan.model import HeightReading, Reading, ShimReading, StaffReading
from calm_basin.plan.reading import problems_of
from calm_basin.units import Display, UnitError, parse_length

COLUMNS = ("x", "y", "reading", "kind", "instrument", "direction", "distance")


@dataclass(frozen=True)
class RowError:
    """A row that could not be read; ``row`` counts from 1, the heading being row 1."""

    row: int
    message: str


def read_levels(text: str, display: Display) -> tuple[list[Reading], list[RowError]]:
    """Read a CSV with a heading. Lengths are read as typed in the display's unit.

    Columns ``x``, ``y`` and ``reading`` are needed; ``kind`` is ``height`` (if it is left out),
    ``staff`` (with ``instrument``, 0 if left out) or ``shim`` (with ``direction`` in degrees and
    ``distance``; ``reading`` is the gap). Rows that cannot be read are told and left out.
    """
    sample = text.lstrip("\ufeff")
    delimiter = ";" if sample.partition("\n")[0].count(";") else ","
    rows = csv.DictReader(io.StringIO(sample), delimiter=delimiter)
    heading = {(name or "").strip().lower() for name in rows.fieldnames or ()}
    missing = [name for name in ("x", "y", "reading") if name not in heading]
    if missing:
        return [], [
            RowError(1, f"The heading lacks {', '.join(missing)}. Use {', '.join(COLUMNS)}.")
        ]
    found: list[Reading] = []
    errors = []
    for number, raw in enumerate(rows, start=2):
        row = {
            (k or "").strip().lower(): (v or "").strip()
            for k, v in raw.items()
            if isinstance(v, str)
        }
        if not any(row.values()):
            continue
        try:
            found.append(_reading(row, display))
        except UnitError as error:
            errors.append(RowError(number, str(error)))
        except ValidationError as error:
            problem = problems_of(error)[0]
            errors.append(RowError(number, f"{problem.path.removeprefix('/')}: {problem.message}"))
    return found, errors


def _reading(row: dict[str, str], display: Display) -> Reading:
    def length(name: str, default: str | None = None) -> float:
        value = row.get(name) or default
        if value is None:
            raise UnitError(f"{name} is empty. Fill it in.")
        try:
            return parse_length(value, display)
        except UnitError as error:
            raise UnitError(f"{name}: {error}") from None

    kind = row.get("kind", "").lower() or "height"
    x, y = length("x"), length("y")
    if kind == "height":
        return HeightReading(x=x, y=y, height=length("reading"))
    if kind == "staff":
        return StaffReading(
            x=x, y=y, reading=length("reading"), instrument=length("instrument", "0")
        )
    if kind == "shim":
        try:
            direction = float(row.get("direction", ""))
        except ValueError:
            raise UnitError("direction: give degrees, such as 90.") from None
        gap, distance = length("reading"), length("distance")
        return ShimReading(x=x, y=y, direction=direction, distance=distance, gap=gap)
    raise UnitError(f"kind: “{kind}” is none of height, staff, shim.")


def write_levels(levels: tuple[Reading, ...]) -> str:
    """Write readings as CSV in millimetres, so that reading it back gives the same."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(COLUMNS)
    for item in levels:
        if isinstance(item, HeightReading):
            row = [item.x, item.y, item.height, "height", "", "", ""]
        elif isinstance(item, StaffReading):
            row = [item.x, item.y, item.reading, "staff", item.instrument, "", ""]
        else:
            row = [item.x, item.y, item.gap, "shim", "", item.direction, item.distance]
        table.writerow(
            [f"{v:.4f}".rstrip("0").rstrip(".") if isinstance(v, float) else v for v in row]
        )
    return out.getvalue()
