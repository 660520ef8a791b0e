"""The page by which a stock tray is cut: from above and turned over."""

from __future__ import annotations

from typing import Any

from reportlab.lib.colors import black, white
from reportlab.lib.units import mm
from reportlab.platypus import Spacer

from calm_basin.core.answer.result import XY
from calm_basin.core.depth.result import TrayLayout
from calm_basin.formats.sheet.drawing import GREY, Drawing
from calm_basin.formats.sheet.page import Page, Sheet, scale_for
from calm_basin.formats.sheet.style import BOLD, SMALL, STRONG, table, text
from calm_basin.formats.sheet.texts import shares

FIGURE_SIZE = 15
"""Points: read at arm's length."""


class TrayDrawing(Drawing):
    """The tray as delivered, what is left of it, and the measures from its own drain."""

    def __init__(self, sheet: Sheet, tray: TrayLayout, under: bool) -> None:
        self.tray, self.under = tray, under
        places = [self.seen(p) for p in (*tray.outline, *tray.kept)]
        self.left, self.bottom = min(x for x, _ in places), min(y for _, y in places)
        wide = max(x for x, _ in places) - self.left
        deep = max(y for _, y in places) - self.bottom
        self.scale = scale_for(
            lambda scale: (
                wide * mm / scale <= sheet.width * 0.9 and deep * mm / scale <= sheet.height * 0.26
            )
        )
        super().__init__(wide * mm / self.scale + 12, deep * mm / self.scale + 12)

    def seen(self, place: XY) -> XY:
        """A place of the tray as it is looked at: turned over, left and right change places."""
        return (-place[0], place[1]) if self.under else place

    def at(self, place: XY) -> XY:
        """A place of the tray on the drawing."""
        x, y = self.seen(place)
        factor = mm / self.scale
        return (x - self.left) * factor + 6, (y - self.bottom) * factor + 6

    def draw(self) -> None:
        self.canv.setDash(4, 3)
        self.shape([self.at(p) for p in self.tray.outline], fill=GREY)
        self.canv.setDash()
        self.shape([self.at(p) for p in self.tray.kept], fill=white)
        self.shape([self.at(p) for p in self.tray.rim], fill=black)
        if self.tray.joint:
            (x0, y0), (x1, y1) = (self.at(p) for p in self.tray.joint)
            self.canv.setDash(8, 3)
            self.canv.line(x0, y0, x1, y1)
            self.canv.setDash()
        kept = [self.at(p) for p in self.tray.kept]
        centre = tuple(sum(p[i] for p in kept) / len(kept) for i in (0, 1))
        drain = self.at((0.0, 0.0))
        for side in self.tray.sides:
            start, end = self.at(side.start), self.at(side.end)
            self.canv.setLineWidth(2.2 if side.state != "as delivered" else 1.0)
            if side.state == "missing":
                self.canv.setDash(2, 4)
            self.canv.line(*start, *end)
            self.canv.setDash()
            middle = ((start[0] + end[0]) / 2, (start[1] + end[1]) / 2)
            away = (centre[0] - middle[0], centre[1] - middle[1])
            far = max((away[0] ** 2 + away[1] ** 2) ** 0.5, 1.0)
            # Figures are wider than they are high.
            off = 16 + 16 * abs(away[0]) / far
            at = (middle[0] + off * away[0] / far, middle[1] + off * away[1] / far)
            level = abs(away[0]) < abs(away[1])
            if level and abs(at[0] - drain[0]) < 30 and abs(at[1] - drain[1]) < FIGURE_SIZE:
                at = (at[0] + 45, at[1])
            self.canv.setFont(BOLD, FIGURE_SIZE)
            self.canv.setFillColor(black)
            self.canv.drawCentredString(at[0], at[1] - FIGURE_SIZE / 3, side.riser_text)


def _trays(sheet: Sheet) -> list[Any]:
    told: list[Any] = []
    for tray in sheet.solution.trays:
        told += [*([Spacer(1, 12)] if told else []), *_tray(sheet, tray)]
    return told


def _tray(sheet: Sheet, tray: TrayLayout) -> list[Any]:
    above, under = (TrayDrawing(sheet, tray, turned) for turned in (False, True))
    rows: list[list[Any]] = [["Side", "Riser to side", "On the tray", "Do", "Note"]]
    rows += [
        [
            side.name,
            text(side.riser_text, STRONG),
            side.reach_text,
            text(side.text, STRONG),
            text("; ".join(part for part in (side.loss_text, side.note) if part), SMALL),
        ]
        for side in tray.sides
    ]
    return [
        text(f"{tray.title}. {tray.verdict}.", STRONG),
        text(
            f"From above, scale 1:{above.scale}. Figures are from the riser. The entry is below.",
            SMALL,
        ),
        above,
        Spacer(1, 6),
        text("Turned over, to mark the underside: left and right change places.", SMALL),
        under,
        Spacer(1, 6),
        table(rows, shares(sheet, 0.16, 0.16, 0.16, 0.2, 0.32)),
        Spacer(1, 6),
        *(text(f"{number}. {told}") for number, told in enumerate(tray.said, start=1)),
    ]


TRAY = Page("tray", "How the tray is cut", _trays)
