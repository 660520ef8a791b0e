"""Spot levels as CSV: x, y, reading, kind, and what a kind needs besides."""

from __future__ import annotations

import csv
import io
import re
from dataclasses import dataclass

from pydantic import ValidationError

from calm_basin.plan.reading import problems_of
from calm_basin.plan.survey import (
    MOST_READINGS,
    HeightReading,
    Reading,
    ShimReading,
    StaffReading,
)
from calm_basin.units import Display, UnitError, parse_length

LENGTHS = ("x", "y", "reading", "instrument", "distance")
COLUMNS = ("x", "y", "reading", "kind", "instrument", "direction", "distance")

UNITS = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8}
"""Millimetres in the units that a heading may name."""

MOST_ROWS = 20_000
"""No table of readings has more rows."""

MOST_TOLD = 40
"""So many rows that cannot be read are told one by one."""

_HEADING = re.compile(r"^([a-z]+)(?: ?[(\[] ?(mm|cm|m|in|ft) ?[)\]])?$")
_NUMBER = re.compile(r"^[-−]?(?:\d+(?:\.\d+)?|\.\d+)$")


@dataclass(frozen=True)
class RowError:
    """A row that could not be read; ``row`` counts from 1, the heading being row 1."""

    row: int
    message: str


@dataclass(frozen=True)
class _Table:
    """How the numbers of a table are read: ``units`` are mm for a bare number of each column."""

    units: dict[str, float]
    display: Display
    decimal_commas: bool

    def length(self, name: str, text: str) -> float:
        """A cell's length, mm. In a table a point is a decimal point, whatever follows it."""
        if "," in text and not self.decimal_commas:
            raise UnitError(
                f"“{text[:40]}” has a comma. Part the cells by semicolons, or use a decimal point."
            )
        plain = text.replace(",", ".") if text.count(",") == 1 and "." not in text else text
        thousands = self.decimal_commas and re.fullmatch(r"[-−]?[1-9]\d{0,2}\.\d{3}", text)
        if len(plain) <= 40 and _NUMBER.match(plain) and not thousands:
            return float(plain.replace("−", "-")) * self.units[name]
        return parse_length(text, self.display)


def read_levels(text: str, display: Display) -> tuple[list[Reading], list[RowError]]:
    """Read a CSV with a heading.

    Columns ``x``, ``y`` and ``reading`` are needed; ``kind`` is ``height`` (if it is left out),
    ``staff`` (with ``instrument``, 0 if left out), ``simulated`` (a staff under the stand-in laser)
    or ``shim`` (with ``direction`` in degrees and ``distance``; ``reading`` is the gap). A heading
    may say its unit, as in ``x (mm)``; without one a bare number is in the display's unit. Where
    semicolons part the cells, numbers may have decimal commas. Rows that cannot be read are told
    and left out.
    """
    sample = text.lstrip("\ufeff").replace("\r\n", "\n").replace("\r", "\n")
    first_line = sample.partition("\n")[0]
    commas = ";" in first_line
    rows = csv.reader(io.StringIO(sample), delimiter=";" if commas else ",")
    try:
        heading, units = _heading(next(rows, []), parse_length("1", display))
    except UnitError as error:
        return [], [RowError(1, str(error))]
    except csv.Error as error:
        return [], [RowError(1, f"The heading cannot be parted into cells: {error}.")]
    missing = [name for name in ("x", "y", "reading") if name not in heading]
    if missing:
        return [], [
            RowError(1, f"The heading lacks {', '.join(missing)}. Use {', '.join(COLUMNS)}.")
        ]
    table = _Table(units, display, commas)
    found: list[Reading] = []
    errors: list[RowError] = []
    number, more = 1, 0
    while True:
        number += 1
        if len(errors) > MOST_TOLD:
            errors.pop()
            more += 1
        try:
            cells = next(rows, None)
            if cells is None:
                break
            if number > MOST_ROWS:
                message = f"The table has more than {MOST_ROWS:,} rows. Leave some out."
                errors.append(RowError(number, message))
                break
            if not any(cell.strip() for cell in cells):
                continue
            reading = _reading(_row(cells, heading), table)
            if len(found) == MOST_READINGS:
                message = f"There are more than {MOST_READINGS:,} readings. Leave some out."
                errors.append(RowError(number, message))
                break
            found.append(reading)
        except csv.Error as error:
            errors.append(RowError(number, f"The row cannot be parted into cells: {error}."))
        except UnitError as error:
            errors.append(RowError(number, str(error)))
        except ValidationError as error:
            problem = problems_of(error)[0]
            errors.append(RowError(number, f"{problem.path.removeprefix('/')}: {problem.message}"))
    if more:
        errors.append(RowError(number, f"And {more:,} rows more. Correct these first."))
    return found, errors


