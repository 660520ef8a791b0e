"""The site log of a job: entries that are only added, each bound to the one before it."""

from __future__ import annotations

import hashlib
import json
import sqlite3
from collections.abc import Callable, Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any, NamedTuple

from calm_basin.store import photos
from calm_basin.store.database import now, transaction
from calm_basin.store.jobs import NoSuchJobError

FIRST = "0" * 64
"""What the first entry has before it."""

MOST = 20_000
"""Entries of a job's log."""


class Kept(NamedTuple):
    """An entry as it is stored. ``body`` is what was written, by whom, when, and the verdict."""

    number: int
    id: str
    made_at: str
    body: dict[str, Any]
    revision: int | None
    plan_hash: str
    previous: str
    hash: str

    @property
    def told(self) -> dict[str, Any]:
        """The body with every part in the form that this program writes: what somebody else's file
        has otherwise is left out of what is shown, and the log's check names the entry."""
        body, verdict = self.body, self.body.get("verdict")
        known = verdict if isinstance(verdict, dict) else {}
        judged = {name: _text(known, name) for name in ("text", "why", "cure", "source")}
        state = known.get("state")
        values, lines = body.get("values"), body.get("lines")
        return {
            **body,
            "kind": _text(body, "kind"),
            "title": _text(body, "title") or "Entry that cannot be read",
            "by": _text(body, "by"),
            "at": _text(body, "at") or self.made_at,
            "values": values if isinstance(values, dict) else {},
            "lines": [line for line in lines if _is_line(line)] if isinstance(lines, list) else [],
            "verdict": {"state": state if state in STATES else "none", **judged},
            "photo": _photo(body),
        }


STATES = ("holds", "fails", "open", "none")


def _text(document: Mapping[str, Any], name: str) -> str:
    value = document.get(name)
    return value if isinstance(value, str) else ""


def _is_line(line: object) -> bool:
    return isinstance(line, list) and len(line) == 2 and all(isinstance(v, str) for v in line)


def _photo(body: Mapping[str, Any]) -> dict[str, Any] | None:
    told = body.get("photo")
    if not isinstance(told, dict) or not photos.HASH.fullmatch(_text(told, "hash")):
        return None
    sizes = {name: told.get(name) for name in ("size", "width", "height")}
    return {
        **{name: _text(told, name) for name in ("hash", "media", "taken")},
        **{name: size if isinstance(size, int) else 0 for name, size in sizes.items()},
        "located": told.get("located") is True,
    }


class PhotoOf(NamedTuple):
    """A photo as an entry names it: its SHA-256, its media type and its bytes."""

    hash: str
    media: str
    size: int


def photo_of(body: Mapping[str, Any]) -> PhotoOf | None:
    """The photo that an entry names, if it names one."""
    told = body.get("photo")
    if not isinstance(told, dict):
        return None
    size = told.get("size")
    whole = size if isinstance(size, int) else -1
    return PhotoOf(str(told.get("hash")), str(told.get("media")), whole)


class Broken(NamedTuple):
    """Where a log, or a plan that it was judged by, is not what it was."""

    number: int
    what: str


class FullError(RuntimeError):
    """The log takes no more entries."""


