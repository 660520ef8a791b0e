"""The pages of what lies under the floor: the deck cut sheet, the waste with its profile, and the
riser card."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from reportlab.lib.colors import Color, white
from reportlab.platypus import Spacer

from calm_basin.core.answer.result import XY
from calm_basin.core.structure.result import BodyMark, CutSheet
from calm_basin.core.waste.result import RunMark
from calm_basin.formats.sheet.drawing import GREY, LIGHT, Drawing, PlanDrawing
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text
from calm_basin.formats.sheet.texts import shares, working

DASHES = {
    "cleat": ((3, 2), 0.9),
    "plate cleat": ((8, 2, 2, 2), 1.6),
    "edge": ((), 1.6),
    "blocking": ((), 2.6),
    "added joist": ((1, 1), 2.6),
}
"""How battens are drawn, dashes and width in points."""


class DeckDrawing(PlanDrawing):
    """Saw lines, pieces that go back, cleats, blocking and the hole, at a stated scale."""

    def __init__(self, sheet: Sheet, cut: CutSheet, bodies: Sequence[BodyMark]) -> None:
        self.cut, self.bodies = cut, bodies
        super().__init__(sheet, [line.start for line in cut.saw_lines], (0.9, 0.42))

    def draw(self) -> None:
        for number, piece in enumerate(self.cut.pieces, start=1):
            corners = [self.at(p) for p in piece.outline]
            self.shape(corners, fill=GREY if piece.loose else LIGHT)
            middle = (
                sum(x for x, _ in corners) / len(corners),
                sum(y for _, y in corners) / len(corners),
            )
            self.written(middle, str(number))
        for bar in self.cut.battens:
            dashes, width = DASHES[bar.kind]
            self.canv.setDash(list(dashes))
            self.canv.setLineWidth(width)
            self.canv.line(*self.at(bar.start), *self.at(bar.end))
        self.canv.setDash([])
        for body in self.bodies:
            if body.part == "hole":
                self.shape([self.at(p) for p in body.outline], fill=white, width=1.2)
        self.canv.setDash([6, 3])
        self.shape([self.at(line.start) for line in self.cut.saw_lines], width=1.8)
        self.canv.setDash([])


class ProfileDrawing(Drawing):
    """The waste's run drawn out straight; heights are drawn larger than lengths."""

    def __init__(self, sheet: Sheet, run: RunMark) -> None:
        self.run = run
        super().__init__(sheet.width, 150.0)
        profile = run.profile
        self.across = (self.width - 20) / max(profile.length, 1.0)
        self.up = (self.height - 24) / (profile.top - profile.bottom)

    def at(self, place: XY) -> XY:
        """A distance and a height on the drawing."""
        along, height = place
        return 10 + along * self.across, 18 + (height - self.run.profile.bottom) * self.up

    def box(self, start: float, end: float, low: float, high: float, fill: Color) -> None:
        """A rectangle between two distances and two heights."""
        corners = [(start, low), (end, low), (end, high), (start, high)]
        self.shape([self.at(corner) for corner in corners], fill=fill)

    def draw(self) -> None:
        profile = self.run.profile
        half = profile.pipe / 2
        self.box(0, profile.length, -profile.deck, 0, LIGHT)
        for timber in profile.timbers:
            self.box(timber.start, timber.end, timber.bottom, timber.top, GREY)
            if timber.low is not None and timber.high is not None:
                self.box(timber.start, timber.end, timber.low - half, timber.high + half, white)
            middle = (timber.start + timber.end) / 2
            x, _ = self.at((middle, 0))
            if 40 < x < self.width - 40:
                self.written((x, 8), timber.name)
        upper = [self.at((s, z + half)) for s, z in profile.levels]
        lower = [self.at((s, z - half)) for s, z in reversed(profile.levels)]
        self.shape([*upper, *lower], width=1.4)
        if profile.ceiling is not None:
            self.canv.setLineWidth(2)
            start, end = self.at((0, profile.ceiling)), self.at((profile.length, profile.ceiling))
            self.canv.line(*start, *end)
        self.written((22, 8), "trap")
        self.written((self.width - 22, 8), "stack")


