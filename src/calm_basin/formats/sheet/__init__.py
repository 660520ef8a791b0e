"""The job sheet: a plan and its solution on paper, as PDF, safe in black and white.

Each page is brought by its own file; `PAGES` lists them in the order of the sheet.
"""

from __future__ import annotations

import io
from collections.abc import Collection
from functools import partial
from typing import Any, get_args

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import PageBreak, Paragraph, SimpleDocTemplate

from calm_basin.core.answer.result import Part
from calm_basin.core.solution import Solution
from calm_basin.formats.sheet.access import ACCESS
from calm_basin.formats.sheet.days import DAYS
from calm_basin.formats.sheet.floor_plan import FLOOR_PLAN
from calm_basin.formats.sheet.levels import LEVELS
from calm_basin.formats.sheet.marks import MARKS
from calm_basin.formats.sheet.order import ORDER
from calm_basin.formats.sheet.page import PAPERS, Page, Paper, Sheet
from calm_basin.formats.sheet.section import SECTION
from calm_basin.formats.sheet.style import BOLD, HEADING, PLAIN, SMALL_SIZE, text
from calm_basin.formats.sheet.system import DRAIN, SYSTEM
from calm_basin.formats.sheet.texts import ASSUMED, CAUTIONS, DEPTH, FIGURES, FINDINGS
from calm_basin.formats.sheet.tray import TRAY
from calm_basin.formats.sheet.under import DECK, RISER, WASTE
from calm_basin.plan import Plan

PAGES: tuple[Page, ...] = (
    FLOOR_PLAN,
    LEVELS,
    SECTION,
    FIGURES,
    ASSUMED,
    FINDINGS,
    SYSTEM,
    DEPTH,
    TRAY,
    DRAIN,
    DECK,
    WASTE,
    RISER,
    ACCESS,
    CAUTIONS,
    ORDER,
    DAYS,
    MARKS,
)

MARGIN = 15 * mm
HEAD, FOOT = 12 * mm, 8 * mm


class UnknownPageError(LookupError):
    """The sheet has no such page or paper; the message lists those that there are."""


def parts_of(pages: Collection[str] = ()) -> tuple[Part, ...]:
    """What has to be solved besides for these pages; for all of them where none is named."""
    needed = {page.part for page in _chosen(pages)}
    return tuple(part for part in get_args(Part) if part in needed)


def write_sheet(
    plan: Plan,
    solution: Solution,
    *,
    paper: str = "a4",
    pages: Collection[str] = (),
    made: str = "",
) -> bytes:
    """The sheet as a PDF document.

    Parameters
    ----------
    plan, solution
        The solution has the parts that `parts_of` names.
    paper : {"a4", "letter"}
    pages : collection of str, optional
        Names of the pages that are wanted; all of them where none is named.
    made : str, optional
        When the sheet was made, as the reader writes it.

    Raises
    ------
    UnknownPageError
    """
    if paper not in PAPERS:
        raise UnknownPageError(f"There is no paper “{paper}”. Choose one of: {', '.join(PAPERS)}.")
    size = PAPERS[paper]
    sheet = Sheet(plan, solution, size[0] - 2 * MARGIN, size[1] - 2 * MARGIN - HEAD - FOOT)
    story: list[Any] = []
    for page in _chosen(pages):
        told = page.story(sheet)
        if not told and pages:
            told = [text("There is nothing to tell here for this job.")]
        if told:
            story += [PageBreak()] if story else []
            story += [Paragraph(page.title, HEADING), *told]
    out = io.BytesIO()
    document = SimpleDocTemplate(
        out,
        pagesize=size,
        leftMargin=MARGIN,
        rightMargin=MARGIN,
        topMargin=MARGIN + HEAD,
        bottomMargin=MARGIN + FOOT,
        title=f"{plan.job.name} · job sheet",
        author="Calm Basin",
    )
    document.build(story, canvasmaker=partial(_Numbered, plan.job.name, solution.rule_set, made))
    return out.getvalue()


def _chosen(pages: Collection[str]) -> list[Page]:
    names = [page.name for page in PAGES]
    unknown = [name for name in pages if name not in names]
    if unknown:
        raise UnknownPageError(
            f"The sheet has no page “{unknown[0]}”. Choose from: {', '.join(names)}."
        )
    return [page for page in PAGES if not pages or page.name in pages]


class _Numbered(Canvas):  # type: ignore[misc]
    """A canvas that writes head and foot when it knows how many pages there are."""

    def __init__(self, job: str, rules: str, made: str, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.job, self.rules, self.made = job, rules, made
        self._states: list[dict[str, Any]] = []

    def showPage(self) -> None:  # noqa: N802
        self._states.append(dict(self.__dict__))
        self._startPage()

    def save(self) -> None:
        for number, state in enumerate(self._states, start=1):
            self.__dict__.update(state)
            self._frame(number)
            super().showPage()
        super().save()

    def _frame(self, number: int) -> None:
        width, height = self._pagesize
        top = height - MARGIN
        self.setFont(BOLD, 11)
        self.drawString(MARGIN, top, self.job[:70])
        self.setFont(PLAIN, SMALL_SIZE)
        self.drawRightString(width - MARGIN, top, f"{number} of {len(self._states)}")
        self.setLineWidth(0.6)
        self.line(MARGIN, top - 4, width - MARGIN, top - 4)
        self.drawString(MARGIN, MARGIN - 2, f"Calm Basin · {self.rules}")
        self.drawRightString(width - MARGIN, MARGIN - 2, self.made)


__all__ = ["PAGES", "PAPERS", "Paper", "UnknownPageError", "parts_of", "write_sheet"]
