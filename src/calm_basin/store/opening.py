"""Open the store whatever state its file is in, and say what is wrong with it."""

from __future__ import annotations

import sqlite3
import tempfile
from contextlib import closing, suppress
from pathlib import Path
from typing import Literal, NamedTuple

from calm_basin.store.backup import clear_parts
from calm_basin.store.copies import copies, copy_before, folder_of, newest_whole
from calm_basin.store.database import (
    StoreError,
    connect,
    connect_to_read,
    cure_of,
    migrate,
    migrations,
    raise_if_foreign,
    version_of,
)


class Trouble(NamedTuple):
    """Why nothing can be saved, and what helps; ``copy`` is the newest copy that is whole."""

    kind: Literal["damaged", "not writable"]
    detail: str
    copy: str | None


class Store:
    """The database of one file, and what is wrong with it.

    A damaged file, or one that cannot be written, is opened to be read. Raises `StoreError` where
    not even that is to be had.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        self.trouble: Trouble | None = None
        self.undone = ""
        """Why what is done every day was not done, as a sentence; empty where it was."""
        self._aside: tempfile.TemporaryDirectory[str] | None = None
        self._reading: Path | None = None
        self.open()

    def open(self) -> None:
        """Look at the file anew, as after it was put back."""
        self.close()
        self.trouble, self._reading = None, None
        with suppress(OSError):
            clear_parts(self.path.parent, folder_of(self.path))
        damage = _damage(self.path)
        if damage:
            copy = newest_whole(self.path)
            kept = "It was left as it is, and what can still be read is shown. "
            cure = (
                f"Restore {copy.name}, the newest copy that is whole."
                if copy
                else "Restore a backup if you have one."
            )
            self.trouble = Trouble("damaged", f"{damage} {kept}{cure}", copy.name if copy else None)
            self._reading = self._set_aside()
            return
        try:
            migrate(self.path, lambda version: copy_before(self.path, version))
            with closing(connect(self.path)) as db:
                db.execute("BEGIN IMMEDIATE")
                db.execute("PRAGMA user_version = " + str(version_of(db)))
                db.execute("ROLLBACK")
        except (StoreError, sqlite3.OperationalError) as error:
            self._only_read(error)

    def _only_read(self, error: StoreError | sqlite3.OperationalError) -> None:
        cause = error if isinstance(error, sqlite3.Error) else error.__cause__
        if not isinstance(cause, OSError | sqlite3.OperationalError) or not self.path.exists():
            raise error if isinstance(error, StoreError) else StoreError(str(error)) from error
        said = str(error) if isinstance(error, StoreError) else f"{error}. {cure_of(cause)}"
        self.trouble = Trouble("not writable", f"Nothing can be saved: {said}", None)
        log = Path(f"{self.path}-wal")
        # With a log beside it the file cannot be read where nothing can be made beside it.
        current = False
        if not log.exists() or not log.stat().st_size:
            with closing(connect_to_read(self.path)) as db:
                current = version_of(db) == len(migrations())
        self._reading = self.path if current else self._set_aside()

    def _set_aside(self) -> Path:
        """A copy elsewhere, brought up to date as far as that goes; an empty one where nothing is
        left of the file."""
        self._aside = tempfile.TemporaryDirectory(prefix="calm-basin-")
        copy = Path(self._aside.name) / "jobs.sqlite3"
        for end in ("", "-wal"):
            file = Path(f"{self.path}{end}")
            if file.exists():
                Path(f"{copy}{end}").write_bytes(file.read_bytes())
        try:
            migrate(copy)
            with closing(connect(copy)) as db:
                db.execute("SELECT id, head, writer FROM job").fetchall()
        except (StoreError, sqlite3.Error):
            for file in Path(self._aside.name).iterdir():
                file.unlink()
            migrate(copy)
        with closing(connect(copy)) as db:
            db.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
        return copy

    def connect(self) -> sqlite3.Connection:
        """A connection, which writes nothing while there is trouble. Raises `sqlite3.Error`."""
        return connect(self.path) if self._reading is None else connect_to_read(self._reading)

    def close(self) -> None:
        """Let go of what was set aside."""
        if self._aside is not None:
            self._aside.cleanup()
            self._aside = None


def _damage(path: Path) -> str:
    """What is wrong inside the file, as a sentence; nothing where it is whole or new.

    Raises `StoreError` where it is no database of Calm Basin's.
    """
    if not path.exists():
        return ""
    if path.is_dir():
        raise StoreError(f"{path} is a folder. Choose a file with --database.")
    had = bool(copies(path))
    try:
        if path.stat().st_size == 0:
            return f"{path} is empty, and was not." if had else ""
        with closing(connect_to_read(path)) as db:
            raise_if_foreign(db, path) if not had and version_of(db) == 0 else None
            wrong = [row[0] for row in db.execute("PRAGMA quick_check(3)") if row[0] != "ok"]
        return f"{path} is damaged: {'; '.join(wrong)}." if wrong else ""
    except OSError as error:
        raise StoreError(f"{path} cannot be read: {error.strerror}. {cure_of(error)}") from error
    except sqlite3.OperationalError as error:
        if "locked" in str(error) or "unable to open" in str(error):
            return ""
        return f"{path} is damaged: {error}."
    except sqlite3.DatabaseError as error:
        if had:
            return f"{path} is damaged: {error}."
        raise StoreError(
            f"{path} is not a database: {error}. Choose another with --database."
        ) from error
