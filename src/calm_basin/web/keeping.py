"""Backups, what is wrong with the store, and what mends it."""

from __future__ import annotations

import shutil
import tempfile
from datetime import UTC, datetime
from pathlib import Path

from flask import Blueprint, Response, abort, request, send_file

from calm_basin.store import copies, events, history, jobs, photos, restoring
from calm_basin.web.requests import address, close_database, database, store
from calm_basin.web.sent import KeptFor, PutBack, StoredCopy, StoreState, Trouble

blueprint = Blueprint("keeping", __name__)


@blueprint.get("/store")
def show() -> Response:
    """What is wrong with the store, if anything; its copies, and how long things are kept."""
    trouble = store().trouble
    return StoreState(
        trouble=None if trouble is None else Trouble.model_validate(trouble._asdict()),
        undone=store().undone,
        copies=tuple(StoredCopy(**vars(copy)) for copy in copies.copies(store().path)),
        folder=str(copies.folder_of(store().path)),
        kept=KeptFor(
            days=copies.KEPT["day"],
            weeks=copies.KEPT["week"],
            deleted_days=jobs.KEPT,
            every_step_days=history.EVERY_STEP,
            every_hour_days=history.EVERY_HOUR,
        ),
    ).answer()


@blueprint.get("/store/backup")
def download() -> Response:
    """All jobs with their histories and photos in one file, checked."""
    close_database()
    folder = tempfile.mkdtemp(prefix="calm-basin-backup-")
    try:
        file = Path(folder) / f"calm-basin-{datetime.now(UTC):%Y-%m-%d-%H%M}.backup"
        photos.write_all(store().path, file)
        handle = file.open("rb")
    finally:
        # The open handle keeps the bytes until they are sent.
        shutil.rmtree(folder, ignore_errors=True)
    return send_file(
        handle, mimetype="application/vnd.sqlite3", as_attachment=True, download_name=file.name
    )


@blueprint.get("/store/copies/<name>")
def download_copy(name: str) -> Response:
    """One of the automatic copies."""
    return send_file(_copy(name), mimetype="application/vnd.sqlite3", as_attachment=True)


@blueprint.post("/store/copies/<name>/restore")
def restore_copy(name: str) -> Response:
    """Put an automatic copy in the place of all jobs; what was there is kept as a copy."""
    return _restored(_copy(name))


@blueprint.post("/store/restore")
def restore() -> Response:
    """Put a backup in the place of all jobs: the body is the file; what was there is kept."""
    with tempfile.TemporaryDirectory(prefix="calm-basin-restore-") as folder:
        file = Path(folder) / "This file"
        with file.open("wb") as out:
            shutil.copyfileobj(request.stream, out)
        return _restored(file)


def _restored(file: Path) -> Response:
    close_database()
    contents = restoring.restore(store().path, file)
    store().open()
    detail = f"{contents.told()}, from {file.name}"
    events.tell(database(), "put back", address(), detail)
    return PutBack(told=contents.told()).answer()


def _copy(name: str) -> Path:
    known = {copy.name for copy in copies.copies(store().path)}
    if name not in known:
        abort(404, f"There is no copy “{name[:80]}”. Choose one of the list.")
    return copies.folder_of(store().path) / name
