"""The pages of the build system: its cards, the panels' cuts, heights and lengths at the drain."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import KeepTogether, Spacer

from calm_basin.core.depth.result import Chain
from calm_basin.core.systems.result import Instruction
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text
from calm_basin.formats.sheet.texts import shares


def _system(sheet: Sheet) -> list[Any]:
    system = sheet.solution.system
    if system is None:
        return []
    return [
        text(system.name, STRONG),
        text(system.says),
        Spacer(1, 6),
        *(KeepTogether(_card(sheet, card)) for card in system.cards),
        text("The product's own text comes first.", SMALL),
    ]


def _card(sheet: Sheet, card: Instruction) -> list[Any]:
    told: list[Any] = [text(card.title, STRONG)]
    if card.named:
        rows: list[list[Any]] = [["", ""]]
        rows += [[one.name, text(one.text)] for one in card.named]
        told.append(table(rows, shares(sheet, 0.34, 0.66)))
    told += [text(f"• {line}") for line in card.lines]
    return [*told, text(card.source, SMALL), Spacer(1, 8)]


def _drain(sheet: Sheet) -> list[Any]:
    told: list[Any] = []
    for chain in sheet.solution.chains:
        told.append(KeepTogether(_chain(sheet, chain)))
    panels = sheet.solution.panels
    if panels is not None:
        told.append(text(f"Panels: {panels.verdict}", STRONG))
        for side in panels.sides:
            told.append(text(f"{side.name}: {side.text}"))
            told += [text(f"• {line}") for line in side.said]
    return told


def _chain(sheet: Sheet, chain: Chain) -> list[Any]:
    rows: list[list[Any]] = [[chain.title, ""]]
    rows += [[part.name, text(f"{part.text} {part.do}".strip(), STRONG)] for part in chain.parts]
    return [
        table(rows, shares(sheet, 0.6, 0.4)),
        *(text(f"• {line}") for line in chain.said),
        text(chain.source, SMALL),
        Spacer(1, 8),
    ]


SYSTEM = Page("system", "How it is bedded and put in", _system)
DRAIN = Page("drain", "Heights and lengths at the drain", _drain)
