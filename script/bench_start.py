"""Measure what starting takes: the list of commands, the solver, a server until its first page and
its first answer, beside the bare libraries that they stand on."""

from __future__ import annotations

import json
import re
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

from calm_basin.demo import demo_plans

ROUNDS = 5
PARTS = ("listens", "first page", "first answer", "second answer")


def process(*arguments: str) -> float:
    """How long a process of its own takes, s."""
    start = time.perf_counter()
    subprocess.run([sys.executable, *arguments], check=True, stdout=subprocess.DEVNULL)
    return time.perf_counter() - start


def server(body: bytes) -> list[float]:
    """When a server that is started listens, has sent its first page and two answers, s."""
    with tempfile.TemporaryDirectory() as folder:
        options = ("serve", "--port", "0", "--database", str(Path(folder) / "jobs.sqlite3"))
        start = time.perf_counter()
        running = subprocess.Popen(
            [sys.executable, "-u", "-m", "calm_basin.cli", *options],
            stdout=subprocess.PIPE,
            text=True,
        )
        try:
            assert running.stdout is not None
            found = re.search(r"http://\S+/", running.stdout.readline())
            assert found is not None
            at = [time.perf_counter() - start]
            solve = urllib.request.Request(f"{found[0]}api/solve", body)
            for request in (found[0], solve, solve):
                with urllib.request.urlopen(request) as answer:
                    answer.read()
                at.append(time.perf_counter() - start)
        finally:
            running.terminate()
            running.communicate()
    return [*at[:3], at[3] - at[2]]


def told(name: str, seconds: list[float]) -> None:
    ms = [1000 * s for s in seconds]
    print(f"{name:<58} median {statistics.median(ms):7.0f} ms   least {min(ms):7.0f} ms")


if __name__ == "__main__":
    print("\nStart")
    libraries = "import numpy, scipy.spatial, scipy.sparse.csgraph, shapely, pydantic, flask"
    for name, arguments in (
        ("an empty program", ("-c", "pass")),
        ("the libraries alone", ("-c", libraries)),
        ("calm-basin --help", ("-m", "calm_basin.cli", "--help")),
        ("the solver loaded", ("-c", "import calm_basin.core.solve")),
    ):
        told(name, [process(*arguments) for _ in range(ROUNDS)])
    body = json.dumps({"plan": demo_plans()[1].model_dump(mode="json")}).encode()
    for name, seconds in zip(
        PARTS, zip(*(server(body) for _ in range(ROUNDS)), strict=True), strict=True
    ):
        told(f"server: {name}", list(seconds))
