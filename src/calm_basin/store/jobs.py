"""Jobs and the revisions of their plans."""

from __future__ import annotations

import json
import sqlite3
import uuid
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property, lru_cache
from typing import Any, NamedTuple

from pydantic import ValidationError

from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.order import Bought, Order
from calm_basin.plan.reading import upgraded
from calm_basin.store.database import now, transaction

KEPT = 30
"""Days for which a deleted job can be brought back."""


@dataclass(frozen=True)
class JobRow:
    """A job in the list."""

    id: str
    name: str
    made_at: str
    changed_at: str


class Write(NamedTuple):
    """Which window writes, and which of its writes this is: a later one follows an earlier one
    whatever became of that one's answer."""

    writer: str
    number: int


@dataclass(frozen=True)
class Head:
    """Where a job stands: its plan as a document of this version, the revision it is, which ways
    lead on, and which window wrote last."""

    job_id: str
    revision: int
    document: dict[str, Any]
    can_undo: bool
    can_redo: bool
    writer: str | None = None

    @cached_property
    def plan(self) -> Plan:
        """The plan. Raises `PlanError` where it was stored before a limit that it breaks."""
        return plan_from(self.document)


class NoSuchJobError(LookupError):
    """There is no job with this id."""


class ConflictError(RuntimeError):
    """The job has moved on since the writer last read it; carries where it stands now."""

    def __init__(self, head: Head) -> None:
        super().__init__("The job was changed elsewhere.")
        self.head = head


class DamagedError(RuntimeError):
    """What a job's head says cannot be read; ``sound`` are the revision before it that can, the
    newest, and when it was made, if there is one."""

    def __init__(self, job_id: str, revision: int, sound: tuple[int, str] | None) -> None:
        super().__init__(f"The newest revision of job {job_id} cannot be read.")
        self.job_id, self.revision, self.sound = job_id, revision, sound


def list_jobs(db: sqlite3.Connection, deleted: bool = False) -> list[JobRow]:
    """All jobs, the one changed last first; or those that are deleted and can be brought back."""
    rows = db.execute(
        f"""
        SELECT id, name, made_at, {"deleted_at" if deleted else "changed_at"} AS changed_at
        FROM job WHERE deleted_at IS {"NOT NULL" if deleted else "NULL"}
        ORDER BY changed_at DESC, id
        """
    )
    return [JobRow(**dict(row)) for row in rows]


def create(db: sqlite3.Connection, plan: Plan, press: str | None = None) -> Head:
    """Add a job whose first revision is this plan.

    ``press`` is the key of what made it, such as the press of a button: made again with the same
    one, there is still one job.
    """
    job_id, made = uuid.uuid4().hex[:12], now()
    with transaction(db):
        there = db.execute("SELECT id FROM job WHERE made_with = ?", (press,)).fetchone()
        if there is not None:
            job_id = there["id"]
        else:
            revision = db.execute(
                "INSERT INTO revision (job_id, parent, made_at, plan) VALUES (?, NULL, ?, ?)",
                (job_id, made, plan.model_dump_json()),
            ).lastrowid
            db.execute(
                "INSERT INTO job (id, name, made_at, changed_at, head, made_with) "
                "VALUES (?, ?, ?, ?, ?, ?)",
                (job_id, plan.job.name, made, made, revision, press),
            )
    return head(db, job_id)


def typed_packs(db: sqlite3.Connection, *, inches: bool, most: int = 40) -> Order:
    """What was typed of packs and prices in the newest jobs in inches, or in metric units: of each
    thing what was typed last. Nothing of it is ticked."""
    rows = db.execute(
        """
        SELECT json_extract(plan, '$.order.items') AS items
        FROM job JOIN revision ON revision.id = job.head
        WHERE deleted_at IS NULL AND json_valid(plan)
        AND (json_extract(plan, '$.display.length') IN ('in', 'ft')) = ?
        ORDER BY changed_at DESC LIMIT ?
        """,
        (inches, most),
    )
    found: dict[str, Bought] = {}
    for row in rows:
        try:
            order = Order.model_validate({"items": json.loads(row["items"] or "[]")})
        except ValidationError:
            # A plan that breaks a limit is told where it is opened.
            continue
        for one in order.items:
            if one.pack is not None or one.price is not None:
                found.setdefault(one.item, Bought(item=one.item, pack=one.pack, price=one.price))
    return Order(items=tuple(found.values()))


