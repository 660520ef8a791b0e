"""A real server and a real browser for the tests of the interface: one of each a process, with an
empty database and a window of its own for each test."""

from __future__ import annotations

import time
import unittest
import warnings
from collections.abc import Callable
from functools import cache, partial
from pathlib import Path
from typing import Any, ClassVar, TypeVar

from selenium import webdriver
from selenium.common.exceptions import JavascriptException, TimeoutException
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser.server import Server, new_server
from tests.ending import at_end

T = TypeVar("T")
ARGUMENTS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-gpu-rasterization",
    # Windows that no test opens are not kept ready.
    "--disable-features=PreloadTopChromeWebUI,SpareRendererForSitePerProcess",
    "--disable-quic",
    # What moves is drawn sixty times a second: a test that is about it asks for it.
    "--force-prefers-reduced-motion",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
)


SEEN = """
    const [css, done] = arguments;
    let again;
    const look = () => {
      if (again || !document.querySelector(css)) return;
      // What the page does of itself after it has drawn may take it back: it has to stay.
      again = setTimeout(() => {
        again = undefined;
        if (!document.querySelector(css)) return;
        observer.disconnect();
        done(true);
      }, 40);
    };
    const observer = new MutationObserver(look);
    observer.observe(document, {attributes: true, childList: true, subtree: true});
    look();
"""
"""Answers as soon as something on the page matches a selector."""

STEPPED = """
    const [name, done] = arguments;
    const phases = [...document.querySelectorAll("[data-phase]")];
    let open;
    const look = () => {
      const tab = document.querySelector(`[data-step="${name}"]`);
      if (tab) {
        tab.click();
        return done();
      }
      if (!open || open.getAttribute("aria-current") === "true") {
        open = phases.shift();
        open?.click();
      }
      setTimeout(look, 10);
    };
    look();
"""
"""Presses the tab of a step, once its phase is open."""

TABBED = """
    const [label] = arguments;
    const nameOf = (at) => {
      const labels = [...(at.labels ?? [])].map((one) => one.textContent);
      return [at.getAttribute("aria-label") ?? "", ...labels,
              at.matches("section") ? "" : at.textContent].join("|").slice(0, 80)
        .replaceAll("\u00a0", " ");
    };
    const tabbed = { there: false, seen: [] };
    const moved = (event) => {
      if (tabbed.there) return;
      tabbed.seen.push(nameOf(event.target));
      tabbed.there = nameOf(event.target).includes(label);
    };
    // Once it is there the focus stays: Tab goes no further.
    const held = (event) => {
      if (tabbed.there && event.key === "Tab") event.preventDefault();
    };
    document.addEventListener("focusin", moved, true);
    document.addEventListener("keydown", held, true);
    tabbed.end = () => {
      document.removeEventListener("focusin", moved, true);
      document.removeEventListener("keydown", held, true);
    };
    window.tabbed = tabbed;
"""
"""Watches where Tab takes the focus, and holds it at what goes by a name."""

PATIENCE = 30
"""So long a test waits for what has to come, s: it is far more than it takes."""


@cache
def _shared_server() -> Server:
    server = new_server()
    at_end(server.end)
    return server


@cache
def _browser() -> webdriver.Chrome:
    """The browser of this process: the build without tabs and bars, where it is there, draws none
    and takes a third less of the processor for the same pages."""
    options = Options()
    # The program itself, not the script that starts it: that would be ended in its place.
    windowless = Path("/usr/lib/chromium/chromium-headless-shell")
    options.binary_location = str(windowless) if windowless.exists() else "/usr/bin/chromium"
    for argument in (*ARGUMENTS, "--window-size=1280,800"):
        options.add_argument(argument)
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    driver.set_script_timeout(PATIENCE)
    at_end(partial(_quit, driver))
    return driver


def _quit(driver: webdriver.Chrome) -> None:
    with warnings.catch_warnings():
        # Its connections are let go of, not closed: that is the client's own way.
        warnings.simplefilter("ignore", ResourceWarning)
        driver.quit()


