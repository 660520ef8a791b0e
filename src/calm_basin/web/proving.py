"""What the site log comes to: the floor as built, what is handed over, and the record of it."""

from __future__ import annotations

import tempfile
from datetime import date
from pathlib import Path
from typing import Any

from flask import Blueprint, Response, current_app, request, send_file

from calm_basin.formats.dates import format_date
from calm_basin.formats.log_csv import write_log
from calm_basin.plan import Plan
from calm_basin.store import jobs, log, photos, record
from calm_basin.web import heavy
from calm_basin.web.requests import answered, database, own_rules, refused, store, waits_no_more
from calm_basin.web.work import Work, run

blueprint = Blueprint("proving", __name__)

LAYERS = ("recess", "bed", "membrane", "tile")

Entries = list[tuple[int, dict[str, Any]]]


@blueprint.get("/jobs/<job_id>/as-built")
def show_built(job_id: str) -> Response:
    """The floor as it was built, from what the log says of a ``layer``: what was corrected later
    is left out, and with ``newest`` only what was read last counts."""
    layer = request.args.get("layer", "bed")
    if layer not in LAYERS:
        raise refused("/layer", f"Choose one of: {', '.join(LAYERS)}.")
    plan = jobs.head(database(), job_id).plan
    entries = _entries(log.entries(database(), job_id))
    text = answered(heavy.built_as, plan, own_rules(), layer, entries, "newest" in request.args)
    return Response(text, mimetype="application/json")


@blueprint.get("/jobs/<job_id>/hand-over")
def show_handover(job_id: str) -> Response:
    """What is handed over, and what is still open."""
    plan = jobs.head(database(), job_id).plan
    entries = _entries(log.entries(database(), job_id))
    text = answered(heavy.handed_over, plan, own_rules(), entries)
    return Response(text, mimetype="application/json")


@blueprint.get("/jobs/<job_id>/record.pdf")
def export_record(job_id: str) -> Response:
    """The record on ``paper``."""
    made = _record(jobs.head(database(), job_id).plan, job_id)
    return Response(
        made,
        mimetype="application/pdf",
        headers={"Content-Disposition": 'attachment; filename="record.pdf"'},
    )


@blueprint.get("/jobs/<job_id>/record.zip")
def export_all(job_id: str) -> Response:
    """The record with the job's file, its log and its photos: what `calm-basin verify` checks."""
    plan = jobs.head(database(), job_id).plan
    kept = log.entries(database(), job_id)
    others = {
        "record.pdf": _record(plan, job_id),
        "log.csv": write_log([{**one._asdict(), "body": one.told} for one in kept]).encode(),
        "plan.json": (plan.model_dump_json(indent=2) + "\n").encode(),
    }
    out = tempfile.TemporaryFile()  # noqa: SIM115
    record.write_record(database(), store().path, job_id, out, others)
    out.seek(0)
    return send_file(
        out, mimetype="application/zip", as_attachment=True, download_name="record.zip"
    )


def _record(plan: Plan, job_id: str) -> bytes:
    path, found = store().path, log.entries(database(), job_id)
    broken = [
        *log.wrong(database(), job_id, found),
        *log.broken_photos(path, found, whole=True),
    ]
    files = {}
    for photo in filter(None, (log.photo_of(entry.told) for entry in found)):
        files[photo.hash] = _file_of(path, photo.hash)
    paper = request.args.get("paper", "a4")
    if paper not in ("a4", "a3", "letter", "tabloid"):
        raise refused("/paper", "Choose one of: a4, a3, letter, tabloid.")
    long: Work = current_app.config["LONG"]
    made: bytes = run(
        long,
        heavy.record,
        plan,
        own_rules(),
        _entries(found),
        found[-1].hash if found else "",
        [f"Entry {one.number} {one.what}." for one in broken],
        files,
        paper,
        format_date(date.today()),
        gone=waits_no_more(),
    )
    return made


def _file_of(path: Path, name: str) -> Path:
    """The photo's copy for the screen; where that was not made yet the photo itself."""
    small = photos.file_of(path, name, screen=True)
    return small if small.exists() else photos.file_of(path, name)


def _entries(found: list[log.Kept]) -> Entries:
    return [(entry.number, entry.told) for entry in found]
