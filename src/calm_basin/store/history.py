"""The history of a job thins out as it grows old, and the space comes back."""

from __future__ import annotations

import sqlite3
from datetime import UTC, datetime, timedelta
from itertools import groupby

from calm_basin.store.database import transaction

EVERY_STEP = 7
"""Days for which every step is kept."""

EVERY_HOUR = 30
"""Days for which the last step of each hour is kept; after them, the last of each day."""

ALWAYS = 100
"""So many of a job's newest steps are kept however old they are."""

PIECE = 500
"""So many pages are given back at a time: who saves meanwhile does not wait for more."""


def thin(db: sqlite3.Connection, today: datetime) -> int:
    """Thin out the histories of all jobs; returns how many steps went.

    Kept are a job's first step, where it stands, its newest `ALWAYS`, those that its site log was
    judged by, every step of the last `EVERY_STEP` days, the last of each hour up to `EVERY_HOUR`
    days back and the last of each day before. What followed a step that goes then follows the one
    before it.
    """
    old = (today - timedelta(days=EVERY_STEP)).isoformat(timespec="milliseconds")
    jobs = db.execute(
        """
        SELECT job.id FROM job WHERE (SELECT count(*) FROM revision WHERE job_id = job.id) > ?
        AND EXISTS (SELECT 1 FROM revision WHERE job_id = job.id AND made_at < ?)
        """,
        (ALWAYS, old),
    ).fetchall()
    return sum(_thin_one(db, row["id"], today) for row in jobs)


def _thin_one(db: sqlite3.Connection, job_id: str, today: datetime) -> int:
    with transaction(db):
        head = db.execute("SELECT head FROM job WHERE id = ?", (job_id,)).fetchone()["head"]
        rows = db.execute(
            "SELECT id, parent, made_at FROM revision WHERE job_id = ? ORDER BY id", (job_id,)
        ).fetchall()
        kept = {head} | {row["id"] for row in rows if row["parent"] is None}
        kept |= {row["id"] for row in rows[-ALWAYS:]}
        # What the site log was judged by is part of its proof.
        logged = db.execute("SELECT revision FROM log_entry WHERE job_id = ?", (job_id,))
        kept |= {row["revision"] for row in logged} & {row["id"] for row in rows}
        for _, steps in groupby(rows, key=lambda row: _span(row, today)):
            kept.add(max(row["id"] for row in steps))
        before = {row["id"]: row["parent"] for row in rows}
        moved = []
        for number in kept:
            parent = before[number]
            while parent is not None and parent not in kept:
                parent = before[parent]
            if parent != before[number]:
                moved.append((parent, number))
        gone = [(number,) for number in before if number not in kept]
        db.executemany("UPDATE revision SET parent = ? WHERE id = ?", moved)
        db.executemany("DELETE FROM revision WHERE id = ?", gone)
    return len(gone)


def _span(row: sqlite3.Row, today: datetime) -> str:
    """What a step shares with those of which only the last is kept: itself, its hour, its day."""
    try:
        made = datetime.fromisoformat(row["made_at"])
    except ValueError:
        # Of one whose time is none it is not known that it is old.
        return str(row["id"])
    made = made if made.tzinfo else made.replace(tzinfo=UTC)
    if today - made < timedelta(days=EVERY_STEP):
        return str(row["id"])
    return made.strftime("%Y-%m-%d %H" if today - made < timedelta(days=EVERY_HOUR) else "%Y-%m-%d")


def give_back(db: sqlite3.Connection) -> None:
    """Give the space of what was deleted back to the disk, a piece at a time."""
    while free := db.execute("PRAGMA freelist_count").fetchone()[0]:
        db.execute(f"PRAGMA incremental_vacuum({PIECE})").fetchall()
        if db.execute("PRAGMA freelist_count").fetchone()[0] >= free:
            break
    db.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
