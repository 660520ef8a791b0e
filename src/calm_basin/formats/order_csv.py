"""What is bought and how it is cut, as CSV: a line a thing, grouped by where it is bought."""

from __future__ import annotations

import csv
import io

from calm_basin.core.order.result import OrderResult
from calm_basin.formats.cells import plain

COLUMNS = (
    "where",
    "item",
    "needed",
    "waste",
    "pack",
    "buy",
    "price",
    "cost",
    "bought",
    "on site",
    "checked",
    "held back",
    "water",
    "mixing",
)

CUTS = ("cut list", "number", "sheet", "strip", "cut", "left")


def write_order(order: OrderResult) -> str:
    """The order as CSV; a cell that a spreadsheet would work out is told as text."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(COLUMNS)
    for where in dict.fromkeys(line.where for line in order.lines):
        for line in order.lines:
            if line.where != where:
                continue
            price = "" if line.price is None else f"{line.price:.2f}"
            ticks = (_tick(line.bought), _tick(line.on_site), _tick(line.checked))
            told = (where, line.name, line.needed_text, line.waste_text, line.pack_text)
            heed = ("; ".join(line.held), line.water, line.batch)
            cells = (*told, line.buy_text, price, line.cost_text, *ticks, *heed)
            rows.writerow([plain(cell) for cell in cells])
    return out.getvalue()


def write_cuts(order: OrderResult) -> str:
    """How lengths and sheets are cut, a line a length or strip."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(CUTS)
    for cuts in order.cuts:
        for number, bar in enumerate(cuts.bars, start=1):
            sheet = str(bar.sheet or "")
            row = (cuts.name, str(number), sheet, bar.width_text, bar.pieces_text, bar.left_text)
            rows.writerow([plain(cell) for cell in row])
    return out.getvalue()


def _tick(done: bool) -> str:
    return "yes" if done else ""
