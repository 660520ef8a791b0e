"""A process that writes to a store is killed at any moment; what it said was done is there."""

from __future__ import annotations

import json
import os
import random
import signal
import tempfile
import time
import uuid
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path

from calm_basin.store import backup, copies, job_file, jobs, log, photos, restoring
from calm_basin.store.database import connect, connect_to_read, migrate
from calm_basin.store.opening import Store
from tests.store.test_jobs import plan

Deed = Callable[[Path], Iterator[str]]

LONGEST = {
    "saves": 0.1,
    "imports": 0.1,
    "restores": 0.5,
    "backups": 0.2,
    "copies": 0.2,
    "entries": 0.1,
    "photos": 0.15,
}
"""A process lives for up to so long, s: a few of what it does."""


def saving(path: Path) -> Iterator[str]:
    with closing(connect(path)) as db:
        job = jobs.list_jobs(db)[0].id
        head, fall = jobs.head(db, job), 30.0
        while True:
            fall = 30 + (fall + 0.5) % 60
            head = jobs.save(db, job, head.revision, plan(fall))
            yield str(head.revision)


def importing(path: Path) -> Iterator[str]:
    text = path.with_name("job.json").read_bytes()
    with closing(connect(path)) as db:
        while True:
            yield job_file.import_job(db, text).job_id


def restoring_it(path: Path) -> Iterator[str]:
    for number in range(10**9):
        name = ("a", "b")[number % 2]
        restoring.restore(path, path.with_name(f"{name}.backup"))
        yield name


def backing_up(path: Path) -> Iterator[str]:
    for number in range(10**9):
        backup.write_copy(path, path.with_name(f"{number % 3}.made"))
        yield str(number % 3)


def copying(path: Path) -> Iterator[str]:
    day = datetime(2026, 1, 1, tzinfo=UTC)
    for number in range(10**9):
        made = copies.copy_of_the_day(path, day + timedelta(days=number))
        yield made.name if made else ""


def writing(path: Path) -> Iterator[str]:
    with closing(connect(path)) as db:
        head = jobs.head(db, jobs.list_jobs(db)[0].id)
        while True:
            name = uuid.uuid4().hex
            log.append(db, head.job_id, name, {"kind": "note", "by": "AB"}, head.revision)
            yield name


def photographing(path: Path) -> Iterator[str]:
    with closing(connect(path)) as db:
        head = jobs.head(db, jobs.list_jobs(db)[0].id)
        while True:
            name = uuid.uuid4().hex
            data = name.encode() * 1000
            with photos.writing(path):
                told = {"hash": photos.keep(path, data, b"small"), "size": len(data)}
                log.append(db, head.job_id, name, {"kind": "photo", "photo": told}, head.revision)
            yield name


DEEDS: dict[str, Deed] = {
    "saves": saving,
    "imports": importing,
    "restores": restoring_it,
    "backups": backing_up,
    "copies": copying,
    "entries": writing,
    "photos": photographing,
}


def killed(number: int) -> Counter[str]:
    """Kill one process of each kind in turn, ``number`` in all; what was done and is there.

    Raises `AssertionError` where something that was said to be done is not there, or something
    is there by half.
    """
    chance, seen = random.Random(number), Counter[str]()
    with tempfile.TemporaryDirectory(prefix="calm-basin-siege-") as folder:
        path = Path(folder) / "jobs.sqlite3"
        migrate(path)
        _filled(path)
        for turn in range(number):
            name = list(DEEDS)[turn % len(DEEDS)]
            told = _run(DEEDS[name], path, chance.uniform(0.004, LONGEST[name]))
            seen[name] += len(told)
            seen["kills"] += 1
            _looked_at(path, name, told)
    return seen


def _filled(path: Path) -> None:
    with closing(connect(path)) as db:
        for name in ("b", "a"):
            head = jobs.create(db, plan(30, f"of {name}"))
            for fall in range(31, 50):
                head = jobs.save(db, head.job_id, head.revision, plan(fall, f"of {name}"))
            backup.write_copy(path, path.with_name(f"{name}.backup"))
        path.with_name("job.json").write_text(job_file.export_job(db, head.job_id), "utf-8")


def _run(deed: Deed, path: Path, seconds: float) -> list[str]:
    """What a process told of its deeds until it was killed."""
    out, into = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(out)
        try:
            for told in deed(path):
                os.write(into, f"{told}\n".encode())
        finally:
            os._exit(1)
    os.close(into)
    time.sleep(seconds)
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    with os.fdopen(out) as lines:
        told = lines.read()
    # The last line may be cut.
    return told.split("\n")[:-1]


def _looked_at(path: Path, name: str, told: list[str]) -> None:
    # As a server starts, much later: what was left by half is cleared away.
    for part in path.parent.rglob(".*.part*"):
        os.utime(part, (0, 0))
    with closing(Store(path)) as store:
        assert store.trouble is None, store.trouble
    with closing(connect(path)) as db:
        assert db.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        assert not db.execute("PRAGMA foreign_key_check").fetchall()
        rows = db.execute("SELECT job_id, count(*) AS steps FROM revision GROUP BY job_id")
        steps = {row["job_id"]: row["steps"] for row in rows}
        names = {row.name for row in jobs.list_jobs(db)}
        heads = {job.id: jobs.head(db, job.id).revision for job in jobs.list_jobs(db)}
        logs = {job: log.entries(db, job) for job in heads}
        wrong = {
            job: [*log.wrong(db, job, found), *log.broken_photos(path, found, whole=True)]
            for job, found in logs.items()
        }
    photos.clear(path)
    with closing(connect(path)) as db:
        named = photos.named(db)
    for copy in copies.copies(path):
        with closing(connect_to_read(copies.folder_of(path) / copy.name)) as db:
            named |= photos.named(db)
    lying = {file.name[:64] for file in photos.photos_of(path).glob("??/*")}
    assert lying <= named, "no photo without an entry"
    assert set(heads) == set(steps), "each job has its steps"
    assert not any(wrong.values()), "every chain is whole, and no entry without its photo"
    if name in ("entries", "photos"):
        there = {entry.id for found in logs.values() for entry in found}
        assert there >= set(told), "an entry that was told is there"
    if name == "saves" and told:
        assert max(heads.values()) >= int(told[-1]), "a save that was told is there"
    if name == "imports":
        whole = len(json.loads(path.with_name("job.json").read_text("utf-8"))["revisions"])
        assert all(job in steps for job in told), "an import that was told is there"
        assert sum(count == whole for count in steps.values()) >= len(told), "with all its steps"
        assert all(count >= whole for count in steps.values()), "none is there by half"
    if name == "restores" and told:
        # The one after the last that was told may have been done as well.
        assert names in ({"of b"}, {"of a", "of b"}), names
    for made in path.parent.glob("*.made"):
        backup.check(made)
    for copy in copies.copies(path):
        backup.check(copies.folder_of(path) / copy.name)
    assert not list(path.parent.rglob(".*.part*")), "no part is left"