def head(db: sqlite3.Connection, job_id: str) -> Head:
    """Where a job stands. Raises `NoSuchJobError`, and `DamagedError` where it cannot be read."""
    row = db.execute(
        "SELECT head, writer FROM job WHERE id = ? AND deleted_at IS NULL", (job_id,)
    ).fetchone()
    if row is None:
        raise NoSuchJobError(f"There is no job {job_id}. It may have been deleted.")
    stood = _read(db, job_id, row["head"])
    if stood is None:
        raise DamagedError(job_id, row["head"], _sound(db, job_id, row["head"]))
    child = db.execute("SELECT 1 FROM revision WHERE parent = ? LIMIT 1", (row["head"],))
    return Head(
        job_id=job_id,
        revision=row["head"],
        document=stood.document,
        can_undo=stood.parent is not None,
        can_redo=child.fetchone() is not None,
        writer=row["writer"],
    )


class _Revision(NamedTuple):
    document: dict[str, Any]
    parent: int | None
    made_at: str


def _read(db: sqlite3.Connection, job_id: str, number: int) -> _Revision | None:
    """A revision with its plan as this version writes it, or as it was stored where that breaks a
    limit made since; none where it is not there or cannot be read."""
    try:
        row = db.execute(
            "SELECT plan, parent, made_at FROM revision WHERE id = ? AND job_id = ?",
            (number, job_id),
        ).fetchone()
        document = json.loads(_as_written_now(row["plan"]))
    except (sqlite3.DatabaseError, ValueError, TypeError):
        return None
    return _Revision(document, row["parent"], row["made_at"])


@lru_cache(maxsize=8)
def _as_written_now(text: str) -> str:
    """A plan's text as this version writes it, or as it was stored where that breaks a limit made
    since. Raises ValueError or TypeError where it is no plan's."""
    document = upgraded(json.loads(text))
    with suppress(PlanError):
        document = plan_from(document).model_dump(mode="json")
    return json.dumps(document)


def _sound(db: sqlite3.Connection, job_id: str, before: int) -> tuple[int, str] | None:
    """The newest revision of a job before one that can be read."""
    try:
        rows = db.execute(
            "SELECT id FROM revision WHERE job_id = ? AND id < ? ORDER BY id DESC LIMIT 200",
            (job_id, before),
        ).fetchall()
    except sqlite3.DatabaseError:
        return None
    for row in rows:
        found = _read(db, job_id, row["id"])
        if found is not None:
            return row["id"], found.made_at
    return None


def save(
    db: sqlite3.Connection, job_id: str, base: int, plan: Plan, write: Write | None = None
) -> Head:
    """Make the plan the job's head, as a child of ``base``.

    A plan equal to the head adds nothing, so that a save whose answer was lost can be sent again.
    Where the head is no longer ``base``, the plan is taken all the same if the window that wrote
    last is this one and wrote it earlier. Raises `ConflictError` otherwise, and `NoSuchJobError`.
    """
    with transaction(db):
        current = head(db, job_id)
        document = plan.model_dump(mode="json")
        done = _done(db, job_id, write)
        if document == current.document or (write and done == write):
            return current
        if current.revision != base and not done:
            raise ConflictError(current)
        revision = db.execute(
            "INSERT INTO revision (job_id, parent, made_at, plan) VALUES (?, ?, ?, ?)",
            (job_id, current.revision, now(), json.dumps(document, ensure_ascii=False)),
        ).lastrowid
        _move(db, job_id, int(revision or 0), document, write)
    return head(db, job_id)