def _deck(sheet: Sheet) -> list[Any]:
    structure = sheet.solution.structure
    if structure is None or structure.sheet is None:
        return []
    cut = structure.sheet
    drawing = DeckDrawing(sheet, cut, structure.bodies)
    lines: list[list[Any]] = [["Saw from", "to", "Long"]]
    lines += [
        [line.start_text, line.end_text, text(line.length_text, STRONG)] for line in cut.saw_lines
    ]
    figures: list[list[Any]] = [["Figure", "Value", "How it comes about"]]
    figures += [
        [f.label, text(f.text, STRONG), working(f)]
        for f in (cut.blade, cut.set_down, cut.cleats)
        if f is not None
    ]
    loose = "loose until the waste is tested"
    pieces = " · ".join(
        f"{number}: {piece.text}{f' ({loose})' if piece.loose else ''}"
        for number, piece in enumerate(cut.pieces, start=1)
    )
    return [
        drawing,
        text(
            f"Scale 1:{drawing.scale}. Long dashes: saw. Short dashes: cleats along the joists. "
            "Thick: blocking; less thick: under the edge that stays. Grey: the loose panel under "
            "the waste.",
            SMALL,
        ),
        Spacer(1, 6),
        table(lines, shares(sheet, 0.4, 0.4, 0.2)),
        Spacer(1, 6),
        table(figures, shares(sheet, 0.3, 0.2, 0.5)),
        Spacer(1, 6),
        *([text(f"Pieces that go back: {pieces}")] if pieces else []),
        *(text(f"{number}. {step}") for number, step in enumerate(cut.steps, start=1)),
    ]


def _waste(sheet: Sheet) -> list[Any]:
    waste, structure = sheet.solution.waste, sheet.solution.structure
    if waste is None or structure is None or (waste.run is None and not waste.trench):
        return []
    told: list[Any] = [text(waste.verdict, STRONG), *(text(said) for said in waste.missing)]
    if waste.run is not None:
        told += [ProfileDrawing(sheet, waste.run), text("Heights are drawn larger.", SMALL)]
        rows: list[list[Any]] = [["Timber", "Pipe's middle", "Passes by", "May lie"]]
        rows += [
            [
                one.name,
                text(one.level_text, STRONG),
                one.hole_text or "does not pass",
                one.limit_text,
            ]
            for one in waste.run.passed
        ]
        if waste.run.passed:
            told += [Spacer(1, 6), table(rows, shares(sheet, 0.16, 0.24, 0.28, 0.32))]
    figures: list[list[Any]] = [["Figure", "Value", "How it comes about"]]
    figures += [
        [f.label, text(f.text, STRONG), working(f)]
        for f in (*waste.figures, *structure.figures, *waste.trench)
    ]
    told += [Spacer(1, 6), table(figures, shares(sheet, 0.28, 0.22, 0.5)), Spacer(1, 6)]
    told += [text(f"• {said}") for said in (*structure.notes, *waste.reminders)]
    return told


def _riser(sheet: Sheet) -> list[Any]:
    card = sheet.solution.waste and sheet.solution.waste.riser
    if not card:
        return []
    return [
        text(card.title, STRONG),
        *(text(f"• {said}") for said in card.said),
        text("In this order", STRONG),
        *(text(f"{number}. {step}") for number, step in enumerate(card.order, start=1)),
        text(f"Before it is covered: {card.check}", STRONG),
        text(f"{card.source}. The product's own text comes first.", SMALL),
    ]


DECK = Page("deck", "Deck cut", _deck)
WASTE = Page("waste", "The waste under the floor", _waste)
RISER = Page("riser", "Riser card", _riser)
