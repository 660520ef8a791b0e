"""Photos of the site log: files beside the database, each named by the SHA-256 of what is in it.

A photo is on the disk before the entry that names it, and what no entry names is cleared away while
nobody is writing: whenever the program is ended, there is neither a photo without an entry nor an
entry without its photo.
"""

from __future__ import annotations

import hashlib
import re
import sqlite3
from collections.abc import Iterable, Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path

from calm_basin.store.backup import Contents, part_of, settled, write_copy
from calm_basin.store.copies import copies, folder_of
from calm_basin.store.database import PATIENCE, StoreError, connect, connect_to_read

PIECE = 4_000_000
"""Bytes of a photo in a row of a copy."""

SCREEN = ".screen.jpg"
"""How the copy for the screen is named, after the photo's own name."""

NAMED = """
SELECT DISTINCT json_extract(body, '$.photo.hash') AS hash FROM log_entry
WHERE json_valid(body) AND json_extract(body, '$.photo.hash') IS NOT NULL
"""

HASH = re.compile(r"[0-9a-f]{64}")


def photos_of(path: Path) -> Path:
    """The folder of a database's photos."""
    return path.with_name(f"{path.stem}-photos")


def file_of(path: Path, name: str, *, screen: bool = False) -> Path:
    """The file of a photo, or of its copy for the screen. Raises `ValueError` where the name is
    none."""
    if not HASH.fullmatch(name):
        raise ValueError(f"{name[:80]} names no photo.")
    return photos_of(path) / name[:2] / f"{name}{SCREEN if screen else ''}"


@contextmanager
def writing(path: Path) -> Iterator[None]:
    """While photos and what names them are written, nothing is cleared away."""
    with closing(_lock(path)) as lock:
        lock.execute("BEGIN")
        lock.execute("SELECT count(*) FROM sqlite_schema").fetchone()
        yield


def _lock(path: Path, patience: float = PATIENCE) -> sqlite3.Connection:
    folder = photos_of(path)
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    return sqlite3.connect(folder / ".writing", timeout=patience, isolation_level=None)


def keep(path: Path, original: bytes, screen: bytes) -> str:
    """Put a photo and its copy for the screen onto the disk, inside `writing`; its name. Raises
    `OSError`."""
    name = hashlib.sha256(original).hexdigest()
    for data, file in ((screen, file_of(path, name, screen=True)), (original, file_of(path, name))):
        # A file of that name has that in it, unless somebody changed it.
        if not file.exists() or file.stat().st_size != len(data):
            with part_of(file) as part:
                part.write_bytes(data)
                settled(part, file)
    return name


def named(db: sqlite3.Connection) -> set[str]:
    """The photos that entries of any job name."""
    return {row["hash"] for row in db.execute(NAMED)}


def clear(path: Path) -> int:
    """Clear away photos that neither an entry here nor one in a kept copy names; how many went.

    Where somebody is writing one, nothing is cleared away: it is done the next time.
    """
    folder = photos_of(path)
    if not folder.is_dir():
        return 0
    with closing(_lock(path, 0)) as lock:
        try:
            lock.execute("BEGIN EXCLUSIVE")
        except sqlite3.OperationalError:
            return 0
        with closing(connect(path)) as db:
            there = {file.name[:64] for file in _files(folder)}
            lost = there - named(db)
        for copy in copies(path) if lost else ():
            file = folder_of(path) / copy.name
            with suppress(sqlite3.Error, StoreError), closing(connect_to_read(file)) as db:
                lost -= named(db)
        half = list(folder.glob("??/.*.part*"))
        for file in [*half, *(file for file in _files(folder) if file.name[:64] in lost)]:
            file.unlink(missing_ok=True)
    return len(lost)


def _files(folder: Path) -> list[Path]:
    return [file for file in folder.glob("??/*") if HASH.match(file.name)]


def what_is_wrong(path: Path, name: str, size: int, *, whole: bool) -> str:
    """What is wrong with a photo, in words after its entry; empty where nothing is. Without
    ``whole`` only its size is looked at."""
    try:
        file = file_of(path, name)
        if file.stat().st_size != size:
            return "has a photo that was changed"
        if whole and hashlib.sha256(file.read_bytes()).hexdigest() != name:
            return "has a photo that was changed"
    except (OSError, ValueError):
        return "has a photo that is gone"
    return ""


def write_all(path: Path, target: Path) -> Contents:
    """Write all that is in the database, and the photos beside it, into one file, which is there
    whole and checked or not at all. Raises `BackupError`."""
    return write_copy(path, target, lambda copy: _put_into(copy, path))


def _put_into(copy: sqlite3.Connection, path: Path) -> None:
    for name in sorted(named(copy)):
        with suppress(FileNotFoundError, ValueError), file_of(path, name).open("rb") as file:
            part = 0
            while piece := file.read(PIECE):
                copy.execute("INSERT INTO photo_part VALUES (?, ?, ?)", (name, part, piece))
                part += 1


def take_out(copy: sqlite3.Connection, path: Path) -> Iterator[str]:
    """Write the photos that a copy holds onto the disk, inside `writing`, and take them out of it;
    yields the names of those that are not what they were. Raises `OSError`."""
    names = [row[0] for row in copy.execute("SELECT DISTINCT hash FROM photo_part ORDER BY hash")]
    for name in names:
        rows = copy.execute("SELECT bytes FROM photo_part WHERE hash = ? ORDER BY part", (name,))
        if not bring_in(path, str(name), (row[0] for row in rows)):
            yield str(name)
    copy.execute("DELETE FROM photo_part")


def bring_in(path: Path, name: str, pieces: Iterable[bytes]) -> bool:
    """Write a photo that came from elsewhere, inside `writing`; whether it is what its name says.
    Raises `OSError`."""
    if not HASH.fullmatch(name):
        return False
    file, seen = file_of(path, name), hashlib.sha256()
    with part_of(file) as part:
        with part.open("wb") as out:
            for piece in pieces:
                seen.update(piece)
                out.write(piece)
        if seen.hexdigest() != name:
            return False
        settled(part, file)
    return True
