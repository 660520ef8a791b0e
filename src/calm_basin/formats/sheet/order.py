"""The page of what is bought and how it is cut."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import KeepTogether, Spacer

from calm_basin.core.order.result import CutBar, CutList, OrderLine
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text

BOX = "[   ]"
"""To be ticked with a pencil."""


def _order(sheet: Sheet) -> list[Any]:
    order = sheet.solution.order
    if order is None:
        return []
    told: list[Any] = [text(said) for said in order.said]
    heads = ["", "Buy", "What", "Needed", "Mix, keep back"]
    widths = [0.06, 0.24, 0.26, 0.12, 0.32]
    for where in dict.fromkeys(line.where for line in order.lines):
        rows: list[list[Any]] = [heads]
        rows += [_row(line) for line in order.lines if line.where == where]
        told += [
            Spacer(1, 6),
            KeepTogether([text(where, STRONG), table(rows, [w * sheet.width for w in widths])]),
        ]
    if order.total_text:
        told.append(text(f"In all {order.total_text}", STRONG))
    told += [_cuts(sheet, cuts) for cuts in order.cuts]
    for check in order.kit:
        told.append(text(f"Measure before anything is cut: {check.name}", STRONG))
        told.append(text("; ".join(check.sizes)))
    for one in order.tools:
        told += [text(one.title, STRONG), text(", ".join(one.listed)), text(one.source, SMALL)]
    return told


def _row(line: OrderLine) -> list[Any]:
    done = "bought" if line.bought else BOX
    return [
        done,
        line.buy_text,
        line.name,
        line.needed_text,
        text("; ".join(one for one in (line.water, line.batch, *line.held) if one), SMALL),
    ]


def _cuts(sheet: Sheet, cuts: CutList) -> KeepTogether:
    """One cut list; of sheets with the strips that they are cut into."""
    strips = any(bar.sheet for bar in cuts.bars)
    heads = ["", *(["Sheet", "Strip"] if strips else []), "Cut", "Left"]
    widths = [0.06, 0.1, 0.16, 0.5, 0.18] if strips else [0.06, 0.76, 0.18]
    rows = [
        [str(number), *([str(bar.sheet), bar.width_text] if strips else []), *_bar(bar)]
        for number, bar in enumerate(cuts.bars, start=1)
    ]
    return KeepTogether(
        [
            text(f"Cut list: {cuts.name}, {cuts.bought} × {cuts.stock_text}", STRONG),
            text(cuts.said),
            table([heads, *rows], [w * sheet.width for w in widths]),
            Spacer(1, 8),
        ]
    )


def _bar(bar: CutBar) -> tuple[str, str]:
    return (bar.pieces_text, bar.left_text)


ORDER = Page("order", "What to buy", _order, part="order")
