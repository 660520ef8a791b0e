"""The days on the real interface: a first day, hours, schools; what they move, and undo."""

from __future__ import annotations

from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.case import BrowserCase
from tests.plans import document


class DaysTest(BrowserCase):
    def finish(self) -> int:
        self.settled()
        return int(self.one("[data-finish]").get_attribute("data-finish") or "-1")

    def days(self, job_id: str) -> Any:
        return self.server.call("GET", f"/jobs/{job_id}")["plan"]["days"]

    def test_what_is_chosen_moves_the_days_and_is_undone(self) -> None:
        job_id = self.job(document(), "days")
        self.seen("[data-task]", "the tasks")
        first = self.finish()
        self.assertIn("Day 1", self.one("[data-day]").text)
        self.type("Begins at, h", "13")
        self.saved()
        self.until(lambda: self.finish() > first, "fewer hours take longer")
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.finish() == first, "undone")
        self.put_day("First day", "2026-12-07")
        self.assertEqual(self.days(job_id)["start"], "2026-12-07")
        self.until(lambda: "Mon 7 Dec" in self.one("[data-day]").text, "dates in place of numbers")
        self.one('input[aria-label="Two coats"]').click()
        self.until(lambda: self.one('[data-task="second_coat"]'), "the other school")
        self.assertEqual(
            self.driver.find_elements(By.CSS_SELECTOR, '[data-task="membrane_sheet"]'), []
        )

    def put_day(self, label: str, day: str) -> None:
        """Choose a day; how one is typed depends on where the browser stands."""
        self.driver.execute_script(
            "const own = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value');"
            "own.set.call(arguments[0], arguments[1]);"
            "arguments[0].dispatchEvent(new Event('input', {bubbles: true}))",
            self.field(label),
            day,
        )
        self.saved()

    def test_a_task_is_moved_and_back(self) -> None:
        plan = document() | {"version": 10, "days": {"start": "2026-12-07"}}
        job_id = self.job(plan, "days")
        self.seen("[data-task]", "the tasks")
        first = self.finish()
        plumb = '[data-task="plumb"]'
        self.assertIn("day to be agreed", self.one(plumb).text)
        self.click("Waste pipe, trap and riser: not before a day")
        self.put_day("Not before", "2026-12-10")
        self.until(lambda: "agreed for Thu 10 Dec" in self.one(plumb).text, "its day")
        self.assertGreater(self.finish(), first)
        self.assertEqual(self.days(job_id)["agreed"], [{"task": "plumb", "day": "2026-12-10"}])
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.finish() == first, "undone")
        self.assertIn("day to be agreed", self.one(plumb).text)

    def test_hours_that_never_come_are_named_and_nothing_is_lost(self) -> None:
        job_id = self.job(document(), "days")
        self.seen("[data-task]", "the tasks")
        self.type("Ends at, h", "8")
        self.until(lambda: "half an hour" in self.one("aside").text, "named")
        self.assertEqual(self.days(job_id)["end"], 16.5)
        self.click("Back to the last good plan")
        self.saved()
        self.seen("[data-task]", "the tasks are back")
