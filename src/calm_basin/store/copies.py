"""The copies that are kept beside the database without being asked.

Each has a number of its own in its name, by which they are put in order: the clock may jump.
"""

from __future__ import annotations

import re
import shutil
import sqlite3
from contextlib import closing, suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from calm_basin.store.backup import (
    BackupError,
    beside,
    check,
    part_of,
    settled,
    write_copy,
)
from calm_basin.store.database import StoreError, connect, connect_to_read

KEPT = {"day": 7, "week": 4, "before": 5, "damaged": 3}
"""How many copies of each kind are kept, by the first word of their names."""

_NUMBER = re.compile(r"\.(\d+)\.sqlite3$")


@dataclass(frozen=True)
class Copy:
    """A copy beside the database: its name says what it is of. It is ``whole`` unless it is a
    damaged file that was kept as it was."""

    name: str
    made_at: str
    size: int
    whole: bool


def folder_of(path: Path) -> Path:
    """Where a database's copies are."""
    return path.with_name(f"{path.stem}-copies")


def _number(file: Path) -> tuple[int, float]:
    """Which copy it is. Those of before copies had numbers come first, by their time."""
    found = _NUMBER.search(file.name)
    return (int(found[1]), 0.0) if found else (0, file.stat().st_mtime)


def _all(folder: Path) -> list[Path]:
    """The copies in a folder, the oldest first."""
    return sorted((f for f in folder.glob("*.sqlite3") if not f.name.startswith(".")), key=_number)


def _next(folder: Path, what: str) -> Path:
    """The name of a new copy."""
    there = _all(folder)
    return folder / f"{what}.{(_number(there[-1])[0] if there else 0) + 1:06d}.sqlite3"


def keep_aside(path: Path) -> bool:
    """Keep what is there before it is replaced; whether it is whole. A damaged file is kept as it
    is. Raises `OSError`."""
    folder, day = folder_of(path), datetime.now(UTC)
    try:
        write_copy(path, _next(folder, f"before-restore-{day:%Y-%m-%d}"))
    except BackupError:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        target = _next(folder, f"damaged-{day:%Y-%m-%d}")
        for file, end in zip((path, *beside(path)), ("", "-wal", "-shm"), strict=True):
            if file.exists():
                shutil.copyfile(file, f"{target}{end}")
        _rotate(folder)
        return False
    _rotate(folder)
    return True


def copy_before(path: Path, version: int) -> None:
    """Keep a copy before the database is brought up from a version. Raises `StoreError`."""
    folder = folder_of(path)
    try:
        target = _next(folder, f"before-version-{version + 1}")
        with part_of(target) as part:
            with closing(connect_to_read(path)) as source, closing(sqlite3.connect(part)) as copy:
                source.backup(copy)
                copy.execute("PRAGMA journal_mode = DELETE")
            check(part)
            settled(part, target)
    except (OSError, sqlite3.Error, BackupError) as error:
        raise StoreError(
            f"Before {path} is brought up to date a copy of it is kept, and that failed: {error}."
        ) from error
    _rotate(folder)


def copy_of_the_day(path: Path, today: datetime | None = None) -> Path | None:
    """Keep this day's copy and this week's, and let the oldest go; returns the day's where it was
    made now. A database without a job leaves the copies alone. Raises `BackupError`."""
    day, folder = today or datetime.now(UTC), folder_of(path)
    if _there(folder, f"day-{day:%Y-%m-%d}"):
        return None
    with closing(connect(path)) as db:
        if db.execute("SELECT count(*) FROM job").fetchone()[0] == 0:
            return None
    target = _next(folder, f"day-{day:%Y-%m-%d}")
    write_copy(path, target)
    of_week = f"week-{day:%G-W%V}"
    if not _there(folder, of_week):
        week = _next(folder, of_week)
        with part_of(week) as part:
            shutil.copyfile(target, part)
            settled(part, week)
    _rotate(folder)
    return target


def _there(folder: Path, what: str) -> bool:
    return any(file.name.startswith(f"{what}.") for file in _all(folder))


def _rotate(folder: Path) -> None:
    for kind, most in KEPT.items():
        for old in [f for f in _all(folder) if f.name.startswith(f"{kind}-")][:-most]:
            for file in (old, *beside(old)):
                file.unlink(missing_ok=True)


def copies(path: Path) -> list[Copy]:
    """The copies, the newest first."""
    found = []
    with suppress(OSError):
        for file in _all(folder_of(path))[::-1]:
            stat = file.stat()
            made = datetime.fromtimestamp(stat.st_mtime, UTC).isoformat(timespec="seconds")
            found.append(Copy(file.name, made, stat.st_size, not file.name.startswith("damaged-")))
    return found


def newest_whole(path: Path) -> Copy | None:
    """The newest copy that is whole."""
    for copy in copies(path):
        with suppress(BackupError):
            check(folder_of(path) / copy.name)
            return copy
    return None
