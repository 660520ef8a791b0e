"""The page of the floor as it was read: its levels, what makes it true, marks for the cleats."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import Spacer

from calm_basin.core.answer.words import Words
from calm_basin.core.survey.result import FloorResult
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import STRONG, table, text

MOST_READINGS = 60
"""So many readings are listed, evenly taken from all there are: a laser may read thousands."""


def _levels(sheet: Sheet) -> list[Any]:
    floor = sheet.solution.survey.floor
    if floor is None:
        return []
    words, width = Words.of(sheet.plan), sheet.width
    told: list[Any] = [text(f"{floor.base_name}. {floor.verdict_text}", STRONG)]
    told += [text(remark) for remark in floor.remarks]
    figures = (floor.range, floor.under_shower, floor.tilt, floor.crown, floor.flatness)
    rows = [[one.label, one.text, one.working.formula] for one in figures]
    told.append(table(rows, [w * width for w in (0.28, 0.18, 0.54)], head=False))
    for way in floor.truings:
        if way.chosen:
            told.append(text(way.title, STRONG))
            told += [text(f"{item.name}: {item.text}") for item in way.figures]
            told += [text(line) for line in way.advice]
    told += [*_readings(words, floor, width), *_cleats(words, floor, width)]
    return told


def _readings(words: Words, floor: FloorResult, width: float) -> list[Any]:
    every = max(-(-len(floor.soundings) // MOST_READINGS), 1)
    listed = floor.soundings[::every]
    rows: list[list[Any]] = [["Right", "Up", "Below the high spot"]]
    rows += [[words.length(one.x), words.length(one.y), words.length(one.depth)] for one in listed]
    head = "What was read"
    if every > 1:
        head += f": one of {every}, of {len(floor.soundings)} in all"
    return [Spacer(1, 6), text(head, STRONG), table(rows, [w * width for w in (0.2, 0.2, 0.3)])]


def _cleats(words: Words, floor: FloorResult, width: float) -> list[Any]:
    if not floor.cleats:
        return []
    rows: list[list[Any]] = [["Joist", "Right", "Up", "Cleat below the joist's top"]]
    rows += [
        [str(joist.joist), words.length(mark.x), words.length(mark.y), mark.text]
        for joist in floor.cleats
        for mark in joist.marks
    ]
    return [
        Spacer(1, 6),
        text("Marks for the cleats, to a level line", STRONG),
        table(rows, [w * width for w in (0.12, 0.2, 0.2, 0.36)]),
    ]


LEVELS = Page("levels", "The floor as it was read", _levels)
