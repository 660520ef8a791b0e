"""A real server and a real browser for the tests of the interface."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import sys
import tempfile
import unittest
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

T = TypeVar("T")
ARGUMENTS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
)


class Server:
    """The application in a process of its own, over a database in a folder of its own."""

    def __init__(self, database: Path, *options: str) -> None:
        self.database, self.port, self.options = database, 0, options
        self.start()

    def start(self) -> None:
        command = ["serve", "--database", str(self.database), "--port", str(self.port)]
        command += self.options
        self.process = subprocess.Popen(
            [sys.executable, "-m", "calm_basin.cli", *command],
            stdout=subprocess.PIPE,
            text=True,
            env={**os.environ, "PYTHONUNBUFFERED": "1"},
        )
        assert self.process.stdout is not None
        line = self.process.stdout.readline()
        found = re.search(r":(\d+)/", line)
        assert found, f"the server did not start: {line}"
        self.port = int(found[1])

    def kill(self) -> None:
        if self.process.poll() is None:
            self.process.send_signal(signal.SIGKILL)
            self.process.communicate()

    def call(self, method: str, path: str, body: object = None) -> Any:
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}/api{path}",
            method=method,
            data=None if body is None else json.dumps(body).encode(),
        )
        with urllib.request.urlopen(request, timeout=30) as answer:
            return json.loads(answer.read() or "null")


class BrowserCase(unittest.TestCase):
    """One browser a class, one server a test."""

    driver: webdriver.Chrome

    @classmethod
    def setUpClass(cls) -> None:
        options = Options()
        options.binary_location = "/usr/bin/chromium"
        for argument in (*ARGUMENTS, "--window-size=1280,800"):
            options.add_argument(argument)
        cls.driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
        cls.addClassCleanup(cls.driver.quit)

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.server = Server(Path(folder.name) / "jobs.sqlite3")
        self.addCleanup(self.server.kill)
        self.size(1280, 800)
        self.addCleanup(self.driver.get, "about:blank")

    def size(self, width: int, height: int) -> None:
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 600}
        self.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)

    def open(self, path: str) -> None:
        self.driver.get(f"http://127.0.0.1:{self.server.port}{path}")

    def job(self, plan: object) -> str:
        """Make a job and open its drain step."""
        job_id: str = self.server.call("POST", "/jobs", {"plan": plan})["job_id"]
        self.open(f"/jobs/{job_id}/drain")
        self.ready()
        return job_id

    def until(self, test: Callable[[], T], what: str, seconds: float = 30) -> T:
        wait = WebDriverWait(self.driver, seconds, 0.05, ignored_exceptions=[Exception])
        return wait.until(lambda _: test(), what)

    def ready(self) -> None:
        self.until(lambda: self.one("[data-ready] [data-zoom] path"), "the drawings stand")
        self.settled()

    def saved(self) -> None:
        """Wait until what is on screen is worked out and saved."""
        self.until(lambda: self.one('[data-agrees="yes"]'), "screen, answer and store agree")

    def settled(self) -> None:
        """Wait until nothing is on its way: all agree, or the screen says why they do not."""
        stays = [
            f'[data-save="{state}"]'
            for state in ("refused", "conflict", "offline", "stuck", "gone")
        ]
        self.until(lambda: self.one(", ".join(['[data-agrees="yes"]', *stays])), "it is settled")

    def cure(self, text: str) -> None:
        """Take a change that the newest answer offers, and wait for its own answer."""
        self.saved()
        self.click(text)
        self.saved()

    def step(self, name: str) -> None:
        """Open a step by its tab, and its phase before that."""
        tab = f'[data-step="{name}"]'
        for phase in self.driver.find_elements(By.CSS_SELECTOR, "[data-phase]"):
            if self.driver.find_elements(By.CSS_SELECTOR, tab):
                break
            phase.click()
            self.until(
                lambda at=phase: at.get_attribute("aria-current") == "true",  # type: ignore[misc]
                "the phase is open",
            )
        self.one(tab).click()
        self.until(lambda: self.one(f'[data-panel="{name}"]'), f"step {name}")
        self.settled()

    def view(self, name: str) -> None:
        """Open a view of the step by its tab."""
        self.until(
            lambda: self.driver.find_element(By.XPATH, f'//*[@role="tab"][.="{name}"]'), name
        ).click()
        self.settled()

    def one(self, css: str) -> WebElement:
        return self.driver.find_element(By.CSS_SELECTOR, css)

    def button(self, text: str) -> WebElement:
        inner = f'//*[self::button or self::a][contains(normalize-space(.), "{text}")]'
        named = f'//*[self::button or self::a][@aria-label="{text}"]'
        return self.until(
            lambda: self.driver.find_element(By.XPATH, f"{named} | {inner}"), f"button {text}"
        )

    def click(self, text: str) -> None:
        self.button(text).click()

    def field(self, label: str) -> WebElement:
        """The first field with this label."""
        by = f'//input[@id=//label[normalize-space(.)="{label}"]/@for] | //*[@aria-label="{label}"]'
        return self.until(lambda: self.driver.find_element(By.XPATH, by), f"field {label}")

    def type(self, label: str, text: str) -> None:
        """Type into a field of the page as it stands once nothing is on its way."""
        self.settled()
        field = self.field(label)
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
        field.click()
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text, Keys.ENTER)

    def figure(self, name: str) -> str:
        """What a key figure reads, once nothing is on its way."""
        self.settled()
        return self.one(f'[data-figure="{name}"] > span:nth-child(2)').text

    def reads(self, name: str, text: str) -> None:
        self.until(lambda: self.figure(name) == text, f"{name} reads {text}")

    def press(self, *keys: str) -> None:
        webdriver.ActionChains(self.driver).send_keys(*keys).perform()

    def tab_to(self, label: str) -> None:
        """Press Tab until what has the focus goes by this name."""
        script = """
            const at = document.activeElement;
            const labels = [...(at.labels ?? [])].map((label) => label.textContent);
            return [at.getAttribute("aria-label") ?? "", ...labels,
                    at.matches("section") ? "" : at.textContent].join("|");
        """
        seen = []
        for _ in range(150):
            self.press(Keys.TAB)
            seen.append(self.driver.execute_script(script)[:80])
            if label in seen[-1]:
                return
        self.fail(f"Tab never came to {label}: {seen}")

    def chord(self, modifier: str, key: str) -> None:
        chain = webdriver.ActionChains(self.driver)
        chain.key_down(modifier).send_keys(key).key_up(modifier).perform()