class BrowserCase(unittest.TestCase):
    """A test in a window of its own, which remembers nothing, over an empty database."""

    own_server: ClassVar[bool] = False
    """Whether each test has a server of its own: for those that damage its file or lock it."""

    moving: ClassVar[bool] = False
    """Whether the page moves what it would move for most people."""

    driver: webdriver.Chrome

    emulated: ClassVar[bool] = True
    """Whether the window was told to be other than it is: it is then used for no other test."""

    def setUp(self) -> None:
        self.driver = _browser()
        if self.own_server:
            self.server = new_server()
            self.addCleanup(self.server.end)
        else:
            self.server = _shared_server()
        self._fresh_window()
        self.server.emptied()
        self.size(1280, 800)
        if self.moving:
            media = {"features": [{"name": "prefers-reduced-motion", "value": "no-preference"}]}
            self.emulate("Emulation.setEmulatedMedia", media)

    def _fresh_window(self) -> None:
        former = self.driver.window_handles
        if BrowserCase.emulated or len(former) > 1:
            # What a test emulates, slows down or blocks ends with its window.
            self.driver.switch_to.new_window("tab")
            ours = self.driver.current_window_handle
            for handle in former:
                self.driver.switch_to.window(handle)
                self.driver.close()
            self.driver.switch_to.window(ours)
            BrowserCase.emulated = False
        else:
            self.driver.get("about:blank")
        # But for the page's own files: they are kept once for all tests of a server.
        kinds = "cookies,local_storage,indexeddb,file_systems,websql,shader_cache"
        origin = {"origin": f"http://127.0.0.1:{self.server.port}", "storageTypes": kinds}
        self.driver.execute_cdp_cmd("Storage.clearDataForOrigin", origin)

    def emulate(self, command: str, values: dict[str, Any]) -> Any:
        """Make the browser other than it is, for this test."""
        BrowserCase.emulated = True
        return self.driver.execute_cdp_cmd(command, values)

    def size(self, width: int, height: int) -> None:
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 600}
        self.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)

    def open(self, path: str) -> None:
        self.driver.get(f"http://127.0.0.1:{self.server.port}{path}")

    def job(self, plan: object, step: str = "drain") -> str:
        """Make a job and open a step of it."""
        job_id: str = self.server.call("POST", "/jobs", {"plan": plan})["job_id"]
        self.open(f"/jobs/{job_id}/{step}")
        self.ready()
        return job_id

    def seen(self, css: str, what: str) -> None:
        """Wait until something on the page matches a selector; the page may change meanwhile."""
        end = time.monotonic() + PATIENCE
        while time.monotonic() < end:
            try:
                self.driver.execute_async_script(SEEN, css)
                return
            except JavascriptException:
                # The page that was looked at is gone.
                continue
            except TimeoutException:
                break
        self.fail(f"it never came: {what}")

    def until(self, test: Callable[[], T], what: str, seconds: float = PATIENCE) -> T:
        wait = WebDriverWait(self.driver, seconds, 0.05, ignored_exceptions=[Exception])
        return wait.until(lambda _: test(), what)

    def ready(self) -> None:
        drawn = "[data-ready] :is([data-zoom], [data-part=schedule]) path"
        self.seen(drawn, "the drawings stand")
        self.settled()

    def saved(self) -> None:
        """Wait until what is on screen is worked out and saved."""
        self.seen('[data-agrees="yes"]', "screen, answer and store agree")

    def settled(self) -> None:
        """Wait until nothing is on its way: all agree, or the screen says why they do not."""
        stays = [
            f'[data-save="{state}"]'
            for state in ("refused", "conflict", "offline", "stuck", "gone")
        ]
        self.seen(", ".join(['[data-agrees="yes"]', *stays]), "it is settled")

    def cure(self, text: str) -> None:
        """Take a change that the newest answer offers, and wait for its own answer."""
        self.saved()
        self.click(text)
        self.saved()

    def step(self, name: str) -> None:
        """Open a step by its tab, and its phase before that."""
        self.driver.execute_async_script(STEPPED, name)
        self.seen(f'[data-panel="{name}"]', f"step {name}")
        self.settled()

    def at(self, job_id: str, step: str) -> None:
        """Be at a step of a job: from another step of it by its tab, else by its address."""
        if f"/jobs/{job_id}/" in self.driver.current_url:
            self.step(step)
        else:
            self.open(f"/jobs/{job_id}/{step}")
            self.ready()

    def view(self, name: str) -> None:
        """Open a view of the step by its tab."""
        self.until(
            lambda: self.driver.find_element(By.XPATH, f'//*[@role="tab"][.="{name}"]'), name
        ).click()
        self.seen(f'[role="tabpanel"][aria-label="{name}"]', name)
        self.settled()

    def one(self, css: str) -> WebElement:
        return self.driver.find_element(By.CSS_SELECTOR, css)

    def button(self, text: str) -> WebElement:
        # What does not part where a line ends is a space all the same.
        own = "normalize-space(translate(., '\u00a0', ' '))"
        inner = f'//*[self::button or self::a][contains({own}, "{text}")]'
        named = f'//*[self::button or self::a][@aria-label="{text}"]'
        return self.until(
            lambda: self.driver.find_element(By.XPATH, f"{named} | {inner}"), f"button {text}"
        )

    def click(self, text: str) -> None:
        self.button(text).click()

    def field(self, label: str) -> WebElement:
        """The first field with this label."""
        said = 'translate(normalize-space(.), "\u00a0", " ")'
        by = f'//input[@id=//label[{said}="{label}"]/@for] | //*[@aria-label="{label}"]'
        return self.until(lambda: self.driver.find_element(By.XPATH, by), f"field {label}")

    def choose(self, label: str, option: str) -> None:
        """Choose from the list with this label what contains some words."""
        by = f'//select[@id=//label[normalize-space(.)="{label}"]/@for or @aria-label="{label}"]'
        found = self.until(lambda: self.driver.find_element(By.XPATH, by), f"list {label}")
        found.find_element(By.XPATH, f'./option[contains(., "{option}")]').click()

    def type(self, label: str, text: str) -> None:
        """Type into a field of the page as it stands once nothing is on its way."""
        self.settled()
        field = self.field(label)
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
        field.send_keys(Keys.CONTROL, "a", Keys.NULL, text, Keys.ENTER)

    def figure(self, name: str) -> str:
        """What a key figure reads, once nothing is on its way."""
        self.settled()
        return self.one(f'[data-figure="{name}"] > span:nth-child(2)').text

    def reads(self, name: str, text: str) -> None:
        self.until(lambda: self.figure(name) == text, f"{name} reads {text}")

    def press(self, *keys: str) -> None:
        webdriver.ActionChains(self.driver, duration=60).send_keys(*keys).perform()

    def tab_to(self, label: str) -> None:
        """Press Tab until what has the focus goes by this name."""
        self.driver.execute_script(TABBED, label)
        for _ in range(10):
            self.press(*[Keys.TAB] * 15)
            if self.driver.execute_script("return window.tabbed.there"):
                self.driver.execute_script("window.tabbed.end()")
                return
        seen = self.driver.execute_script("return window.tabbed.seen")
        self.fail(f"Tab never came to {label}: {seen}")

    def chord(self, modifier: str, key: str) -> None:
        chain = webdriver.ActionChains(self.driver, duration=60)
        chain.key_down(modifier).send_keys(key).key_up(modifier).perform()
