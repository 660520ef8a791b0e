"""Measure what is waited for on the real interface in headless Chromium: an edit, the list of jobs,
a job that is opened, and a thing that is pointed at."""

from __future__ import annotations

import json
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any

sys.path.insert(0, ".")

from bench_tools import report, timed
from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service
from tests.browser.case import ARGUMENTS
from tests.browser.server import Server

from calm_basin.core.card import card_of
from calm_basin.core.worked import Worked
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan
from calm_basin.store import jobs
from calm_basin.store.database import connect, migrate

JOBS = 200

EDIT = """
    const done = arguments[arguments.length - 1];
    const [key, named, part] = arguments;
    const handle = document.querySelector(`[data-handle="${named}"]`);
    const cell = () => document.querySelector(`[data-part="${part}"]`).outerHTML;
    const before = cell();
    const start = performance.now();
    const look = () => cell() === before && performance.now() - start < 5000
      ? requestAnimationFrame(look)
      : requestAnimationFrame(() => done(performance.now() - start));
    handle.dispatchEvent(new KeyboardEvent("keydown", {key, shiftKey: true, bubbles: true}));
    look();
"""

PRESSED = """
    const done = arguments[arguments.length - 1];
    const [link, wanted] = arguments;
    const start = performance.now();
    const look = () => document.querySelector(wanted) || performance.now() - start > 20000
      ? requestAnimationFrame(() => done(performance.now() - start))
      : requestAnimationFrame(look);
    document.querySelector(link).click();
    look();
"""
"""From the press of a link until what is wanted is painted."""

POINTED = """
    const done = arguments[arguments.length - 1];
    const [name] = arguments;
    const thing = document.querySelector(name);
    const channel = new MessageChannel();
    requestAnimationFrame(() => {
      const start = performance.now();
      thing.dispatchEvent(new PointerEvent("pointerover", {bubbles: true}));
      // It is told once the frame is painted.
      requestAnimationFrame(() => {});
      channel.port1.onmessage = () => {
        const took = performance.now() - start;
        thing.dispatchEvent(new PointerEvent("pointerout", {bubbles: true}));
        done(took);
      };
      channel.port2.postMessage(null);
    });
"""
"""From a pointer that comes over a thing until the frame that shows it is painted."""


@contextmanager
def served(path: Path) -> Iterator[str]:
    """The address of a server over a file, which is ended afterwards."""
    server = Server(path)
    try:
        yield f"http://127.0.0.1:{server.port}"
    finally:
        server.kill()


@contextmanager
def browser() -> Iterator[webdriver.Chrome]:
    options = Options()
    options.binary_location = "/usr/bin/chromium"
    for argument in (*ARGUMENTS, "--window-size=1280,800"):
        options.add_argument(argument)
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    driver.set_script_timeout(20)
    try:
        yield driver
    finally:
        driver.quit()


def call(address: str, method: str, path: str, body: object = None) -> Any:
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(f"{address}/api{path}", data, method=method)
    with urllib.request.urlopen(request) as answer:
        return json.loads(answer.read() or "null")


def made(address: str, plan: Plan) -> str:
    job_id: str = call(address, "POST", "/jobs", {"plan": plan.model_dump(mode="json")})["job_id"]
    return job_id


def bench_edits(driver: webdriver.Chrome, address: str, plans: list[Plan]) -> None:
    """An arrow key on the drain until its rim has moved, on a fixture until the spaces have."""
    print("\nEdit on screen: key pressed to new answer painted")
    edits = [(plan, "drain", "drain", "rim") for plan in plans]
    edits += [(plan, "access", "fixture-0", "spaces") for plan in plans if plan.users]
    for plan, step, handle, part in edits:
        driver.get(f"{address}/jobs/{made(address, plan)}/{step}")
        time.sleep(1.5)
        keys = ["ArrowUp", "ArrowDown"] * 13
        runs = [driver.execute_async_script(EDIT, key, handle, part) / 1000 for key in keys]
        report(f"{plan.job.name}, {handle}", runs[3:], "aim 100 ms")


def bench_pointing(driver: webdriver.Chrome, address: str, plans: list[Plan]) -> None:
    print("\nPointing at a thing: the frame that shows it, beside one edit's answer above")
    for plan, step, name in (
        (next(p for p in plans if p.users), "access", '[data-lights="space 0"]'),
        (plans[1], "under", '[data-lights="joist 2"]'),
        (plans[0], "days", "[data-panel] [data-lights]"),
    ):
        driver.get(f"{address}/jobs/{made(address, plan)}/{step}")
        time.sleep(2.5)
        runs = [driver.execute_async_script(POINTED, name) / 1000 for _ in range(60)]
        report(f"{plan.job.name}, {step}", runs[3:], "aim 16.7 ms")


def bench_opening(driver: webdriver.Chrome, address: str, plans: list[Plan]) -> None:
    """From a press in the list until the drawing stands, and until all agrees."""
    print("\nA job opened from the list")
    ids = [made(address, plan) for plan in plans]
    for what, aim, wanted in (
        ("its answer, first time", "aim 800 ms", '[data-agrees="yes"]'),
        ("its drawing, opened again", "aim 300 ms", "[data-ready] [data-zoom] path"),
        ("its answer, opened again", "aim 800 ms", '[data-agrees="yes"]'),
    ):
        runs = []
        for job_id in ids:
            driver.get(f"{address}/")
            link = f'[data-job="{job_id}"] a'
            driver.execute_async_script(
                "const done = arguments[1];"
                "const look = () => document.querySelector(arguments[0])"
                "  ? setTimeout(done, 300) : setTimeout(look, 20);"
                "look();",
                link,
            )
            runs.append(driver.execute_async_script(PRESSED, link, wanted) / 1000)
            # As long as it is looked at before its answer is kept for the next time.
            time.sleep(2)
        report(what, runs, aim)


def bench_list(driver: webdriver.Chrome, folder: Path, plans: list[Plan]) -> None:
    print(f"\nThe list of {JOBS} jobs")
    path = folder / "many.sqlite3"
    migrate(path)
    with closing(connect(path)) as db:
        for i in range(JOBS):
            jobs.create(db, plans[i % len(plans)])
    runs = []
    with served(path) as address:
        for row in call(address, "GET", "/jobs")["jobs"]:
            call(address, "GET", f"/jobs/{row['id']}/card")
        for _ in range(12):
            driver.get(f"{address}/keeping")
            time.sleep(1)
            wanted = "[data-job]:nth-child(8) svg path"
            runs.append(driver.execute_async_script(PRESSED, "a[href='/']", wanted) / 1000)
    report("from the press to its drawings", runs[2:], "aim 300 ms")

    def solved() -> None:
        for i in range(JOBS):
            plan = plans[i % len(plans)]
            card_of(Worked(plan))

    report("the same worked out anew, without drawing it", [timed(solved)])


def main() -> None:
    demo = demo_plans()
    with tempfile.TemporaryDirectory() as folder, browser() as driver:
        with served(Path(folder) / "jobs.sqlite3") as address:
            bench_edits(driver, address, demo)
            bench_pointing(driver, address, demo)
            bench_opening(driver, address, demo)
        bench_list(driver, Path(folder), demo)


if __name__ == "__main__":
    main()
