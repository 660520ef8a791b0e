"""Open the database and bring it up to date."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from importlib import resources
from pathlib import Path


class StoreError(RuntimeError):
    """The database cannot be used; the message says why and what helps."""


def connect(path: Path) -> sqlite3.Connection:
    """Open a connection that keeps what it has promised: foreign keys on, WAL, full sync."""
    connection = sqlite3.connect(path, timeout=5, isolation_level=None)
    connection.row_factory = sqlite3.Row
    connection.execute("PRAGMA foreign_keys = ON")
    connection.execute("PRAGMA journal_mode = WAL")
    connection.execute("PRAGMA synchronous = FULL")
    return connection


@contextmanager
def transaction(connection: sqlite3.Connection) -> Iterator[None]:
    """All of what is inside, or nothing; takes the write lock at once."""
    connection.execute("BEGIN IMMEDIATE")
    try:
        yield
    except BaseException:
        connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")


def migrate(path: Path) -> None:
    """Create the database, or apply the numbered migrations it does not have yet."""
    path.parent.mkdir(parents=True, exist_ok=True)
    folder = resources.files("calm_basin.store") / "migrations"
    files = sorted((f for f in folder.iterdir() if f.name.endswith(".sql")), key=lambda f: f.name)
    try:
        connection = connect(path)
    except sqlite3.DatabaseError as error:
        raise StoreError(f"{path} cannot be opened as a database: {error}.") from error
    try:
        done = connection.execute("PRAGMA user_version").fetchone()[0]
        if done > len(files):
            raise StoreError(f"{path} was made by a newer Calm Basin. Open it with that one.")
        for number, file in enumerate(files[done:], start=done + 1):
            script = file.read_text("utf-8")
            connection.executescript(f"BEGIN;\n{script}\nPRAGMA user_version = {number};\nCOMMIT;")
    finally:
        connection.close()