def _heading(cells: list[str], bare: float) -> tuple[list[str], dict[str, float]]:
    """Names of the columns, and for each length how many mm a bare number in it counts; ``bare`` of
    them where the heading does not say."""
    names, units = [], dict.fromkeys(LENGTHS, bare)
    for cell in cells:
        match = _HEADING.match(" ".join(cell[:40].lower().split()))
        names.append(match[1] if match else cell[:40].strip().lower())
        if match and match[2]:
            if match[1] not in LENGTHS:
                raise UnitError(
                    f"“{cell[:40].strip()}”: {match[1]} is no length. Leave the unit out."
                )
            units[match[1]] = UNITS[match[2]]
    return names, units


def _row(cells: list[str], heading: list[str]) -> dict[str, str]:
    if len(cells) > len(heading):
        raise UnitError(
            f"The row has {len(cells)} cells and the heading {len(heading)}. Where a number has a "
            "decimal comma, part the cells by semicolons, or use a point."
        )
    return {name: cell.strip() for name, cell in zip(heading, cells, strict=False)}


def _reading(row: dict[str, str], table: _Table) -> Reading:
    def length(name: str, default: str | None = None) -> float:
        value = row.get(name) or default
        if value is None:
            raise UnitError(f"{name} is empty. Fill it in.")
        try:
            return table.length(name, value)
        except UnitError as error:
            raise UnitError(f"{name}: {error}") from None

    kind = row.get("kind", "")[:40].lower() or "height"
    x, y = length("x"), length("y")
    if kind == "height":
        return HeightReading(x=x, y=y, height=length("reading"))
    if kind in ("staff", "simulated"):
        return StaffReading(
            x=x,
            y=y,
            reading=length("reading"),
            instrument=length("instrument", "0"),
            simulated=kind == "simulated",
        )
    if kind == "shim":
        try:
            direction = float(row.get("direction", "")[:40].replace("−", "-"))
        except ValueError:
            raise UnitError("direction: give degrees, such as 90.") from None
        gap, distance = length("reading"), length("distance")
        return ShimReading(x=x, y=y, direction=direction, distance=distance, gap=gap)
    raise UnitError(f"kind: “{kind}” is none of height, staff, shim, simulated.")


def write_levels(levels: tuple[Reading, ...]) -> str:
    """Write readings as CSV in millimetres, and say so: reading it back gives the same."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow([f"{name} (mm)" if name in LENGTHS else name for name in COLUMNS])
    for item in levels:
        if isinstance(item, HeightReading):
            row = [item.x, item.y, item.height, "height", "", "", ""]
        elif isinstance(item, StaffReading):
            kind = "simulated" if item.simulated else "staff"
            row = [item.x, item.y, item.reading, kind, item.instrument, "", ""]
        else:
            row = [item.x, item.y, item.gap, "shim", "", item.direction, item.distance]
        table.writerow(
            [f"{v:.4f}".rstrip("0").rstrip(".") if isinstance(v, float) else v for v in row]
        )
    return out.getvalue()
