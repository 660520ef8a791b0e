"""Files from strangers: each reader takes one or names what is wrong with it."""

from __future__ import annotations

import json
import random
import resource
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

from calm_basin.formats.levels_csv import read_levels, write_levels
from calm_basin.plan import PlanError, read_plan
from calm_basin.rules import read_rules, rule_sets, written_rules
from calm_basin.store import backup, job_file, jobs, restoring
from calm_basin.store.backup import BackupError
from calm_basin.store.database import connect, migrate
from calm_basin.store.shelves import FAMILIES, LAYERS, SYSTEMS
from calm_basin.units import Display
from tests.core.test_survey import sloping, surveyed
from tests.siege.spoiling import spoilt
from tests.store.test_jobs import plan


def _begun() -> dict[str, tuple[bytes, Callable[[bytes], object]]]:
    """A whole file for each reader, and the reader."""
    levels = tuple(sloping(0.004))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "jobs.sqlite3"
        migrate(path)
        with closing(connect(path)) as db:
            head = jobs.create(db, plan(30))
            jobs.save(db, head.job_id, head.revision, plan(40))
            job = job_file.export_job(db, head.job_id).encode()
        backup.write_copy(path, Path(folder) / "one.backup")
        database = (Path(folder) / "one.backup").read_bytes()
    read = {
        "plan": (json.dumps(surveyed(levels)).encode(), read_plan),
        "job": (job, lambda text: list(job_file.read_job(text))),
        "rules": (written_rules(next(iter(rule_sets().values()))).encode(), read_rules),
        "csv": (write_levels(levels).encode(), _levels),
        "backup": (database, _restored),
    }
    for shelf in (FAMILIES, SYSTEMS, LAYERS):
        one = next(iter(shelf.ships().values()))
        read[shelf.called] = (shelf.write(one).encode(), shelf.read)
    return read


def _levels(text: bytes) -> object:
    return read_levels(text.decode("utf-8", "replace"), Display("mm", 16, "ratio"))


def _restored(text: bytes) -> object:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "jobs.sqlite3"
        migrate(path)
        (Path(folder) / "their.backup").write_bytes(text)
        return restoring.restore(path, Path(folder) / "their.backup")


def read_all(number: int) -> Counter[str]:
    """Spoil files and read them, ``number`` in all: how they ended, the longest and the memory.

    Raises `AssertionError` where one ended in a fault.
    """
    readers, seen = _begun(), Counter[str]()
    for name, (text, read) in readers.items():
        read(text)
        seen[f"{name} whole"] += 1
    used = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    for turn in range(number):
        chance = random.Random(turn)
        name = list(readers)[turn % len(readers)]
        text, read = readers[name]
        file = spoilt(text, chance)
        begun = time.process_time()
        try:
            read(file)
            seen[f"{name} taken"] += 1
        except (PlanError, BackupError) as error:
            assert str(error).strip(), f"{name} {turn}: it says nothing"
            seen[f"{name} refused"] += 1
        except Exception as error:
            raise AssertionError(f"{name} {turn}: {error!r}") from error
        seen["longest, ms"] = max(seen["longest, ms"], round(1000 * (time.process_time() - begun)))
    grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - used) * 1024
    seen["memory, MB"] = round(grown / 1e6)
    return seen
