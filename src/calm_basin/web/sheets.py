"""The job sheet as a file."""

from __future__ import annotations

from datetime import date

from flask import Blueprint, Response, request

from calm_basin.formats.dates import format_date
from calm_basin.store import jobs
from calm_basin.web import heavy
from calm_basin.web.requests import answered, database, own_rules
from calm_basin.web.sent import SheetPages

blueprint = Blueprint("sheets", __name__)


@blueprint.get("/sheet-pages")
def list_pages() -> Response:
    """The pages of the sheet, and the papers it may be on."""
    return SheetPages.model_validate(answered(heavy.sheet_pages)).answer()


@blueprint.get("/jobs/<job_id>/sheet.pdf")
def export_sheet(job_id: str) -> Response:
    """The sheet on ``paper``; ``pages`` names those that are wanted, with commas between."""
    plan = jobs.head(database(), job_id).plan
    pages = [name for name in request.args.get("pages", "")[:400].split(",") if name]
    paper = request.args.get("paper", "a4")[:20]
    made = format_date(date.today())
    return Response(
        answered(heavy.sheet, plan, own_rules(), paper, pages, made),
        mimetype="application/pdf",
        headers={"Content-Disposition": 'attachment; filename="job-sheet.pdf"'},
    )
