"""Copies of all jobs with their histories in one file: written, checked, and put back."""

from __future__ import annotations

import os
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

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

KEPT = {"day": 7, "week": 4, "before": 5}
"""How many automatic copies of each kind are kept, by the first word of their names."""

OF_THIS_MACHINE = ("passphrase", "session", "event")
"""Tables that say who may come in here and who did: they stay when other jobs are put in."""


class BackupError(RuntimeError):
    """A copy cannot be written or put back; nothing was changed. The message says why."""


@dataclass(frozen=True)
class Contents:
    """What is in a copy that was found whole."""

    jobs: int
    revisions: int
    changed_at: str


@dataclass(frozen=True)
class Copy:
    """An automatic copy beside the database: its name says what it is of."""

    name: str
    made_at: str
    size: int


def folder_of(path: Path) -> Path:
    """Where a database's automatic copies are."""
    return path.with_name(f"{path.stem}-copies")


def write_copy(path: Path, target: Path) -> Contents:
    """Write all that is in the database into one file, which is there whole and checked or not at
    all. Raises `BackupError`."""
    try:
        with _part_of(target) as part:
            with closing(connect(path)) as source, closing(sqlite3.connect(part)) as copy:
                source.backup(copy)
                # One file: without a log beside it, and without the keys to this machine's door.
                copy.execute("PRAGMA journal_mode = DELETE")
                for table in OF_THIS_MACHINE[:2]:
                    copy.execute(f"DELETE FROM {table}")
                copy.commit()
            contents = check(part)
            _settled(part, target)
    except (OSError, sqlite3.Error) as error:
        raise BackupError(f"{target} cannot be written: {error}. {cure_of(error)}") from error
    return contents


@contextmanager
def _part_of(target: Path) -> Iterator[Path]:
    """A file beside the target that is gone afterwards, for its owner alone."""
    target.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    part = target.with_name(f".{target.name}.{os.getpid()}.part")
    part.touch(mode=0o600)
    try:
        yield part
    finally:
        part.unlink(missing_ok=True)


