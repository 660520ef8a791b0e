"""The site log of a job: read, added to with or without a photo, and as a file."""

from __future__ import annotations

import io
import re
from typing import Any

from flask import Blueprint, Response, abort, current_app, jsonify, request, send_file

from calm_basin.formats.log_csv import write_log
from calm_basin.plan.reading import parsed
from calm_basin.store import jobs, log, photos
from calm_basin.store.database import LARGEST_PHOTO
from calm_basin.web import heavy
from calm_basin.web.asked import Entry
from calm_basin.web.requests import (
    answered,
    body,
    checked,
    database,
    own_rules,
    refused,
    store,
    waits_no_more,
)
from calm_basin.web.sent import Broken, Log, LogEntry
from calm_basin.web.work import Work, run

blueprint = Blueprint("log", __name__)

MOMENT = re.compile(r"^\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d$")
ENTRY_ID = re.compile(r"^[0-9a-zA-Z-]{8,64}$")


@blueprint.get("/log-forms")
def list_forms() -> Response:
    """The kinds of entries with their fields."""
    return jsonify({"forms": answered(heavy.log_forms)})


@blueprint.get("/jobs/<job_id>/log")
def show(job_id: str) -> Response:
    """The log, the first entry first."""
    jobs.head(database(), job_id)
    found = log.entries(database(), job_id)
    last = found[-1].hash if found else ""
    return Log(entries=tuple(_told(entry) for entry in found), last=last).answer()


@blueprint.get("/jobs/<job_id>/log/check")
def check(job_id: str) -> Response:
    """Where the log is not what it was. Of photos only the sizes are looked at, with ``whole`` all
    that is in them."""
    jobs.head(database(), job_id)
    found = log.entries(database(), job_id)
    whole = "whole" in request.args
    wrong = [
        *log.wrong(database(), job_id, found),
        *log.broken_photos(store().path, found, whole=whole),
    ]
    return Broken(broken=tuple(f"Entry {one.number} {one.what}." for one in wrong)).answer()


@blueprint.post("/jobs/<job_id>/log")
def append(job_id: str) -> Response:
    """Add an entry of a ``kind``: what was typed into its ``fields``, ``by`` whom and ``at`` what
    time of the site. The same ``id`` is added once."""
    document = body()
    if document.get("kind") == "photo":
        raise refused("/fields/photo", "Choose a picture.")
    head, entry_id, written = _written(job_id, document)
    kept = log.append(database(), job_id, entry_id, written, head.revision)
    return _told(kept).answer(201)


@blueprint.post("/jobs/<job_id>/log/photos")
def append_photo(job_id: str) -> Response:
    """Add an entry with a photo: a form with the ``entry``, as JSON like that of one without, the
    ``photo``, and ``location`` where what it says of its place on earth is to be kept."""
    try:
        document = parsed(request.form.get("entry", ""))
    except (ValueError, RecursionError):
        document = None
    if not isinstance(document, dict) or document.get("kind") != "photo":
        raise refused("/entry", "“entry” has to be a photo's entry. Correct it.")
    sent = request.files.get("photo")
    if sent is None:
        raise refused("/fields/photo", "Choose a picture.")
    with sent.stream:
        data = sent.read()
    if len(data) > LARGEST_PHOTO:
        message = f"The picture has over {LARGEST_PHOTO // 1_000_000} MB. Save it smaller."
        raise refused("/fields/photo", message)
    head, entry_id, written = _written(job_id, document)
    long: Work = current_app.config["LONG"]
    read = run(long, heavy.photo, data, "location" in request.form, gone=waits_no_more())
    path = store().path
    with photos.writing(path):
        name = photos.keep(path, read.original, read.screen)
        written["photo"] = {
            "hash": name,
            "media": read.media,
            "size": len(read.original),
            "width": read.width,
            "height": read.height,
            "taken": read.taken,
            "located": read.located,
        }
        kept = log.append(database(), job_id, entry_id, written, head.revision)
    return _told(kept).answer(201)


@blueprint.get("/jobs/<job_id>/log/photos/<name>")
def show_photo(job_id: str, name: str) -> Response:
    """A photo of the log as it is kept, or with ``screen`` its copy for the screen."""
    told = _photo(job_id, name)
    path, screen = store().path, "screen" in request.args
    try:
        file = photos.file_of(path, name, screen=screen)
        if screen and not file.exists():
            # It came with a job's record, which holds the photo alone.
            return _made_anew(photos.file_of(path, name).read_bytes())
        media = "image/jpeg" if screen else told.media
        ending = media.removeprefix("image/")
        return send_file(file, mimetype=media, download_name=f"{name[:12]}.{ending}")
    except (OSError, ValueError):
        abort(404, "This photo is gone. A backup or a record of the job may have it.")


def _made_anew(data: bytes) -> Response:
    long: Work = current_app.config["LONG"]
    read = run(long, heavy.photo, data, True, gone=waits_no_more())
    return send_file(io.BytesIO(read.screen), mimetype="image/jpeg")


def _photo(job_id: str, name: str) -> log.PhotoOf:
    """A photo that this job's log names; answers 404 where there is none."""
    found = log.photo_named(database(), job_id, name)
    if found is None:
        abort(404, "The log of this job names no such photo.")
    return found


@blueprint.get("/jobs/<job_id>/log.csv")
def export_log(job_id: str) -> Response:
    jobs.head(database(), job_id)
    entries = [{**entry._asdict(), "body": entry.told} for entry in log.entries(database(), job_id)]
    return Response(
        write_log(entries),
        mimetype="text/csv",
        headers={"Content-Disposition": 'attachment; filename="log.csv"'},
    )


def _written(job_id: str, document: object) -> tuple[jobs.Head, str, dict[str, Any]]:
    """The job, the id and the body of an entry as it was sent. Raises `PlanError` that names what
    is wrong with it."""
    said = checked(Entry, document)
    if not ENTRY_ID.match(said.id):
        raise refused("/id", "An entry is known by 8 to 64 letters and digits.")
    by = said.by.strip()
    if not 1 <= len(by) <= 40:
        raise refused("/by", "Who writes it? Type initials or a name.")
    if not MOMENT.match(said.at):
        raise refused("/at", "When was it? Type a day and a time.")
    head = jobs.head(database(), job_id)
    written = answered(heavy.log_entry, head.plan, own_rules(), said.kind, said.fields)
    for name in ("entry", "before"):
        number = written["values"].get(name)
        if number is not None:
            _there(name, number, log.entries(database(), job_id))
    return head, said.id, {**written, "by": by, "at": said.at}


def _there(name: str, number: int, found: list[log.Kept]) -> None:
    """Raise `RequestError` where a log has no such entry, or where one that shows what was before
    has no photo."""
    entry = next((entry for entry in found if entry.number == number), None)
    if entry is None:
        raise refused(f"/fields/{name}", f"There is no entry {number}. Name one that is there.")
    if name == "before" and log.photo_of(entry.body) is None:
        raise refused(f"/fields/{name}", f"Entry {number} has no photo. Name one that has.")


def _told(entry: log.Kept) -> LogEntry:
    known = {"number": entry.number, "id": entry.id, "made_at": entry.made_at}
    return LogEntry.model_validate({**entry.told, **known})
