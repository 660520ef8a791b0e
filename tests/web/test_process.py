"""The server as a process: the demo, ports that are taken, many at once."""

import json
import re
import subprocess
import sys
import tempfile
import unittest
import urllib.error
import urllib.request
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack, contextmanager
from functools import cache
from pathlib import Path

from calm_basin.demo import demo_plans
from tests.ending import at_end
from tests.plans import document, point


@contextmanager
def running(*command: str) -> Iterator[str]:
    """Start the program, yield its address, end it."""
    process = subprocess.Popen(
        [sys.executable, "-u", "-m", "calm_basin.cli", *command],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
    )
    try:
        assert process.stdout is not None
        line = process.stdout.readline()
        found = re.search(r"https?://\S+", line)
        assert found, f"no address in “{line}”"
        yield found[0].rstrip("/")
    finally:
        process.terminate()
        process.communicate(timeout=60)


@cache
def demo() -> str:
    """The address of a demo that all tests of this process ask; none changes its jobs."""
    held = ExitStack()
    address = held.enter_context(running("demo", "--port", "0"))
    at_end(held.close)
    return address


def refused(*options: str) -> subprocess.CompletedProcess[str]:
    """Run the server where it cannot start."""
    command = [sys.executable, "-m", "calm_basin.cli", "serve", *options]
    return subprocess.run(command, capture_output=True, text=True, timeout=30)


def ask(url: str, body: object = None) -> dict:
    data = None if body is None else json.dumps(body).encode()
    with urllib.request.urlopen(urllib.request.Request(url, data), timeout=30) as answer:
        return json.loads(answer.read())


class ProcessTest(unittest.TestCase):
    def test_the_demo_serves_its_jobs_and_the_front_end(self) -> None:
        address = demo()
        names = [job["name"] for job in ask(f"{address}/api/jobs")["jobs"]]
        self.assertEqual(len(names), len(demo_plans()))
        with urllib.request.urlopen(f"{address}/") as page:
            text = page.read().decode()
        self.assertIn("<title>Calm Basin</title>", text)
        self.assertNotRegex(text, r"<script[^>]*>[^<]")
        for asset in re.findall(r'(?:src|href)="(/[^"]+)"', text):
            with urllib.request.urlopen(address + asset) as answer:
                self.assertEqual(answer.status, 200)

    def test_a_port_that_is_taken_is_named_with_the_cure(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            port = demo().rsplit(":", 1)[1]
            database = str(Path(folder) / "jobs.sqlite3")
            second = refused("--port", port, "--database", database)
        self.assertEqual(second.returncode, 1)
        self.assertIn("--port", second.stderr)
        self.assertNotIn("Traceback", second.stderr)

    def test_a_file_that_is_no_database_is_named(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "notes.txt"
            file.write_text("not a database " * 50, "utf-8")
            result = refused("--port", "0", "--database", str(file))
        self.assertEqual(result.returncode, 1)
        self.assertIn("notes.txt", result.stderr)
        self.assertNotIn("Traceback", result.stderr)

    def test_many_at_once_get_their_own_answers(self) -> None:
        address = demo()
        with ThreadPoolExecutor(8) as pool:
            places = [700 + i for i in range(40)]
            asked = [{"plan": document(drain=point(x, 1350))} for x in places]
            answers = list(pool.map(lambda body: ask(f"{address}/api/solve", body), asked))
        for x, answer in zip(places, answers, strict=True):
            rim = answer["drawing"]["rims"][0]
            self.assertAlmostEqual(sum(corner[0] for corner in rim) / 4, x)

    def test_a_large_body_is_refused_and_the_server_lives(self) -> None:
        address = demo()
        with self.assertRaises(urllib.error.HTTPError) as caught:
            ask(f"{address}/api/solve", {"plan": "x" * 10_000_000})
        self.assertEqual(caught.exception.code, 413)
        self.assertIn("6 MB", json.loads(caught.exception.read())["detail"])
        caught.exception.close()
        self.assertEqual(len(ask(f"{address}/api/jobs")["jobs"]), len(demo_plans()))
