"""All files of a job: each by its name, and all of them in one zip with a table of contents."""

from __future__ import annotations

import io
import zipfile
from datetime import datetime

from calm_basin.core.solution import Solution
from calm_basin.formats.days_files import write_calendar, write_days
from calm_basin.formats.drawings_svg import write_plan, write_section
from calm_basin.formats.floor_dxf import write_floor
from calm_basin.formats.levels_csv import write_levels
from calm_basin.formats.marks_csv import write_marks
from calm_basin.formats.order_csv import write_cuts, write_order
from calm_basin.formats.sheet import write_sheet
from calm_basin.plan import Plan

CONTENTS = "contents.txt"

TOLD = {
    "plan.json": "the plan, to be opened again",
    "solution.json": "all that follows from it",
    "sheet.pdf": "the job sheet",
    "floor.dxf": "the floor to scale, on layers",
    "chart.svg": "the plan as a drawing",
    "section.svg": "the section as a drawing",
    "order.csv": "what to buy",
    "cuts.csv": "how it is cut",
    "days.csv": "which task on which day",
    "days.ics": "the same as a calendar",
    "marks.csv": "what is marked on floor and walls, the screed pins among it",
    "levels.csv": "readings of the old floor",
}

NAMES = (CONTENTS, *TOLD)
"""All files that a job may have."""


def files_of(plan: Plan, solution: Solution, *, uid: str, made: datetime) -> dict[str, bytes]:
    """The files of a job by name, those that there is nothing for left out, the contents first.

    The solution has all its parts; ``uid`` is the job's own id.
    """
    found: dict[str, str | bytes] = {
        "plan.json": plan.model_dump_json(indent=2) + "\n",
        "solution.json": solution.model_dump_json(indent=2) + "\n",
        "sheet.pdf": write_sheet(plan, solution),
        "floor.dxf": write_floor(plan, solution),
        "chart.svg": write_plan(plan, solution),
    }
    if solution.section is not None:
        found["section.svg"] = write_section(solution)
    if solution.order is not None:
        found["order.csv"] = write_order(solution.order)
        found["cuts.csv"] = write_cuts(solution.order)
    if solution.days is not None and solution.days.tasks:
        days, first = solution.days, plan.days.start
        found["days.csv"] = write_days(days)
        if first is not None:
            found["days.ics"] = write_calendar(
                days, job=plan.job.name, uid=uid, first=first, made=made
            )
    if solution.marks is not None:
        found["marks.csv"] = write_marks(solution.marks)
    if plan.survey.levels:
        found["levels.csv"] = write_levels(plan.survey.levels)
    told = [f"{plan.job.name}, {made:%Y-%m-%d}", ""]
    told += [f"{name:<16} {TOLD[name]}" for name in TOLD if name in found]
    whole: dict[str, str | bytes] = {CONTENTS: "\n".join(told) + "\n", **found}
    return {
        name: content.encode() if isinstance(content, str) else content
        for name, content in whole.items()
    }


def zipped(files: dict[str, bytes]) -> bytes:
    """Files in one zip."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, content in files.items():
            packed.writestr(name, content)
    return out.getvalue()
