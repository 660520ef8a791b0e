"""The days on the real interface: a first day, hours, schools; what they move, and undo."""

from __future__ import annotations

from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.case import BrowserCase
from tests.plans import document
from tests.sweeps import each


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
        self.choose("Membrane", "Liquid, two coats")
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
        self.settled()
        self.click("Back to the last good plan")
        self.saved()
        self.seen("[data-task]", "the tasks are back")

    def test_a_task_is_begun_and_done_and_a_hold_point_is_signed(self) -> None:
        job_id = self.job(document(), "days")
        self.seen("[data-task]", "the tasks")
        self.click("Open the floor: begin")
        self.until(lambda: self.one('[data-task="open_deck"][data-state="begun"]'), "begun")
        self.saved()
        days = self.days(job_id)
        # Without a first day it is the one on which the first task was begun.
        self.assertEqual(days["start"], days["worked"][0]["began"][:10])
        self.click("Open the floor: done")
        self.until(lambda: self.one('[data-task="open_deck"][data-state="done"]'), "done")
        self.assertTrue(self.one('[data-part="now"]'))
        test = '[data-task="leak_test"]'
        self.click("Leak test of the waste: begin")
        self.until(lambda: self.one(f'{test}[data-state="begun"]'), "the test is on")
        self.click("Leak test of the waste: sign")
        self.until(lambda: "Type your initials" in self.one(test).text, "it says what it wants")
        self.type("Initials", "AB")
        self.until(lambda: self.one(f'{test}[data-state="done"]'), "signed")
        self.assertIn("AB", self.one(test).text)
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.one(f'{test}[data-state="begun"]'), "undone")

    def test_what_was_agreed_stays_in_sight_when_a_task_of_ones_own_comes_in(self) -> None:
        plan = document() | {"version": 10, "days": {"start": "2026-12-07"}}
        job_id = self.job(plan, "days")
        self.seen("[data-task]", "the tasks")
        bars = len(self.driver.find_elements(By.CSS_SELECTOR, "[data-bar]"))
        self.click("These days are agreed")
        self.until(lambda: self.one('[data-first="as first agreed"]'), "agreed")
        self.saved()
        self.assertEqual(len(self.days(job_id)["first_agreed"]), bars)
        self.click("Add the task")
        self.until(lambda: "Give it a name" in self.one("aside").text, "it is named first")
        self.field("What is done").send_keys("Scan the floor")
        self.type("Hands, h", "x")
        self.until(lambda: "no number of hours" in self.one("aside").text, "the field is named")
        for label, task in (("After", "Open the floor"), ("Before", "Waste pipe, trap and riser")):
            chosen = f'//select[@id=//label[normalize-space(.)="{label}"]/@for]'
            self.driver.find_element(By.XPATH, chosen).send_keys(task)
        self.type("Hands, h", "16")
        self.until(lambda: self.one('[data-task="own_1"]'), "it is on the list")
        self.saved()
        own = self.days(job_id)["own"][0]
        self.assertEqual((own["name"], own["hours"]), ("Scan the floor", 16))
        self.assertEqual((own["after"], own["before"]), (["open_deck"], ["plumb"]))
        self.until(lambda: "later than first agreed" in self.one("aside").text, "and told")
        self.click("Remove Scan the floor")
        self.until(lambda: self.one('[data-first="as first agreed"]'), "as before")

    def test_fewest_days_on_site_may_end_later(self) -> None:
        plan = document() | {"version": 11, "days": {"start": "2026-12-07"}}
        plan["days"]["own"] = [
            {"id": "own_1", "name": "Paint", "hours": 0.5},
            {"id": "own_2", "name": "Hang the door", "hours": 0.5},
        ]
        plan["days"]["agreed"] = [
            {"task": "own_1", "day": "2026-12-28"},
            {"task": "own_2", "day": "2027-01-11"},
        ]
        self.job(plan, "days")
        self.seen("[data-task]", "the tasks")
        visits = self.one('[data-part="visits"]').text
        self.one('input[aria-label="Fewest days on site"]').click()
        self.until(lambda: self.one('[data-part="visits"]').text != visits, "fewer")
        self.saved()

    SEEN = """
        const ink = (colour) => {
          const on = document.createElement("canvas").getContext("2d", { colorSpace: "srgb" });
          on.fillStyle = colour;
          on.fillRect(0, 0, 1, 1);
          const linear = (v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
          const [r, g, b] = [...on.getImageData(0, 0, 1, 1).data].map((v) => linear(v / 255));
          return 0.2126 * r + 0.7152 * g + 0.0722 * b;
        };
        const page = document.querySelector("[data-agrees]");
        const ground = ink(getComputedStyle(page).backgroundColor);
        return [...document.querySelectorAll("[data-part=hands]")].map((bar) => {
          const light = ink(getComputedStyle(bar).fill);
          return (Math.max(light, ground) + 0.05) / (Math.min(light, ground) + 0.05);
        });
    """

    def test_every_bar_is_seen_by_day_and_by_night(self) -> None:
        """Against its ground by 3:1 (WCAG 2.2, 1.4.11; from memory)."""
        self.job(document(), "days")
        self.seen("[data-part=hands]", "the schedule")
        for theme in ("tide-day", "tide-night"):
            self.driver.execute_script(
                "document.documentElement.dataset.theme = arguments[0]", theme
            )
            for contrast in each(self.driver.execute_script(self.SEEN), least=8):
                self.assertGreater(contrast, 3, theme)
