"""The job sheet as a file."""

from __future__ import annotations

from datetime import date

from flask import Blueprint, Response, jsonify, request

from calm_basin.core.solve import solve
from calm_basin.formats.dates import format_date
from calm_basin.formats.sheet import PAGES, PAPERS, UnknownPageError, parts_of, write_sheet
from calm_basin.plan import PlanError, Problem
from calm_basin.store import jobs
from calm_basin.web.requests import database, known

blueprint = Blueprint("sheets", __name__)


@blueprint.get("/sheet-pages")
def list_pages() -> Response:
    """The pages of the sheet, and the papers it may be on."""
    pages = [{"name": page.name, "title": page.title} for page in PAGES]
    return jsonify({"pages": pages, "papers": list(PAPERS)})


@blueprint.get("/jobs/<job_id>/sheet.pdf")
def export_sheet(job_id: str) -> Response:
    """The sheet on ``paper``; ``pages`` names those that are wanted, with commas between."""
    plan = jobs.head(database(), job_id).plan
    pages = [name for name in request.args.get("pages", "")[:400].split(",") if name]
    try:
        document = write_sheet(
            plan,
            solve(plan, parts=parts_of(pages), known=known()),
            paper=request.args.get("paper", "a4")[:20],
            pages=pages,
            made=format_date(date.today()),
        )
    except UnknownPageError as unknown:
        raise PlanError([Problem("/pages", str(unknown))]) from None
    return Response(
        document,
        mimetype="application/pdf",
        headers={"Content-Disposition": 'attachment; filename="job-sheet.pdf"'},
    )
