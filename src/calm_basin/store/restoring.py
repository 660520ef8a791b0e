"""A backup put in the place of all jobs: read as data, never opened as a database that may act."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from calm_basin.store import photos
from calm_basin.store.backup import (
    OF_THIS_MACHINE,
    WORKED_OUT,
    BackupError,
    Contents,
    beside,
    contents_of,
    part_of,
    raise_if_wrong,
    raise_unless_ours,
    settled,
)
from calm_basin.store.copies import folder_of, keep_aside
from calm_basin.store.database import (
    StoreError,
    connect,
    connect_to_read,
    migrate,
    transaction,
    version_of,
)

LARGEST_VALUE = 8_000_000
"""Most bytes of one value in a backup: a plan has at most half of that."""


def restore(path: Path, file: Path) -> Contents:
    """Put what is in a copy in the place of all jobs here, after a copy of those was kept.

    Raises `BackupError`; nothing was changed then.
    """
    if not file.is_file():
        raise BackupError(f"There is no file {file}. Choose one that was written as a backup.")
    try:
        with _alone(path), part_of(path) as part:
            contents = _carried_over(file, part)
            with photos.writing(path):
                _put(part, path, file)
    except StoreError as error:
        raise BackupError(str(error)) from error
    except (OSError, sqlite3.Error) as error:
        raise BackupError(f"{file.name} could not be put back: {error}.") from error
    return contents


def _put(part: Path, path: Path, file: Path) -> None:
    """Put a database that was read whole in the place of the one here, its photos first. Raises
    `BackupError`."""
    with closing(connect(part)) as there:
        raise_if_wrong([f"photo {name[:12]}" for name in photos.take_out(there, path)], file)
    if path.exists() and keep_aside(path):
        with closing(connect(path)) as here, closing(connect(part)) as there:
            _with_ours(there, path)
            there.backup(here)
        return
    with closing(connect(part)) as there:
        there.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
    for gone in (path, *beside(path)):
        gone.unlink(missing_ok=True)
    settled(part, path)


@contextmanager
def _alone(path: Path) -> Iterator[None]:
    """One restore at a time, whichever process asks for it. Raises `BackupError`."""
    folder = folder_of(path)
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    with closing(sqlite3.connect(folder / ".restoring", timeout=0, isolation_level=None)) as lock:
        try:
            lock.execute("BEGIN EXCLUSIVE")
        except sqlite3.OperationalError:
            raise BackupError(
                "Another restore is under way. Wait until it has ended and look at what is there."
            ) from None
        yield


def _carried_over(file: Path, part: Path) -> Contents:
    """Write the rows of a backup's known tables into a new database, and bring that up to date.

    Raises `BackupError` and `StoreError` with what is wrong.
    """
    try:
        with closing(_as_data(file)) as there:
            raise_unless_ours(there, file)
            migrate(part, upto=version_of(there))
            with closing(connect(part)) as here:
                here.execute("PRAGMA foreign_keys = OFF")
                with transaction(here):
                    for table in _tables(here):
                        if table not in (*OF_THIS_MACHINE, *WORKED_OUT):
                            _rows_over(there, here, table, file)
                    # A step follows one of its own job before it: nothing else is a history.
                    here.execute(
                        "UPDATE revision SET parent = NULL WHERE parent >= id OR job_id IS NOT "
                        "(SELECT job_id FROM revision AS before WHERE before.id = revision.parent)"
                    )
                raise_if_wrong(_bad_dates(here), file)
    except sqlite3.DatabaseError as error:
        raise BackupError(f"{file.name} is no whole backup: {error}. Choose another.") from error
    migrate(part)
    with closing(connect(part)) as here:
        return contents_of(here, file)


def _as_data(file: Path) -> sqlite3.Connection:
    db = connect_to_read(file)
    db.execute("PRAGMA trusted_schema = OFF")
    db.execute("PRAGMA cell_size_check = ON")
    db.setlimit(sqlite3.SQLITE_LIMIT_LENGTH, LARGEST_VALUE)
    return db


def _tables(db: sqlite3.Connection) -> list[str]:
    rows = db.execute(
        "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite%'"
    )
    return [row[0] for row in rows]


def _rows_over(there: sqlite3.Connection, here: sqlite3.Connection, table: str, file: Path) -> None:
    """Write all rows of one table over. Raises `BackupError` where it is not what it was made as:
    a view, or columns that work something out, might act."""
    made = there.execute(
        "SELECT sql FROM sqlite_schema WHERE name = ? AND type = 'table'", (table,)
    ).fetchone()
    names = [row["name"] for row in here.execute(f'PRAGMA table_xinfo("{table}")')]
    plain = {
        row["name"] for row in there.execute(f'PRAGMA table_xinfo("{table}")') if row["hidden"] == 0
    }
    if made is None or "virtual" in made["sql"].lower() or not plain.issuperset(names):
        raise_if_wrong([f"its table {table} is another"], file)
    columns = ", ".join(f'"{name}"' for name in names)
    marks = ", ".join("?" * len(names))
    rows = there.execute(f'SELECT {columns} FROM main."{table}"')
    here.executemany(f'INSERT INTO "{table}" ({columns}) VALUES ({marks})', map(tuple, rows))


def _bad_dates(db: sqlite3.Connection) -> list[str]:
    """Rows whose times are none: what is old is told by them."""
    found = []
    for table, column in (("job", "made_at"), ("job", "changed_at"), ("revision", "made_at")):
        rows = db.execute(
            f"SELECT id FROM {table} WHERE {column} NOT GLOB '????-??-??T*' "
            f"OR julianday({column}) IS NULL LIMIT 3"
        )
        found += [f"{column} of row {row[0]} of {table}" for row in rows]
    return found


def _with_ours(there: sqlite3.Connection, path: Path) -> None:
    """Take over who may come in here and who did."""
    there.execute("ATTACH ? AS ours", (str(path),))
    for table in OF_THIS_MACHINE:
        there.execute(f"DELETE FROM main.{table}")
        there.execute(f"INSERT INTO main.{table} SELECT * FROM ours.{table}")
    there.execute("DETACH ours")
