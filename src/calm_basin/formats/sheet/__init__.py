"""The job sheet: a plan and its solution on paper, as PDF, safe in black and white.

Each page is brought by its own file; `PAGES` lists them in the order of the sheet.
"""

from __future__ import annotations

from collections.abc import Collection
from typing import get_args

from calm_basin.core.answer.result import Part
from calm_basin.core.solution import Solution
from calm_basin.formats.sheet.access import ACCESS
from calm_basin.formats.sheet.days import DAYS
from calm_basin.formats.sheet.floor_plan import FLOOR_PLAN
from calm_basin.formats.sheet.framing import FRAMING
from calm_basin.formats.sheet.heating import HEATING
from calm_basin.formats.sheet.layout import Told, laid_out
from calm_basin.formats.sheet.levels import LEVELS
from calm_basin.formats.sheet.log import LOG
from calm_basin.formats.sheet.marks import MARKS
from calm_basin.formats.sheet.membrane import MEMBRANE
from calm_basin.formats.sheet.order import ORDER
from calm_basin.formats.sheet.page import PAPERS, Page, Paper
from calm_basin.formats.sheet.section import SECTION
from calm_basin.formats.sheet.system import DRAIN, SYSTEM
from calm_basin.formats.sheet.texts import ASSUMED, CAUTIONS, DEPTH, FIGURES, FINDINGS
from calm_basin.formats.sheet.tile import TILE
from calm_basin.formats.sheet.tray import TRAY
from calm_basin.formats.sheet.under import DECK, RISER, WASTE
from calm_basin.formats.sheet.wall import WALL
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
    FRAMING,
    MEMBRANE,
    HEATING,
    TILE,
    CAUTIONS,
    ORDER,
    DAYS,
    MARKS,
    LOG,
    WALL,
)


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
    paper : {"a4", "a3", "letter", "tabloid"}
    pages : collection of str, optional
        Names of the pages that are wanted; where none is named, all but those that stand alone.
    made : str, optional
        When the sheet was made, as the reader writes it.

    Raises
    ------
    UnknownPageError
    """
    if paper not in PAPERS:
        raise UnknownPageError(f"There is no paper “{paper}”. Choose one of: {', '.join(PAPERS)}.")
    told = Told(plan.job.name, solution.rule_set, made)
    return laid_out(plan, solution, _chosen(pages), PAPERS[paper], told, named=bool(pages))


def _chosen(pages: Collection[str]) -> list[Page]:
    names = [page.name for page in PAGES]
    unknown = [name for name in pages if name not in names]
    if unknown:
        raise UnknownPageError(
            f"The sheet has no page “{unknown[0]}”. Choose from: {', '.join(names)}."
        )
    return [page for page in PAGES if (page.name in pages if pages else not page.alone)]


__all__ = ["PAGES", "PAPERS", "Paper", "UnknownPageError", "parts_of", "write_sheet"]
