"""The page of getting in: for whom, which spaces, what is stepped over."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import Spacer

from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import STRONG, table, text
from calm_basin.formats.sheet.texts import shares, working
from calm_basin.rules import TRADE


def _access(sheet: Sheet) -> list[Any]:
    found = sheet.solution.access
    if found is None:
        return []
    names = [TRADE.people.by_id[user].name for user in sheet.plan.users]
    figures: list[list[Any]] = [["Figure", "Value", "How it comes about"]]
    figures += [[f.label, text(f.text, STRONG), working(f)] for f in found.figures]
    spaces: list[list[Any]] = [["Space", "What there is", "Whose"]]
    spaces += [
        [one.name, text(" ".join((one.text, one.state)).strip(), STRONG), one.asked]
        for one in found.spaces
    ]
    edges: list[list[Any]] = [["Stepped over", "How", ""]]
    edges += [
        [one.name, text(one.text, STRONG), "" if one.enough else "more than the rules allow"]
        for one in found.thresholds
    ]
    return [
        text(f"For: {', '.join(names)}. {found.asked}"),
        Spacer(1, 6),
        table(figures, shares(sheet, 0.24, 0.2, 0.56)),
        Spacer(1, 6),
        table(spaces, shares(sheet, 0.34, 0.3, 0.36)),
        Spacer(1, 6),
        table(edges, shares(sheet, 0.34, 0.36, 0.3)),
        *(text(said) for said in found.unmeasured),
    ]


ACCESS = Page("access", "Getting in", _access)
