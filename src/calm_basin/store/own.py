"""What is one's own beside what ships: texts by id, a table each."""

from __future__ import annotations

import sqlite3
from datetime import UTC, datetime
from typing import Literal

from calm_basin.store.database import transaction

Table = Literal["rule_set", "drain_family", "build_system", "layer_kind"]

MOST = 40
"""So many of one kind are kept."""


class NotOwnError(LookupError):
    """There is nothing of one's own with this id."""


def texts(db: sqlite3.Connection, table: Table) -> list[str]:
    """All texts of a table, by id."""
    return [row["toml"] for row in db.execute(f"SELECT toml FROM {table} ORDER BY id")]


def put(db: sqlite3.Connection, table: Table, items: dict[str, str]) -> None:
    """Keep texts by id, all or none, each in the place of the one that has its id."""
    now = datetime.now(UTC).isoformat(timespec="milliseconds")
    with transaction(db):
        db.executemany(
            f"INSERT INTO {table} (id, toml, changed_at) VALUES (?, ?, ?) "
            "ON CONFLICT (id) DO UPDATE SET toml = excluded.toml, changed_at = excluded.changed_at",
            [(name, toml, now) for name, toml in items.items()],
        )


def remove(db: sqlite3.Connection, table: Table, name: str, what: str) -> None:
    """Remove a text; ``what`` is what it is called. Raises `NotOwnError`."""
    with transaction(db):
        if db.execute(f"DELETE FROM {table} WHERE id = ?", (name,)).rowcount == 0:
            raise NotOwnError(f"There is no {what} of your own called “{name}”.")
