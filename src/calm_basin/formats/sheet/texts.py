"""The pages that are words: key figures, findings, ways to the depth, cautions."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import KeepTogether, Spacer

from calm_basin.core.answer.build import SAID
from calm_basin.core.answer.result import Figure, Finding
from calm_basin.core.tile.result import TiledFloor
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text


def _figures(sheet: Sheet) -> list[Any]:
    rows: list[list[Any]] = [["Figure", "Value", "How it comes about"]]
    rows += [
        [figure.label, text(figure.text, STRONG), working(figure)]
        for _, figure in sheet.solution.figures
    ]
    resting = sheet.solution.assumed.text
    said = [text(f"All of it {resting}: see their page.", STRONG), Spacer(1, 6)] if resting else []
    return [*said, table(rows, shares(sheet, 0.24, 0.2, 0.56))]


def _assumed(sheet: Sheet) -> list[Any]:
    listed = sheet.solution.assumed.listed
    if not listed:
        return [text("Every measure was typed or confirmed.")]
    rows: list[list[Any]] = [["Measure on site", "Assumed", "Measured"]]
    rows += [[item.name, item.text, ""] for item in listed]
    return [table(rows, shares(sheet, 0.5, 0.2, 0.3))]


def working(told: Figure | TiledFloor) -> list[Any]:
    working = told.working
    inputs = " · ".join(f"{item.name} {item.text}" for item in working.inputs)
    lines = [working.formula, inputs, working.note, working.source]
    return [text(line, SMALL) for line in lines if line]


def _findings(sheet: Sheet) -> list[Any]:
    found = sheet.solution.findings
    told = [KeepTogether(_finding(finding)) for finding in found]
    if not found:
        told = [text(f"Nothing in this plan breaks {sheet.solution.rule_set}.")]
    return [*told, *_own_values(sheet)]


def _own_values(sheet: Sheet) -> list[Any]:
    """The limits that the job keeps at values of its own: a reader has to know."""
    own = sheet.solution.own_values
    if not own:
        return []
    rows: list[list[Any]] = [["Limit", "Kept at", "Why"]]
    rows += [[one.title, text(one.text, STRONG), text(one.note, SMALL)] for one in own]
    head = text("Limits that this job keeps at values of its own", STRONG)
    return [head, Spacer(1, 6), table(rows, shares(sheet, 0.3, 0.2, 0.5))]


def _finding(finding: Finding) -> list[Any]:
    word = SAID[finding.severity].upper()
    told = [text(f"{word}: {finding.title}", STRONG), text(finding.detail)]
    if finding.limit_text:
        told.append(text(f"Here {finding.measured_text}; {finding.limit_text}."))
    told.append(text(f"For {finding.applies_to}. {finding.source}", SMALL))
    for cure in finding.cures:
        then = f" Then: {'; '.join(cure.opens)}." if cure.opens else ""
        told.append(text(f"• {cure.text}.{then}"))
    return [*told, Spacer(1, 6)]


def _depth(sheet: Sheet) -> list[Any]:
    ways, bar = sheet.solution.ways, sheet.solution.depth
    if ways is None or bar is None:
        return []
    parts: list[list[Any]] = [["Build-up", ""]]
    parts += [[part.name, text(part.text, STRONG)] for part in bar.segments]
    parts.append(["in all, from the room's floor down", text(bar.total_text, STRONG)])
    rows: list[list[Any]] = [["Way", "Recess", "Steps: entry, door", "Takes", "Watch"]]
    rows += [
        [
            text(way.title, STRONG),
            [text(way.recess_text, STRONG), text(way.left_text, SMALL)],
            text(f"{way.step_text}, {way.door_text}", SMALL),
            text(f"{way.material}; {way.days}", SMALL),
            text("; ".join((way.forbids, *(f"then: {one}" for one in way.opens))), SMALL),
        ]
        for way in ways.listed
    ]
    return [
        table(parts, shares(sheet, 0.6, 0.4)),
        Spacer(1, 8),
        table(rows, shares(sheet, 0.22, 0.14, 0.14, 0.22, 0.28)),
        Spacer(1, 6),
        text("What goes deeper into joists or a slab is for an engineer.", SMALL),
    ]


def _cautions(sheet: Sheet) -> list[Any]:
    return [text(f"• {caution.text}") for caution in sheet.solution.cautions]


def shares(sheet: Sheet, *shares: float) -> list[float]:
    return [share * sheet.width for share in shares]


FIGURES = Page("figures", "Key figures, each with its working", _figures)
ASSUMED = Page("assumed", "What is only assumed", _assumed)
FINDINGS = Page("findings", "Findings", _findings)
DEPTH = Page("depth", "Options for more depth", _depth, part="ways")
CAUTIONS = Page("cautions", "Before you cut", _cautions)