def _settled(part: Path, target: Path) -> None:
    """Put a file in its place once all of it is on the disk."""
    for place in (part, part.parent):
        handle = os.open(place, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
    part.replace(target)


def check(file: Path) -> Contents:
    """Look a copy through: every page, every row that points at another, every plan.

    Raises `BackupError` with what is wrong.
    """
    if not file.is_file():
        raise BackupError(f"There is no file {file}. Choose one that was written as a backup.")
    try:
        with closing(connect_to_read(file)) as db:
            return _looked_through(db, file)
    except StoreError as error:
        raise BackupError(str(error)) from error
    except sqlite3.DatabaseError as error:
        raise BackupError(f"{file.name} is no whole backup: {error}. Choose another.") from error


def _looked_through(db: sqlite3.Connection, file: Path) -> Contents:
    raise_if_foreign(db, file)
    if version_of(db) > len(migrations()):
        raise BackupError(f"{file.name} was made by a newer Calm Basin. Restore it with that one.")
    wrong = [row[0] for row in db.execute("PRAGMA integrity_check(3)") if row[0] != "ok"]
    wrong += [f"row {row[1]} of {row[0]}" for row in db.execute("PRAGMA foreign_key_check")]
    unread = db.execute("SELECT count(*) FROM revision WHERE NOT json_valid(plan)").fetchone()[0]
    if unread:
        wrong.append(f"{unread} plans cannot be read")
    if wrong:
        raise BackupError(f"{file.name} is damaged ({'; '.join(wrong[:3])}). Choose another.")
    row = db.execute(
        "SELECT count(*), (SELECT count(*) FROM revision), coalesce(max(changed_at), '') FROM job"
    ).fetchone()
    return Contents(*row)


def restore(path: Path, file: Path) -> Contents:
    """Put what is in a copy in the place of all jobs here, after a copy of those was kept.

    Raises `BackupError`; nothing was changed then.
    """
    contents = check(file)
    try:
        with _part_of(path) as part:
            shutil.copyfile(file, part)
            migrate(part)
            whole = path.exists() and _kept_aside(path)
            if whole:
                with closing(connect(path)) as here, closing(connect(part)) as there:
                    _with_ours(there, path)
                    there.backup(here)
            else:
                for gone in (path, *_beside(path)):
                    gone.unlink(missing_ok=True)
                with closing(connect(part)) as there:
                    there.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
                _settled(part, path)
            for gone in _beside(part):
                gone.unlink(missing_ok=True)
    except (OSError, sqlite3.Error, StoreError) as error:
        raise BackupError(f"{file.name} could not be put back: {error}.") from error
    return contents


def _beside(path: Path) -> list[Path]:
    return [Path(f"{path}-wal"), Path(f"{path}-shm")]


def _with_ours(there: sqlite3.Connection, path: Path) -> None:
    """Take over who may come in here and who did."""
    there.execute("ATTACH ? AS ours", (str(path),))
    for table in OF_THIS_MACHINE:
        there.execute(f"DELETE FROM main.{table}")
        there.execute(f"INSERT INTO main.{table} SELECT * FROM ours.{table}")
    there.execute("DETACH ours")


def _kept_aside(path: Path) -> bool:
    """Keep what is there before it is replaced; whether it is whole. A damaged file is kept as it
    is."""
    stamp = datetime.now(UTC).strftime("%Y-%m-%dT%H%M%S.%f")[:-3]
    folder = folder_of(path)
    try:
        write_copy(path, folder / f"before-restore-{stamp}.sqlite3")
    except BackupError:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        for file in (path, *_beside(path)):
            if file.exists():
                shutil.copyfile(file, folder / f"damaged-{stamp}-{file.name}")
        return False
    _rotate(folder)
    return True


def copy_before(path: Path, version: int) -> None:
    """Keep a copy before the database is brought up from a version. Raises `StoreError`."""
    target = folder_of(path) / f"before-version-{version + 1}.sqlite3"
    try:
        with _part_of(target) as part:
            with closing(connect_to_read(path)) as source, closing(sqlite3.connect(part)) as copy:
                source.backup(copy)
                copy.execute("PRAGMA journal_mode = DELETE")
            check(part)
            _settled(part, target)
    except (OSError, sqlite3.Error, BackupError) as error:
        raise StoreError(
            f"Before {path} is brought up to date a copy of it is kept, and that failed: {error}."
        ) from error
    _rotate(target.parent)


def copy_of_the_day(path: Path, today: datetime | None = None) -> Path | None:
    """Keep this day's copy and this week's, and let the oldest go; returns the day's where it was
    made now. A database without a job leaves the copies alone. Raises `BackupError`."""
    day = today or datetime.now(UTC)
    folder = folder_of(path)
    target = folder / f"day-{day:%Y-%m-%d}.sqlite3"
    if target.exists():
        return None
    with closing(connect(path)) as db:
        if db.execute("SELECT count(*) FROM job").fetchone()[0] == 0:
            return None
    write_copy(path, target)
    week = folder / f"week-{day:%G-W%V}.sqlite3"
    if not week.exists():
        with _part_of(week) as part:
            shutil.copyfile(target, part)
            _settled(part, week)
    _rotate(folder)
    return target


def _rotate(folder: Path) -> None:
    for kind, most in KEPT.items():
        found = sorted(folder.glob(f"{kind}-*.sqlite3"), key=lambda file: file.stat().st_mtime)
        for old in found[:-most]:
            old.unlink(missing_ok=True)


def copies(path: Path) -> list[Copy]:
    """The automatic copies, the newest first."""
    found = []
    with suppress(OSError):
        for file in folder_of(path).glob("*.sqlite3"):
            if not file.name.startswith((".", "damaged-")):
                stat = file.stat()
                made = datetime.fromtimestamp(stat.st_mtime, UTC).isoformat(timespec="seconds")
                found.append(Copy(file.name, made, stat.st_size))
    return sorted(found, key=lambda copy: (copy.made_at, copy.name), reverse=True)


def newest_whole(path: Path) -> Copy | None:
    """The newest automatic copy that is whole."""
    for copy in copies(path):
        with suppress(BackupError):
            check(folder_of(path) / copy.name)
            return copy
    return None