def _done(db: sqlite3.Connection, job_id: str, write: Write | None) -> Write | None:
    """The last write of a job where it is of the same window and no later than this one."""
    if write is None:
        return None
    last = Write(*db.execute("SELECT writer, writes FROM job WHERE id = ?", (job_id,)).fetchone())
    return last if last.writer == write.writer and last.number <= write.number else None


def undo(db: sqlite3.Connection, job_id: str, base: int, write: Write | None = None) -> Head:
    """Step back to the revision before ``base``; at the first one, stay."""
    query = "SELECT parent AS id FROM revision WHERE id = ? AND parent IS NOT NULL"
    return _step(db, job_id, base, query, write)


def redo(db: sqlite3.Connection, job_id: str, base: int, write: Write | None = None) -> Head:
    """Step on to the revision last made from ``base``; at the newest one, stay."""
    return _step(db, job_id, base, "SELECT max(id) AS id FROM revision WHERE parent = ?", write)


def go_back(db: sqlite3.Connection, job_id: str, revision: int) -> Head:
    """Make a revision that can be read the head of a job whose head is damaged.

    Raises `NoSuchJobError`.
    """
    with transaction(db):
        found = _read(db, job_id, revision)
        if found is None:
            raise NoSuchJobError(f"Job {job_id} has no revision {revision} that can be read.")
        _move(db, job_id, revision, found.document, None)
    return head(db, job_id)


def delete(db: sqlite3.Connection, job_id: str) -> str:
    """Put a job aside; it can be restored for `KEPT` days. Returns its name. Raises
    `NoSuchJobError`."""
    with transaction(db):
        row = db.execute(
            "UPDATE job SET deleted_at = ? WHERE id = ? AND deleted_at IS NULL RETURNING name",
            (now(), job_id),
        ).fetchone()
    if row is None:
        raise NoSuchJobError(f"There is no job {job_id}. It may have been deleted.")
    return str(row["name"])


def purge(db: sqlite3.Connection, today: datetime) -> int:
    """Delete for good what was deleted more than `KEPT` days ago; returns how many jobs."""
    gone = (today - timedelta(days=KEPT)).isoformat(timespec="milliseconds")
    ids = [row["id"] for row in db.execute("SELECT id FROM job WHERE deleted_at < ?", (gone,))]
    for job_id in ids:
        # One job a transaction: whoever saves meanwhile waits for one job and not for all.
        with transaction(db):
            db.execute("DELETE FROM job WHERE id = ? AND deleted_at < ?", (job_id, gone))
    return len(ids)


def restore(db: sqlite3.Connection, job_id: str) -> Head:
    """Bring a deleted job back with all its revisions. Raises `NoSuchJobError`."""
    with transaction(db):
        if db.execute("UPDATE job SET deleted_at = NULL WHERE id = ?", (job_id,)).rowcount == 0:
            raise NoSuchJobError(f"There is no job {job_id} any more.")
    return head(db, job_id)


def _step(db: sqlite3.Connection, job_id: str, base: int, query: str, write: Write | None) -> Head:
    with transaction(db):
        current = head(db, job_id)
        if write and _done(db, job_id, write) == write:
            return current
        if current.revision != base:
            raise ConflictError(current)
        row = db.execute(query, (base,)).fetchone()
        if row is not None and row["id"] is not None:
            found = _read(db, job_id, row["id"])
            if found is None:
                raise DamagedError(job_id, row["id"], _sound(db, job_id, row["id"]))
            _move(db, job_id, row["id"], found.document, write)
    return head(db, job_id)


def _move(
    db: sqlite3.Connection,
    job_id: str,
    revision: int,
    document: dict[str, Any],
    write: Write | None,
) -> None:
    writer, number = write or (None, 0)
    db.execute(
        "UPDATE job SET head = ?, name = ?, changed_at = ?, writer = ?, writes = ? WHERE id = ?",
        (revision, document["job"]["name"], now(), writer, number, job_id),
    )
