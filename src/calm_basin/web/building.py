"""What is bought, what is done on which day, and all files of a job."""

from __future__ import annotations

from datetime import UTC, datetime

from flask import Blueprint, Response

from calm_basin.store import jobs
from calm_basin.web import heavy
from calm_basin.web.requests import answered, database, own_rules

blueprint = Blueprint("building", __name__)


@blueprint.get("/jobs/<job_id>/order.csv")
def export_order(job_id: str) -> Response:
    """The order as it stands, with what was ticked."""
    plan = jobs.head(database(), job_id).plan
    return _file(answered(heavy.order, plan, own_rules()), "text/csv", "order.csv")


@blueprint.get("/jobs/<job_id>/cuts.csv")
def export_cuts(job_id: str) -> Response:
    """How lengths and sheets are cut."""
    plan = jobs.head(database(), job_id).plan
    return _file(answered(heavy.cuts, plan, own_rules()), "text/csv", "cuts.csv")


@blueprint.get("/jobs/<job_id>/days.csv")
def export_days(job_id: str) -> Response:
    """The tasks with their days."""
    plan = jobs.head(database(), job_id).plan
    return _file(answered(heavy.days, plan, own_rules()), "text/csv", "days.csv")


@blueprint.get("/jobs/<job_id>/days.ics")
def export_calendar(job_id: str) -> Response:
    """The days as a calendar."""
    plan = jobs.head(database(), job_id).plan
    calendar = answered(heavy.calendar, plan, own_rules(), job_id, datetime.now(UTC))
    return _file(calendar, "text/calendar", "days.ics")


@blueprint.get("/jobs/<job_id>/files.zip")
def export_files(job_id: str) -> Response:
    """All files of the job."""
    plan = jobs.head(database(), job_id).plan
    packed = answered(heavy.bundle, plan, own_rules(), job_id, datetime.now(UTC))
    return _file(packed, "application/zip", "job-files.zip")


def _file(content: str | bytes, kind: str, name: str) -> Response:
    disposition = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, mimetype=kind, headers=disposition)
