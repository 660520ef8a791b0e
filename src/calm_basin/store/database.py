"""Open the database and bring it up to date."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime
from importlib import resources
from importlib.resources.abc import Traversable
from pathlib import Path
from typing import Any

OURS = 0x63626173
"""The application id in the file's header, by which it is known as one of Calm Basin's."""

LARGEST_JOB = 200_000_000
"""Most bytes that a job's file may have."""

LARGEST_PHOTO = 40_000_000
"""Most bytes that a photo of the site log may have."""

LARGEST_RECORD = 4_000_000_000
"""Most bytes that a job's record, with its photos, may have."""

PATIENCE = 5.0
"""So long one waits for another's lock, s."""


class StoreError(RuntimeError):
    """The database cannot be used; the message says why and what helps."""


def now() -> str:
    """This moment, as the store writes it."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


def connect(path: Path) -> sqlite3.Connection:
    """Open a connection that keeps what it has promised: foreign keys on, WAL, full sync.

    On a volume that can only be read the connection can too. Raises `sqlite3.Error`.
    """
    connection = _opened(f"{path.absolute().as_uri()}?mode=rwc")
    try:
        connection.execute("PRAGMA journal_mode = WAL")
        connection.execute("SELECT count(*) FROM sqlite_schema").fetchone()
    except sqlite3.DatabaseError as error:
        connection.close()
        if not isinstance(error, sqlite3.OperationalError) or "locked" in str(error):
            raise
        return connect_to_read(path)
    connection.execute("PRAGMA synchronous = FULL")
    return connection


def connect_to_read(path: Path) -> sqlite3.Connection:
    """Open a connection that writes nothing, not even beside the file."""
    address = path.absolute().as_uri()
    log = Path(f"{path}-wal")
    # Without a log the file stands still: it needs no shared memory beside it.
    still = not log.exists() or log.stat().st_size == 0
    connection = _opened(f"{address}?{'immutable=1' if still else 'mode=ro'}")
    try:
        connection.execute("SELECT count(*) FROM sqlite_schema").fetchone()
    except sqlite3.Error:
        connection.close()
        raise
    return connection


class _Connection(sqlite3.Connection):
    """One that names damage as such: what SQLite says of it may hold bytes that are no text."""

    def execute(self, *args: Any) -> sqlite3.Cursor:
        try:
            return super().execute(*args)
        except UnicodeDecodeError as error:
            raise sqlite3.DatabaseError("its tables are no longer described as such") from error


def _opened(address: str) -> sqlite3.Connection:
    connection = sqlite3.connect(
        address, timeout=PATIENCE, isolation_level=None, uri=True, factory=_Connection
    )
    connection.row_factory = sqlite3.Row
    connection.execute("PRAGMA foreign_keys = ON")
    return connection


@contextmanager
def transaction(connection: sqlite3.Connection) -> Iterator[None]:
    """All of what is inside, or nothing; takes the write lock at once."""
    connection.execute("BEGIN IMMEDIATE")
    try:
        yield
    except BaseException:
        if connection.in_transaction:
            connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")


def migrations() -> list[Traversable]:
    """The numbered scripts, in their order."""
    folder = resources.files("calm_basin.store") / "migrations"
    return sorted((f for f in folder.iterdir() if f.name.endswith(".sql")), key=lambda f: f.name)


def version_of(connection: sqlite3.Connection) -> int:
    """How many migrations a database has had."""
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def migrate(
    path: Path, before: Callable[[int], None] = lambda _version: None, upto: int | None = None
) -> None:
    """Create the database, or apply the numbered migrations it does not have yet, ``upto`` one.

    ``before`` is called with the version it has before one is applied to what is in it. Any number
    of processes may do this at once: one does it, the others wait. Raises `StoreError`.
    """
    files = migrations()[:upto]
    try:
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        # The log and the shared memory beside it take this file's permissions.
        path.touch(mode=0o600)
        path.chmod(0o600)
    except OSError as error:
        raise StoreError(f"{path} cannot be written: {error.strerror}. {cure_of(error)}") from error
    try:
        with closing(_opened(f"{path.absolute().as_uri()}?mode=rw")) as connection:
            _up_to(connection, files, path, before)
    except sqlite3.DatabaseError as error:
        raise StoreError(f"{path} cannot be used: {error}. {cure_of(error)}") from error


def _up_to(
    connection: sqlite3.Connection,
    files: list[Traversable],
    path: Path,
    before: Callable[[int], None],
) -> None:
    done = version_of(connection)
    if done > len(files):
        raise StoreError(f"{path} was made by a newer Calm Basin. Open it with that one.")
    if done == 0:
        raise_if_foreign(connection, path)
    if done == len(files):
        return
    if done:
        before(done)
    # Space that is freed later is given back in small pieces; it can only be said at the start.
    connection.execute(f"PRAGMA busy_timeout = {int(1000 * 6 * PATIENCE)}")
    if done == 0:
        connection.execute("PRAGMA auto_vacuum = INCREMENTAL")
    connection.execute("PRAGMA journal_mode = WAL")
    connection.execute("PRAGMA foreign_keys = OFF")
    connection.execute("BEGIN EXCLUSIVE")
    try:
        # Another process may have been quicker.
        done = version_of(connection)
        for number, file in enumerate(files[done:], start=done + 1):
            for statement in _statements(file.read_text("utf-8")):
                connection.execute(statement)
            connection.execute(f"PRAGMA user_version = {number}")
        connection.execute(f"PRAGMA application_id = {OURS}")
        broken = connection.execute("PRAGMA foreign_key_check").fetchall()
        if broken:
            raise sqlite3.DatabaseError(f"{len(broken)} rows point at rows that are gone")
    except BaseException:
        connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")
    if connection.execute("PRAGMA auto_vacuum").fetchone()[0] != 2:
        connection.execute("PRAGMA auto_vacuum = INCREMENTAL")
        connection.execute("VACUUM")


def _statements(script: str) -> Iterator[str]:
    """The statements of a script, so that all of it can be one transaction."""
    statement = ""
    for line in script.splitlines(keepends=True):
        statement += line
        if sqlite3.complete_statement(statement):
            yield statement
            statement = ""


def raise_if_foreign(connection: sqlite3.Connection, path: Path) -> None:
    """Raise `StoreError` where a database is another program's. One without a table is nobody's
    yet: another process of this program may be making it."""
    names = {row[0] for row in connection.execute("SELECT name FROM sqlite_schema")}
    if names and not {"job", "revision"} <= names:
        raise StoreError(
            f"{path} is another program's database. Choose another file with --database."
        )


def cure_of(error: OSError | sqlite3.Error) -> str:
    """What helps against a failure of the disk, in a sentence."""
    said = str(error).lower()
    if "full" in said or "no space" in said:
        return "Free some disk space."
    if "permission" in said or "readonly" in said or "read-only" in said:
        return "Make the folder and the file writable for you, or choose another with --database."
    if "locked" in said or "busy" in said:
        return "Close other programs that use the file."
    return "Check the disk, or choose another file with --database."
