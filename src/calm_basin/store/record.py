"""One job with its history, its site log and its photos as a zip, out and in.

Beside the job's file it holds each photo under the name that the log knows it by, whatever else is
handed over, and the SHA-256 of all of it.
"""

from __future__ import annotations

import hashlib
import json
import re
import shutil
import sqlite3
import tempfile
import zipfile
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import IO

from calm_basin.plan import PlanError, Problem
from calm_basin.store import log as site_log
from calm_basin.store import photos
from calm_basin.store.database import LARGEST_JOB
from calm_basin.store.job_file import export_job

LARGEST_PART = 50_000_000
"""Most bytes of a photo, or of what else is handed over."""

JOB, SUMS = "job.json", "sums.json"

ENDINGS = {"image/jpeg": "jpg", "image/png": "png", "image/webp": "webp"}

PIECE = 1_000_000

_PHOTO = re.compile(r"photos/([0-9a-f]{64})\.(jpg|png|webp)")
_OTHER = re.compile(r"[a-z0-9-]{1,40}\.(pdf|csv|json|svg|txt)")


def rewound(file: IO[bytes]) -> IO[bytes]:
    """A file at its beginning; what comes through a pipe is kept on the disk for that."""
    if not file.seekable():
        kept: IO[bytes] = tempfile.TemporaryFile()  # noqa: SIM115
        shutil.copyfileobj(file, kept)
        file = kept
    file.seek(0)
    return file


def is_one(file: IO[bytes]) -> bool:
    """Whether a file that is at its beginning is a zip; it is there again afterwards."""
    first = file.read(4)
    file.seek(0)
    return first == b"PK\x03\x04"


def write_record(
    db: sqlite3.Connection, path: Path, job_id: str, out: IO[bytes], others: Mapping[str, bytes]
) -> None:
    """Write a job's record. A photo that is gone is left out, as `verify` then says.

    Raises `NoSuchJobError` and `OSError`.
    """
    sums: dict[str, str] = {}
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        texts = {JOB: export_job(db, job_id).encode(), **others}
        for name, data in texts.items():
            sums[name] = hashlib.sha256(data).hexdigest()
            made.writestr(_member(name), data)
        for found in dict.fromkeys(
            site_log.photo_of(one.body) for one in site_log.entries(db, job_id)
        ):
            if found is None or found.media not in ENDINGS:
                continue
            name = f"photos/{found.hash}.{ENDINGS[found.media]}"
            try:
                file = photos.file_of(path, found.hash).open("rb")
            except (OSError, ValueError):
                continue
            with file, made.open(_member(name, zipfile.ZIP_STORED), "w", force_zip64=True) as to:
                while piece := file.read(PIECE):
                    to.write(piece)
            sums[name] = found.hash
        made.writestr(_member(SUMS), json.dumps(sums, indent=1).encode())


def _member(name: str, how: int = zipfile.ZIP_DEFLATED) -> zipfile.ZipInfo:
    """A member whose time says nothing: the same job makes the same file."""
    info = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
    info.compress_type = how
    return info


class Record:
    """A job's record as a file: what is in it, within bounds.

    Raises `PlanError` where it is none.
    """

    def __init__(self, file: IO[bytes]) -> None:
        try:
            self._zip = zipfile.ZipFile(file)
        except (zipfile.BadZipFile, OSError, ValueError) as error:
            raise PlanError(
                [Problem("", f"The zip is damaged: {error}. Choose another.")]
            ) from None
        names = [info.filename for info in self._zip.infolist()]
        known = [n for n in names if n == JOB or _PHOTO.fullmatch(n) or _OTHER.fullmatch(n)]
        strange = sorted(set(names) - set(known))
        if strange:
            raise _refused(f"The zip holds “{strange[0][:60]}”, which is no part of a record.")
        if len(set(names)) != len(names):
            raise _refused("The zip holds a part twice.")
        if JOB not in names:
            raise _refused(f"The zip holds no {JOB}.")
        for info in self._zip.infolist():
            most = LARGEST_JOB if info.filename == JOB else LARGEST_PART
            if info.file_size > most:
                raise _refused(f"{info.filename} in the zip has over {most // 1_000_000} MB.")

    @property
    def photos(self) -> dict[str, str]:
        """The photos' names in the zip, by what the log calls them."""
        matched = (_PHOTO.fullmatch(name) for name in self._zip.namelist())
        return {found[1]: found[0] for found in matched if found}

    def job(self) -> bytes:
        """The job's file."""
        return b"".join(self.pieces(JOB))

    def pieces(self, name: str) -> Iterator[bytes]:
        """What a member holds, piece by piece. Raises `PlanError` where it is damaged."""
        most, read = self._zip.getinfo(name).file_size, 0
        try:
            with self._zip.open(name) as member:
                while piece := member.read(PIECE):
                    read += len(piece)
                    if read > most:
                        raise _refused(f"{name} in the zip holds more than it says.")
                    yield piece
        except PlanError:
            raise
        except Exception as error:
            # What unpacks has errors of its own, one for each way.
            raise _refused(f"{name} in the zip is damaged: {error}.") from None

    def changed(self) -> Iterator[str]:
        """Members that are not what the sums say, in words."""
        if SUMS not in self._zip.namelist():
            yield f"{SUMS} is gone."
            return
        try:
            sums = json.loads(b"".join(self.pieces(SUMS)))
            told = {str(name): str(value) for name, value in sums.items()}
        except (ValueError, AttributeError, PlanError):
            yield f"{SUMS} was changed."
            return
        there = set(self._zip.namelist()) - {SUMS}
        yield from (f"{name} is gone." for name in sorted(set(told) - there))
        yield from (f"{name} was added." for name in sorted(there - set(told)))
        for name in sorted(there & set(told)):
            if self.hash_of(name) != told[name]:
                yield f"{name} was changed."

    def hash_of(self, name: str) -> str:
        """The SHA-256 of a member; empty where it is damaged."""
        seen = hashlib.sha256()
        try:
            for piece in self.pieces(name):
                seen.update(piece)
        except PlanError:
            return ""
        return seen.hexdigest()


def _refused(message: str) -> PlanError:
    return PlanError([Problem("", f"{message} Choose another file.")])


def bring_photos(path: Path, found: Record) -> None:
    """Write the photos of a record onto the disk, inside `photos.writing`.

    Raises `PlanError` where one is not what it is named by, and `OSError`.
    """
    for name, member in found.photos.items():
        if not photos.bring_in(path, name, found.pieces(member)):
            raise _refused(f"{member} in the zip was changed.")
