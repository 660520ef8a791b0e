"""All jobs with their histories in one file: written, and looked through."""

from __future__ import annotations

import os
import sqlite3
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from pathlib import Path

from calm_basin.store.database import (
    StoreError,
    connect,
    connect_to_read,
    cure_of,
    migrations,
    raise_if_foreign,
    version_of,
)

OF_THIS_MACHINE = ("passphrase", "session", "event", "believed")
"""Tables that say who may come in here and who did, and what day it is: they stay when other jobs
are put in."""

WORKED_OUT = ("card",)
"""Tables of what can be worked out again: what a file from elsewhere says of it is not believed."""

WITH_PHOTOS = 10
"""Since this version of the tables copies may hold photos."""

MOST_NAMED = 3
"""So much of what is wrong, or cannot be read, is told one by one."""

STALE = 3600.0
"""A half-written file that nobody wrote to for so long was left by a process that is gone, s."""


class BackupError(RuntimeError):
    """A copy cannot be written or put back; nothing was changed. The message says why."""


@dataclass(frozen=True)
class Contents:
    """What is in a copy that was found whole; ``unread`` names the steps whose plans cannot be
    read, which are in it as they stand."""

    jobs: int
    revisions: int
    changed_at: str
    unread: tuple[str, ...] = ()
    photos: int = 0

    def told(self) -> str:
        """Counts in words, with what cannot be read by name."""
        said = f"{_many(self.jobs, 'job')} with {_many(self.revisions, 'step')}"
        if self.photos:
            said += f" and {_many(self.photos, 'photo')}"
        if not self.unread:
            return said
        more = len(self.unread) - MOST_NAMED
        named = "; ".join(self.unread[:MOST_NAMED]) + (f"; and {more} more" if more > 0 else "")
        return f"{said}, of which {len(self.unread)} cannot be read ({named})"


def _many(count: int, what: str) -> str:
    return f"{count:,} {what}" + ("" if count == 1 else "s")


def write_copy(
    path: Path, target: Path, add: Callable[[sqlite3.Connection], None] = lambda _copy: None
) -> Contents:
    """Write all that is in the database into one file, which is there whole and checked or not at
    all. ``add`` puts what lies beside the database into it. Raises `BackupError`."""
    try:
        with part_of(target) as part:
            with closing(connect(path)) as source, closing(sqlite3.connect(part)) as copy:
                source.backup(copy)
                # One file: without a log beside it, and without the keys to this machine's door.
                copy.execute("PRAGMA journal_mode = DELETE")
                for table in OF_THIS_MACHINE[:2]:
                    copy.execute(f"DELETE FROM {table}")
                copy.row_factory = sqlite3.Row
                add(copy)
                copy.commit()
            contents = check(part)
            settled(part, target)
    except (OSError, sqlite3.Error) as error:
        raise BackupError(f"{target} cannot be written: {error}. {cure_of(error)}") from error
    return contents


@contextmanager
def part_of(target: Path) -> Iterator[Path]:
    """A file of its own beside the target that is gone afterwards, for its owner alone."""
    target.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    handle, name = tempfile.mkstemp(prefix=f".{target.name}.", suffix=".part", dir=target.parent)
    os.close(handle)
    part = Path(name)
    try:
        yield part
    finally:
        for file in (part, *beside(part)):
            file.unlink(missing_ok=True)


def beside(path: Path) -> list[Path]:
    """What SQLite keeps beside a database."""
    return [Path(f"{path}-wal"), Path(f"{path}-shm")]


def clear_parts(*folders: Path) -> None:
    """Clear away what processes that were killed left half-written. Raises `OSError`."""
    for folder in folders:
        for part in folder.glob(".*.part*") if folder.is_dir() else ():
            if time.time() - part.stat().st_mtime > STALE:
                part.unlink(missing_ok=True)


def settled(part: Path, target: Path) -> None:
    """Put a file in its place once all of it is on the disk."""
    for place in (part, part.parent):
        handle = os.open(place, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
    part.replace(target)


def check(file: Path) -> Contents:
    """Look a copy that was made here through: every page, every row that points at another.

    A plan that cannot be read is in it as it stands. Raises `BackupError` with what is wrong.
    """
    try:
        with closing(connect_to_read(file)) as db:
            raise_unless_ours(db, file)
            wrong = [row[0] for row in db.execute("PRAGMA integrity_check(3)") if row[0] != "ok"]
            raise_if_wrong(wrong, file)
            return contents_of(db, file)
    except StoreError as error:
        raise BackupError(str(error)) from error
    except sqlite3.DatabaseError as error:
        raise BackupError(f"{file.name} is no whole backup: {error}. Choose another.") from error


def raise_unless_ours(db: sqlite3.Connection, file: Path) -> None:
    """Raise `BackupError` or `StoreError` where a file is not one of this program's, or of a newer
    one's."""
    raise_if_foreign(db, file)
    if version_of(db) < 1:
        raise BackupError(f"{file.name} is no backup of Calm Basin's. Choose another.")
    if version_of(db) > len(migrations()):
        raise BackupError(f"{file.name} was made by a newer Calm Basin. Restore it with that one.")


def raise_if_wrong(wrong: list[str], file: Path) -> None:
    """Raise `BackupError` that names the first of what is wrong with a file."""
    if wrong:
        named = "; ".join(wrong[:MOST_NAMED])
        raise BackupError(f"{file.name} is damaged ({named}). Choose another.")


def contents_of(db: sqlite3.Connection, file: Path) -> Contents:
    """What is in a database whose tables are known. Raises `BackupError` where rows point at others
    that are not there."""
    wrong = [f"row {row[1]} of {row[0]}" for row in db.execute("PRAGMA foreign_key_check")]
    raise_if_wrong(wrong, file)
    unread = db.execute(
        "SELECT job.name, revision.id FROM revision JOIN job ON job.id = revision.job_id "
        "WHERE NOT json_valid(plan) ORDER BY revision.id"
    )
    named = tuple(f"step {row[1]} of {row[0]}" for row in unread)
    row = db.execute(
        "SELECT count(*), (SELECT count(*) FROM revision), coalesce(max(changed_at), '') FROM job"
    ).fetchone()
    photos = 0
    if version_of(db) >= WITH_PHOTOS:
        photos = db.execute("SELECT count(DISTINCT hash) FROM photo_part").fetchone()[0]
    return Contents(row[0], row[1], row[2], named, photos)
