"""The site log of a job: read, added to, and as a file."""

from __future__ import annotations

import re
from typing import Any

from flask import Blueprint, Response, jsonify

from calm_basin.formats.log_csv import write_log
from calm_basin.plan import PlanError, Problem
from calm_basin.store import jobs, log
from calm_basin.web import heavy
from calm_basin.web.requests import answered, body, database, field, own_rules

blueprint = Blueprint("log", __name__)

MOMENT = re.compile(r"^\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d$")
ENTRY_ID = re.compile(r"^[0-9a-zA-Z-]{8,64}$")


@blueprint.get("/log-forms")
def list_forms() -> Response:
    """The kinds of entries with their fields."""
    return jsonify({"forms": answered(heavy.log_forms)})


@blueprint.get("/jobs/<job_id>/log")
def show(job_id: str) -> Response:
    """The log, the first entry first, and where it is not what it was."""
    jobs.head(database(), job_id)
    found = log.entries(database(), job_id)
    wrong = log.wrong(database(), job_id, found)
    return jsonify(
        {
            "entries": [_told(entry) for entry in found],
            "broken": [f"Entry {one.number} {one.what}." for one in wrong],
            "last": found[-1].hash if found else "",
        }
    )


@blueprint.post("/jobs/<job_id>/log")
def append(job_id: str) -> tuple[Response, int]:
    """Add an entry of a ``kind``: what was typed into its ``fields``, ``by`` whom and ``at`` what
    time of the site. The same ``id`` is added once."""
    document = body()
    entry_id, kind = field(document, "id", str), field(document, "kind", str)
    if not ENTRY_ID.match(entry_id):
        raise PlanError([Problem("/id", "An entry is known by 8 to 64 letters and digits.")])
    by, at = field(document, "by", str).strip(), field(document, "at", str)
    if not 1 <= len(by) <= 40:
        raise PlanError([Problem("/by", "Who writes it? Type initials or a name.")])
    if not MOMENT.match(at):
        raise PlanError([Problem("/at", "When was it? Type a day and a time.")])
    head = jobs.head(database(), job_id)
    typed = field(document, "fields", dict)
    written = answered(heavy.log_entry, head.plan, own_rules(), kind, typed)
    db = database()
    if kind == "correction":
        _there(written["values"]["entry"], log.entries(db, job_id))
    kept = log.append(db, job_id, entry_id, {**written, "by": by, "at": at}, head.revision)
    return jsonify(_told(kept)), 201


@blueprint.get("/jobs/<job_id>/log.csv")
def export_log(job_id: str) -> Response:
    jobs.head(database(), job_id)
    entries = [entry._asdict() for entry in log.entries(database(), job_id)]
    return Response(
        write_log(entries),
        mimetype="text/csv",
        headers={"Content-Disposition": 'attachment; filename="log.csv"'},
    )


def _there(number: int, found: list[log.Kept]) -> None:
    """Raise `PlanError` where a log has no such entry."""
    if not any(entry.number == number for entry in found):
        message = f"There is no entry {number}. Name one that is there."
        raise PlanError([Problem("/fields/entry", message)])


def _told(entry: log.Kept) -> dict[str, Any]:
    shown = ("kind", "title", "by", "at", "values", "lines", "verdict")
    told = {name: entry.body.get(name) for name in shown}
    return {"number": entry.number, "id": entry.id, "made_at": entry.made_at, **told}
