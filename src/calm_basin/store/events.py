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
    old = (datetime.now(UTC) - timedelta(days=DAYS)).isoformat(timespec="milliseconds")
    with transaction(db):
        db.execute(
            "INSERT INTO event (at, kind, address, detail) VALUES (?, ?, ?, ?)",
            (now(), kind, address, detail[:200]),
        )
        db.execute("DELETE FROM event WHERE at < ?", (old,))


def told(db: sqlite3.Connection, most: int = 200) -> list[Event]:
    """The newest events, the last first."""
    rows = db.execute(
        "SELECT at, kind, address, detail FROM event ORDER BY id DESC LIMIT ?", (most,)
    )
    return [Event(**dict(row)) for row in rows]


def refused_since(db: sqlite3.Connection, since: datetime, address: str | None = None) -> int:
    """How many sign-ins were refused since then, from one address or from all."""
    row = db.execute(
        "SELECT count(*) FROM event WHERE kind = 'refused' AND at > ? AND ?2 IN (address, '')",
        (since.isoformat(timespec="milliseconds"), address or ""),
    )
    return int(row.fetchone()[0])
