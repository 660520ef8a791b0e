"""The record of a job as PDF: what was planned, changed, built, tested, by whom and when."""

from __future__ import annotations

from calm_basin.core.solution import Solution
from calm_basin.formats.record.data import Recorded
from calm_basin.formats.record.pages import pages_of
from calm_basin.formats.sheet.layout import Told, laid_out
from calm_basin.formats.sheet.page import PAPERS
from calm_basin.plan import Plan


def write_record(
    plan: Plan, solution: Solution, recorded: Recorded, *, paper: str = "a4", made: str = ""
) -> bytes:
    """The record as a PDF document.

    Parameters
    ----------
    plan, solution
        As the plan stands; the solution with its days.
    recorded : Recorded
        What the site log says.
    paper : {"a4", "a3", "letter", "tabloid"}
    made : str, optional
        When the record was made, as the reader writes it.
    """
    told = Told(plan.job.name, solution.rule_set, made, "record")
    pages = pages_of(recorded)
    return laid_out(plan, solution, pages, PAPERS[paper], told, named=False)  # type: ignore[index]


__all__ = ["Recorded", "write_record"]
