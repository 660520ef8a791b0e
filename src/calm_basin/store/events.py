"""The log of who came in, what was deleted and what was restored."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Literal

from calm_basin.store.database import now, transaction

Kind = Literal[
    "signed in", "refused", "signed out", "passphrase", "deleted", "restored", "put back"
]

DAYS = 365
"""Events are kept for a year."""


@dataclass(frozen=True)
class Event:
    """What happened, when, and from which address it was asked for."""

    at: str
    kind: str
    address: str
    detail: str


def tell(db: sqlite3.Connection, kind: Kind, address: str, detail: str = "") -> None:
    """Write an event down, and let go of those that are old."""
    with transaction(db):
        add(db, kind, address, detail)


def add(db: sqlite3.Connection, kind: Kind, address: str, detail: str = "") -> int:
    """The same within a transaction; returns the event's number."""
    old = (datetime.now(UTC) - timedelta(days=DAYS)).isoformat(timespec="milliseconds")
    number = db.execute(
        "INSERT INTO event (at, kind, address, detail) VALUES (?, ?, ?, ?)",
        (now(), kind, address, detail[:200]),
    ).lastrowid
    db.execute("DELETE FROM event WHERE at < ?", (old,))
    return int(number or 0)


def forget(db: sqlite3.Connection, number: int) -> None:
    """Take an event back that was written down before it was known what would come of it."""
    with transaction(db):
        db.execute("DELETE FROM event WHERE id = ?", (number,))


def told(db: sqlite3.Connection, most: int = 200) -> list[Event]:
    """The newest events, the last first."""
    rows = db.execute(
        "SELECT at, kind, address, detail FROM event ORDER BY id DESC LIMIT ?", (most,)
    )
    return [Event(**dict(row)) for row in rows]


def refused_within(db: sqlite3.Connection, time: timedelta, address: str | None = None) -> int:
    """How many sign-ins were refused in the time until now, from one address or from all, since the
    passphrase was last set. What is dated ahead, when the clock was, does not count."""
    moment = datetime.now(UTC)
    row = db.execute(
        "SELECT count(*) FROM event WHERE kind = 'refused' AND at BETWEEN ?1 AND ?2 "
        "AND ?3 IN (address, '') "
        "AND id > (SELECT coalesce(max(id), 0) FROM event WHERE kind = 'passphrase')",
        (
            (moment - time).isoformat(timespec="milliseconds"),
            moment.isoformat(timespec="milliseconds"),
            address or "",
        ),
    )
    return int(row.fetchone()[0])
