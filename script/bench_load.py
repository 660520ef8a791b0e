"""Measure what many jobs, long histories and the worst plans cost, beside doing without."""

from __future__ import annotations

import json
import resource
import sys
import tempfile
import threading
import time
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

sys.path.insert(0, ".")

from bench_tools import report, timed
from tests.browser.server import Server
from tests.extremes import extreme, valid
from tests.plans import document

from calm_basin.core.solve import solve
from calm_basin.plan import plan_from
from calm_basin.plan.setting_out import SettingOut
from calm_basin.store import backup, history, jobs
from calm_basin.store.database import connect, migrate

PLAIN = plan_from(document())


def bench_store(folder: Path) -> None:
    print("\nA store of 2,000 jobs, and one of them with 1,000 steps")
    path = folder / "many.sqlite3"
    migrate(path)
    with closing(connect(path)) as db:
        db.execute("PRAGMA synchronous = OFF")
        ids = [jobs.create(db, plan_from(document())).job_id for _ in range(2000)]
        head = jobs.head(db, ids[0])
        for i in range(1000):
            plan = PLAIN.model_copy(update={"setting_out": SettingOut(pin_spacing=100.0 + i)})
            head = jobs.save(db, ids[0], head.revision, plan)
        db.execute("PRAGMA synchronous = FULL")
        report("list 2,000 jobs", [timed(lambda: jobs.list_jobs(db)) for _ in range(40)])
        report("open one", [timed(lambda i=i: jobs.head(db, i)) for i in ids[:40]], "aim 100 ms")
        report(
            "write all into a backup, checked",
            [timed(lambda: backup.write_copy(path, folder / "all.backup")) for _ in range(3)],
        )
        plain = folder / "plain.json"

        def by_hand() -> None:
            rows = [dict(row) for row in db.execute("SELECT * FROM revision")]
            plain.write_text(json.dumps(rows), "utf-8")

        report("the same rows as JSON, unchecked", [timed(by_hand) for _ in range(3)])
        report("delete the long one", [timed(lambda: jobs.delete(db, ids[0]))])
        db.execute("UPDATE job SET deleted_at = '2020-01-01' WHERE id = ?", (ids[0],))
        report("and for good", [timed(lambda: jobs.purge(db, datetime.now(UTC)))])
        report("give its space back", [timed(lambda: history.give_back(db))])


def bench_extremes() -> None:
    print("\n40 valid plans at the edge of what is sensible, each with water and marks")
    found = valid(40)
    seconds = [timed(lambda p=p: solve(p, parts=("water", "marks"))) for _, p in found]
    report("solve", seconds, "aim 2 s")
    maps = [timed(lambda p=p: solve(p, parts=("drain_map",))) for _, p in found]
    report("solve with the map", maps)
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1000
    print(f"{'memory of all of this':<58} {most:7.0f} MB   aim 300 MB")


def bench_crowd(folder: Path) -> None:
    print("\nSix of the slowest plans at once over HTTP: saving, listing and opening meanwhile")
    slow = sorted(range(60), key=_cost)[-6:]
    server = Server(folder / "crowd.sqlite3")
    url = f"http://127.0.0.1:{server.port}/api"

    def ask(path: str, body: object = None, method: str | None = None) -> dict[str, object]:
        data = None if body is None else json.dumps(body).encode()
        asked = urllib.request.Request(url + path, data, method=method)
        with urllib.request.urlopen(asked) as answer:
            return json.loads(answer.read())  # type: ignore[no-any-return]

    head = ask("/jobs", {"plan": document()})
    place = f"/jobs/{head['job_id']}"
    done = threading.Event()

    def press(seed: int) -> None:
        for i in range(1000):
            if done.is_set():
                return
            plan = extreme(seed) | {"pin_spacing": 300 + i}
            ask("/solve", {"plan": plan, "parts": ["water", "marks"]})

    try:
        with ThreadPoolExecutor(6) as pool:
            for seed in slow:
                pool.submit(press, seed)
            time.sleep(2)
            saves, lists, opens = [], [], []
            for i in range(40):
                body = {"base": head["revision"], "plan": document(set_down=i % 9)}
                start = time.perf_counter()
                head = ask(f"{place}/plan", body, "PUT")
                saves.append(time.perf_counter() - start)
                lists.append(timed(lambda: ask("/jobs")))
                opens.append(timed(lambda: ask(place)))
            done.set()
        for name, seconds in (("save", saves), ("list", lists), ("open", opens)):
            report(name, seconds, "aim 500 ms")
    finally:
        done.set()
        server.kill()


def _cost(seed: int) -> float:
    try:
        plan = plan_from(extreme(seed))
    except ValueError:
        return 0.0
    return timed(lambda: solve(plan, parts=("water", "marks")))


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as name:
        bench_store(Path(name))
        bench_extremes()
        bench_crowd(Path(name))
