"""The application in a process of its own, as the tests of the interface have it."""

from __future__ import annotations

import json
import multiprocessing
import os
import re
import shutil
import tempfile
import urllib.request
from collections.abc import Iterable
from contextlib import closing
from multiprocessing import forkserver
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from calm_basin.plan import Plan
from calm_basin.store import jobs
from calm_basin.store.database import connect

LOADED = ("web.warm", "web.server", "web.app", "web.api", "cli.serving", "store.upkeep")
"""What a server and its workers need is loaded once, where both are forked: a server that is ended
and started again in a test takes a tenth of the time. How it starts by itself is tried in
`tests.web.test_server`."""


def _serve(arguments: list[str], environment: dict[str, str], told: Connection) -> None:
    """Run the command in this process, which prints where it is told."""
    from calm_basin.cli import main

    os.environ.clear()
    os.environ.update(environment)
    os.dup2(told.fileno(), 1)
    told.close()
    # Its workers are forked from where it was: nothing else has to run for them.
    forkserver._forkserver.ensure_running = lambda: None  # type: ignore[attr-defined]
    main(arguments)


class Server:
    """The application in a process of its own, over a database in a folder of its own."""

    def __init__(self, database: Path, *options: str) -> None:
        self.database, self.port, self.options = database, 0, options
        self.start()

    def start(self) -> None:
        command = ["serve", "--database", str(self.database), "--port", str(self.port)]
        context = multiprocessing.get_context("forkserver")
        context.set_forkserver_preload([f"calm_basin.{name}" for name in LOADED])
        ours, theirs = context.Pipe(duplex=False)
        self.process = context.Process(
            target=_serve, args=([*command, *self.options], dict(os.environ), theirs)
        )
        self.process.start()
        theirs.close()
        # Held until the server is gone: it may print more.
        self.told = ours
        line = os.read(ours.fileno(), 1000).decode()
        found = re.search(r":(\d+)/", line)
        assert found, f"the server did not start: {line}"
        self.port = int(found[1])

    def kill(self) -> None:
        self.process.kill()
        self.process.join()
        self.told.close()

    def end(self) -> None:
        """End it, with its workers and all that was in its folder."""
        self.kill()
        shutil.rmtree(self.database.parent)

    def emptied(self) -> None:
        """Make its database and its folder as they were at the start."""
        if not self.process.is_alive():
            self.start()
        with closing(connect(self.database)) as db:
            tables = db.execute(
                "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite%'"
            ).fetchall()
            db.execute("PRAGMA foreign_keys = OFF")
            db.execute("BEGIN IMMEDIATE")
            for (name,) in tables:
                db.execute(f"DELETE FROM {name}")
            db.execute("COMMIT")
        for other in self.database.parent.iterdir():
            if other.is_dir():
                shutil.rmtree(other)
            elif not other.name.startswith(self.database.name):
                other.unlink()

    def fill(self, plans: Iterable[Plan]) -> list[str]:
        """Put jobs into its database and return their ids."""
        with closing(connect(self.database)) as db:
            return [jobs.create(db, plan).job_id for plan in plans]

    def call(self, method: str, path: str, body: object = None) -> Any:
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}/api{path}",
            method=method,
            data=None if body is None else json.dumps(body).encode(),
        )
        with urllib.request.urlopen(request, timeout=30) as answer:
            return json.loads(answer.read() or "null")


def new_server() -> Server:
    """A server over a database in a folder of its own."""
    return Server(Path(tempfile.mkdtemp(prefix="calm-basin-test-")) / "jobs.sqlite3")
