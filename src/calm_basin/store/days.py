"""What day it is where something goes because it is old: the machine's clock may run ahead."""

from __future__ import annotations

import sqlite3
from datetime import UTC, datetime, timedelta

from calm_basin.store.database import transaction

STRIDE = timedelta(days=2)
"""So far a day may lie after the one that was believed before: a machine that was off for a month
catches up in a fortnight, and a clock that ran ahead for a day lets nothing go."""


def believed(db: sqlite3.Connection) -> datetime:
    """This moment, or an earlier one where the clock has jumped: asked once a day, it follows."""
    moment = datetime.now(UTC)
    with transaction(db):
        row = db.execute("SELECT max(day) AS day FROM believed").fetchone()
        before = datetime.fromisoformat(row["day"]) if row["day"] else moment
        day = min(moment, before + STRIDE)
        db.execute("DELETE FROM believed")
        # One that runs behind for a day does not begin anew.
        last = max(day, before).isoformat(timespec="seconds")
        db.execute("INSERT INTO believed (day) VALUES (?)", (last,))
    return day
