"""A finger on the chart: what scrolls moves nothing, what is held moves, and what moved is said."""

from __future__ import annotations

from typing import Any

from selenium.webdriver.common.by import By

from tests.browser.case import BrowserCase
from tests.plans import document


class TouchTest(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.size(390, 800)
        self.emulate("Emulation.setTouchEmulationEnabled", {"enabled": True})
        self.job_id = self.job(document())

    def touch(self, kind: str, at: tuple[float, float] | None = None) -> None:
        points = [] if at is None else [{"x": at[0], "y": at[1]}]
        self.emulate("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    def middle(self) -> tuple[float, float]:
        x, y = self.driver.execute_script(
            "const box = document.querySelector('[data-handle=\"drain\"] circle')"
            ".getBoundingClientRect(); return [box.x + box.width / 2, box.y + box.height / 2]"
        )
        return x, y

    def scrolled(self) -> float:
        return float(self.driver.execute_script("return window.scrollY"))

    def drain(self) -> Any:
        return self.server.call("GET", f"/jobs/{self.job_id}")["plan"]["shower"]["drain"]["centre"]

    def held(self) -> tuple[float, float]:
        """Rest a finger on the drain until it is held; where it rests."""
        x, y = self.middle()
        self.touch("touchStart", (x, y))
        self.seen(".handle.held", "the handle is held")
        return x, y

    def test_a_swipe_that_begins_on_a_handle_scrolls_and_moves_nothing(self) -> None:
        before = self.drain()
        for sideways in (0, 6):
            x, y = self.middle()
            at = self.scrolled()
            self.touch("touchStart", (x, y))
            for step in range(1, 9):
                self.touch("touchMove", (x + sideways * step, y - 20 * step))
            self.touch("touchEnd")
            if not sideways:
                self.until(lambda at=at: self.scrolled() > at, "the page scrolls")  # type: ignore[misc]
            self.driver.execute_script("window.scrollTo(0, 0)")
        self.saved()
        self.assertEqual(self.drain(), before)
        self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, "[data-note=moved]"), [])

    def test_what_is_held_moves_says_how_far_and_is_undone(self) -> None:
        before = self.drain()
        x, y = self.held()
        for step in range(1, 6):
            self.touch("touchMove", (x, y + 4 * step))
        self.touch("touchEnd")
        self.seen("[data-note=moved]", "it is said")
        self.saved()
        self.assertEqual(self.scrolled(), 0)
        after = self.drain()
        by = ((after[0] - before[0]) ** 2 + (after[1] - before[1]) ** 2) ** 0.5
        self.assertGreater(by, 50)
        self.until(
            lambda: f"Drain moved by {by:.0f} mm" in self.one("[data-note=moved]").text, "how far"
        )
        self.one("[data-note=moved] button").click()
        self.until(lambda: self.drain() == before, "it is back")

    def test_a_drag_that_the_browser_takes_over_is_put_back(self) -> None:
        before = self.drain()
        x, y = self.held()
        self.touch("touchMove", (x, y + 30))
        self.until(lambda: self.middle() != (x, y), "it moved")
        self.touch("touchCancel")
        self.until(lambda: self.middle() == (x, y), "it is back")
        self.saved()
        self.assertEqual(self.drain(), before)

    def test_a_touch_says_that_it_is_held(self) -> None:
        at = self.middle()
        self.touch("touchStart", at)
        self.touch("touchEnd")
        self.seen("[data-note=moved]", "it is said")
        self.assertIn("hold it", self.one("[data-note=moved]").text)
