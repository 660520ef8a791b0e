"""Jobs and the revisions of their plans."""

from __future__ import annotations

import sqlite3
import uuid
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from calm_basin.plan import Plan, read_plan
from calm_basin.store.database import transaction

KEPT = 30
"""Days for which a deleted job can be brought back."""


@dataclass(frozen=True)
class JobRow:
    """A job in the list."""

    id: str
    name: str
    made_at: str
    changed_at: str


@dataclass(frozen=True)
class Head:
    """Where a job stands: its plan, the revision it is and which ways lead on."""

    job_id: str
    revision: int
    plan: Plan
    can_undo: bool
    can_redo: bool


class NoSuchJobError(LookupError):
    """There is no job with this id."""


class ConflictError(RuntimeError):
    """The job has moved on since the writer last read it; carries where it stands now."""

    def __init__(self, head: Head) -> None:
        super().__init__("The job was changed elsewhere.")
        self.head = head


def list_jobs(db: sqlite3.Connection) -> list[JobRow]:
    """All jobs, the one changed last first."""
    rows = db.execute(
        """
        SELECT id, name, made_at, changed_at FROM job
        WHERE deleted_at IS NULL ORDER BY changed_at DESC, id
        """
    )
    return [JobRow(**dict(row)) for row in rows]


def create(db: sqlite3.Connection, plan: Plan) -> Head:
    """Add a job whose first revision is this plan."""
    job_id, now = uuid.uuid4().hex[:12], _now()
    with transaction(db):
        revision = db.execute(
            "INSERT INTO revision (job_id, parent, made_at, plan) VALUES (?, NULL, ?, ?)",
            (job_id, now, plan.model_dump_json()),
        ).lastrowid
        db.execute(
            "INSERT INTO job (id, name, made_at, changed_at, head) VALUES (?, ?, ?, ?, ?)",
            (job_id, plan.job.name, now, now, revision),
        )
    return head(db, job_id)


def head(db: sqlite3.Connection, job_id: str) -> Head:
    """Where a job stands. Raises `NoSuchJobError`."""
    row = db.execute(
        """
        SELECT job.head, revision.plan, revision.parent,
               EXISTS (SELECT 1 FROM revision AS child WHERE child.job_id = job.id
                       AND child.parent = job.head) AS can_redo
        FROM job JOIN revision ON revision.id = job.head
        WHERE job.id = ? AND job.deleted_at IS NULL
        """,
        (job_id,),
    ).fetchone()
    if row is None:
        raise NoSuchJobError(f"There is no job {job_id}. It may have been deleted.")
    return Head(
        job_id=job_id,
        revision=row["head"],
        plan=read_plan(row["plan"]),
        can_undo=row["parent"] is not None,
        can_redo=bool(row["can_redo"]),
    )


def save(db: sqlite3.Connection, job_id: str, base: int, plan: Plan) -> Head:
    """Make the plan the job's head, as a child of ``base``.

    A plan equal to the head adds nothing. Raises `ConflictError` where the head is no longer
    ``base``, and `NoSuchJobError`.
    """
    with transaction(db):
        current = _expect(db, job_id, base)
        if plan != current.plan:
            now = _now()
            revision = db.execute(
                "INSERT INTO revision (job_id, parent, made_at, plan) VALUES (?, ?, ?, ?)",
                (job_id, base, now, plan.model_dump_json()),
            ).lastrowid
            _move(db, job_id, int(revision or 0), plan)
    return head(db, job_id)


def undo(db: sqlite3.Connection, job_id: str, base: int) -> Head:
    """Step back to the revision before ``base``; at the first one, stay."""
    return _step(
        db, job_id, base, "SELECT parent AS id FROM revision WHERE id = ? AND parent IS NOT NULL"
    )


def redo(db: sqlite3.Connection, job_id: str, base: int) -> Head:
    """Step on to the revision last made from ``base``; at the newest one, stay."""
    return _step(db, job_id, base, "SELECT max(id) AS id FROM revision WHERE parent = ?")


def delete(db: sqlite3.Connection, job_id: str) -> None:
    """Delete a job; it can be restored for `KEPT` days. Raises `NoSuchJobError`."""
    now = datetime.now(UTC)
    gone = (now - timedelta(days=KEPT)).isoformat(timespec="milliseconds")
    with transaction(db):
        found = db.execute(
            "UPDATE job SET deleted_at = ? WHERE id = ? AND deleted_at IS NULL", (_now(), job_id)
        )
        if found.rowcount == 0:
            raise NoSuchJobError(f"There is no job {job_id}. It may have been deleted.")
        db.execute("DELETE FROM job WHERE deleted_at < ?", (gone,))


def restore(db: sqlite3.Connection, job_id: str) -> Head:
    """Bring a deleted job back with all its revisions. Raises `NoSuchJobError`."""
    with transaction(db):
        if db.execute("UPDATE job SET deleted_at = NULL WHERE id = ?", (job_id,)).rowcount == 0:
            raise NoSuchJobError(f"There is no job {job_id} any more.")
    return head(db, job_id)


def _step(db: sqlite3.Connection, job_id: str, base: int, query: str) -> Head:
    with transaction(db):
        _expect(db, job_id, base)
        row = db.execute(query, (base,)).fetchone()
        if row is not None and row["id"] is not None:
            text = db.execute("SELECT plan FROM revision WHERE id = ?", (row["id"],)).fetchone()
            _move(db, job_id, row["id"], read_plan(text["plan"]))
    return head(db, job_id)


def _expect(db: sqlite3.Connection, job_id: str, base: int) -> Head:
    current = head(db, job_id)
    if current.revision != base:
        raise ConflictError(current)
    return current


def _move(db: sqlite3.Connection, job_id: str, revision: int, plan: Plan) -> None:
    db.execute(
        "UPDATE job SET head = ?, name = ?, changed_at = ? WHERE id = ?",
        (revision, plan.job.name, _now(), job_id),
    )


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="milliseconds")