def hashed(document: object) -> str:
    """The SHA-256 of a document, whatever the order of its members and the spaces between them."""
    text = json.dumps(document, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(text.encode()).hexdigest()


def _bound(entry: Mapping[str, Any]) -> str:
    """The hash that binds an entry to what is before it."""
    names = ("number", "id", "made_at", "body", "plan_hash", "previous")
    return hashed({name: entry[name] for name in names})


def append(
    db: sqlite3.Connection, job_id: str, entry_id: str, body: dict[str, Any], revision: int
) -> Kept:
    """Add an entry that was judged by a revision of the plan; once for an ``entry_id``.

    Raises `NoSuchJobError`, and `FullError`.
    """
    with transaction(db):
        there = db.execute(
            "SELECT * FROM log_entry WHERE job_id = ? AND id = ?", (job_id, entry_id)
        ).fetchone()
        if there is not None:
            return _kept(there)
        plan = db.execute(
            "SELECT plan FROM revision WHERE id = ? AND job_id = ?", (revision, job_id)
        ).fetchone()
        if plan is None:
            raise NoSuchJobError(f"There is no job {job_id}. The jobs list says which there are.")
        last = db.execute(
            "SELECT number, hash FROM log_entry WHERE job_id = ? ORDER BY number DESC LIMIT 1",
            (job_id,),
        ).fetchone()
        number = last["number"] + 1 if last else 1
        if number > MOST:
            raise FullError(f"The log has {MOST} entries and takes no more.")
        entry = {
            "number": number,
            "id": entry_id,
            "made_at": now(),
            "body": body,
            "plan_hash": hashed(json.loads(plan["plan"])),
            "previous": last["hash"] if last else FIRST,
        }
        return insert(db, job_id, [{**entry, "revision": revision, "hash": _bound(entry)}])[0]


def insert(db: sqlite3.Connection, job_id: str, entries: Sequence[Mapping[str, Any]]) -> list[Kept]:
    """Write entries as they are, as those of a file are brought in."""
    db.executemany(
        """
        INSERT INTO log_entry
        (job_id, number, id, made_at, body, revision, plan_hash, previous, hash)
        VALUES (:job_id, :number, :id, :made_at, :body, :revision, :plan_hash, :previous, :hash)
        """,
        [
            {**entry, "job_id": job_id, "body": json.dumps(entry["body"], ensure_ascii=False)}
            for entry in entries
        ],
    )
    return [Kept(**entry) for entry in entries]


def entries(db: sqlite3.Connection, job_id: str) -> list[Kept]:
    """The log of a job, the first entry first."""
    rows = db.execute("SELECT * FROM log_entry WHERE job_id = ? ORDER BY number", (job_id,))
    return [_kept(row) for row in rows]


def photo_named(db: sqlite3.Connection, job_id: str, name: str) -> PhotoOf | None:
    """A photo that the log of a job names."""
    row = db.execute(
        "SELECT body FROM log_entry WHERE job_id = ? AND json_valid(body) "
        "AND json_extract(body, '$.photo.hash') = ? LIMIT 1",
        (job_id, name),
    ).fetchone()
    return None if row is None else photo_of(json.loads(row["body"]))


def _kept(row: sqlite3.Row) -> Kept:
    try:
        body = json.loads(row["body"])
    except ValueError:
        body = None
    told = {name: row[name] for name in Kept._fields if name != "body"}
    return Kept(**told, body=body if isinstance(body, dict) else {})


def broken(found: Sequence[Kept]) -> Iterator[Broken]:
    """Where a log is not what it was: each entry against its hash, and against the one before."""
    previous = FIRST
    for place, entry in enumerate(found, start=1):
        if entry.number != place:
            yield Broken(entry.number, f"entry {place} is missing")
            return
        if entry.previous != previous:
            yield Broken(entry.number, "does not follow the one before it")
        if _bound(entry._asdict()) != entry.hash:
            yield Broken(entry.number, "was changed after it was written")
        previous = entry.hash


def broken_plans(found: Sequence[Kept], plan_of: Callable[[int], str | None]) -> Iterator[Broken]:
    """Entries whose plan is not the one that they were judged by; ``plan_of`` gives the plan of a
    revision as text, None where it is gone."""
    hashes: dict[int, str | None] = {}
    for entry in found:
        if entry.revision is None:
            continue
        if entry.revision not in hashes:
            text = plan_of(entry.revision)
            try:
                hashes[entry.revision] = None if text is None else hashed(json.loads(text))
            except ValueError:
                hashes[entry.revision] = ""
        there = hashes[entry.revision]
        if there is None:
            yield Broken(entry.number, "was judged by a plan that is gone")
        elif there != entry.plan_hash:
            yield Broken(entry.number, "was judged by a plan that was changed")


def broken_photos(path: Path, found: Sequence[Kept], *, whole: bool) -> Iterator[Broken]:
    """Entries whose photo, beside the database, is gone or was changed; without ``whole`` only its
    size is looked at."""
    for entry in found:
        photo = photo_of(entry.body)
        if photo is not None:
            what = photos.what_is_wrong(path, photo.hash, photo.size, whole=whole)
            if what:
                yield Broken(entry.number, what)


def wrong(db: sqlite3.Connection, job_id: str, found: Sequence[Kept]) -> list[Broken]:
    """Where the log of a job, or a plan that it was judged by, is not what it was."""

    def plan_of(revision: int) -> str | None:
        row = db.execute(
            "SELECT plan FROM revision WHERE id = ? AND job_id = ?", (revision, job_id)
        ).fetchone()
        return None if row is None else str(row["plan"])

    return [*broken(found), *broken_plans(found, plan_of)]
