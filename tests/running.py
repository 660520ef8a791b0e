"""Runs the tests on every core and tells where the time went: ``python -m tests.running``.

With ``--quick``: what a change needs, the core without its sweeps and one walk in the browser.
"""

from __future__ import annotations

import gc
import io
import os
import signal
import sys
import tempfile
import time
import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from multiprocessing import current_process
from pathlib import Path
from typing import Any

import unittest_parallel.main

from tests.ending import end_all
from tests.sweeps import QUICK, SEED, seed

TIMES = "CALM_BASIN_TEST_TIMES"
"""The variable that names the folder in which each process writes down how long its tests took."""

WALK = "tests.browser.test_main_job.KeyboardTest.*"
"""The main job on the real interface, from an empty plan to a floor."""

SLOWEST = 10


class Runner(unittest.TextTestRunner):
    """Runs a class of tests in one of the processes, and writes down how long each took."""

    def __init__(self, **options: Any) -> None:
        # The one that gathers all results prints them.
        super().__init__(**options | {"stream": io.StringIO()})
        # What is loaded stays, and a test makes little that refers to itself.
        gc.freeze()
        gc.set_threshold(100_000, 50, 50)
        # The tests of workers and servers have processes of their own, and end them.
        current_process().daemon = False
        signal.signal(signal.SIGTERM, _end)

    def run(self, test: unittest.TestSuite | unittest.TestCase) -> unittest.TextTestResult:
        took: list[tuple[float, str]] = []
        start = time.perf_counter()
        with _timed(took):
            result = super().run(test)
        took.append((time.perf_counter() - start - sum(time for time, _ in took), "set-up"))
        for case, why in (*result.failures, *result.errors):
            # Told at once: a run that is ended before its end has said what it found.
            print(f"\n{case.id()}\n{why}", file=sys.stderr)
        with (Path(os.environ[TIMES]) / str(os.getpid())).open("a", encoding="utf-8") as file:
            file.writelines(f"{seconds}\t{name}\n" for seconds, name in took)
        return result


def _end(*_: Any) -> None:
    # Not by an exception: one that is raised while something is cleared away is swallowed.
    end_all()
    os._exit(0)


@contextmanager
def _timed(took: list[tuple[float, str]]) -> Iterator[None]:
    """Tests that run inside are written down with how long they take."""
    plain = unittest.TestCase.run

    def run(case: unittest.TestCase, result: Any = None) -> Any:
        start = time.perf_counter()
        try:
            return plain(case, result)
        finally:
            took.append((time.perf_counter() - start, case.id()))

    unittest.TestCase.run = run  # type: ignore[method-assign]
    try:
        yield
    finally:
        unittest.TestCase.run = plain  # type: ignore[method-assign]


def main(arguments: list[str]) -> None:
    """Run the tests; ends the program with a status that is not 0 where one failed."""
    options = ["--top-level-directory", ".", "--start-directory", "tests", "--level", "class"]
    options += ["--runner", "tests.running.Runner"]
    # One more than there are cores: a test that waits for its browser leaves one free.
    options += ["--jobs", str((os.cpu_count() or 1) + 1)]
    if "--quick" in arguments:
        os.environ[QUICK] = "1"
        options += ["-k", "tests.core.*", "-k", WALK]
    print(f"What is drawn by chance is drawn from {SEED}={seed()}", file=sys.stderr)
    # Ended by the system too, the processes are ended with it.
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(143))
    with tempfile.TemporaryDirectory() as folder:
        os.environ[TIMES] = folder
        start = time.perf_counter()
        try:
            unittest_parallel.main.main(options)
        finally:
            _tell(Path(folder), time.perf_counter() - start)


def _tell(folder: Path, whole: float) -> None:
    rows = [line.split("\t") for file in folder.iterdir() for line in file.read_text().splitlines()]
    tests = sorted(((float(seconds), name) for seconds, name in rows if name != "set-up"))[::-1]
    set_up = sum(float(seconds) for seconds, name in rows if name == "set-up")
    parts: dict[str, list[float]] = {}
    for seconds, name in tests:
        parts.setdefault(name.split(".")[1], []).append(seconds)
    print(f"\n{len(tests)} tests in {whole:.0f} s; in each part, s:", file=sys.stderr)
    for part, took in sorted(parts.items()):
        print(f"  {sum(took):7.1f}  {part}, {len(took)} tests", file=sys.stderr)
    print(f"  {set_up:7.1f}  set-up of classes", file=sys.stderr)
    print("The slowest:", file=sys.stderr)
    for seconds, name in tests[:SLOWEST]:
        print(f"  {seconds:7.1f}  {name}", file=sys.stderr)


if __name__ == "__main__":
    main(sys.argv[1:])
