"""The order on the real interface: ticked, typed, without a connection, at phone width."""

from __future__ import annotations

import csv
import io
import urllib.request
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.case import BrowserCase
from tests.plans import document


class OrderTest(BrowserCase):
    def items(self, job_id: str) -> dict[str, Any]:
        plan = self.server.call("GET", f"/jobs/{job_id}")["plan"]
        return {one["item"]: one for one in plan["order"]["items"]}

    def left(self) -> int:
        return int(self.one("[data-left]").get_attribute("data-left") or "-1")

    def test_ticked_without_a_connection_on_a_phone_it_arrives_once(self) -> None:
        self.size(390, 800)
        job_id = self.job(document(), "order")
        self.seen("[data-item]", "the lines")
        before = self.left()
        self.server.kill()
        for label in ("Bed mortar: Bought", "Bed mortar: On site", "Drain: Bought"):
            button = self.button(label)
            self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
            button.click()
        self.seen('[data-save="offline"]', "told that it is not saved")
        self.assertEqual(self.button("Bed mortar: Bought").get_attribute("aria-pressed"), "true")
        self.server.start()
        self.saved()
        self.until(lambda: self.left() == before - 2, "two fewer to buy")
        items = self.items(job_id)
        self.assertEqual(set(items), {"mud", "drain"})
        self.assertTrue(items["mud"]["bought"] and items["mud"]["on_site"])
        self.assertFalse(items["mud"]["checked"])

    def test_what_the_bag_says_is_typed_by_keyboard_and_nothing_is_refused(self) -> None:
        job_id = self.job(document(), "order")
        self.seen("[data-item]", "the lines")
        usual = self.one('[data-item="mud"]').text
        self.tab_to("Bed mortar: Pack")
        self.press(Keys.ENTER)
        self.press(Keys.TAB, "0", Keys.ENTER)
        self.until(lambda: "no such number" in self.one('[data-item="mud"]').text, "named")
        self.assertEqual(self.items(job_id), {})
        self.press(Keys.BACKSPACE, "9", ".", "5", Keys.ENTER)
        self.saved()
        self.assertEqual(self.items(job_id)["mud"]["pack"], 9.5)
        self.until(lambda: "Pack as typed" in self.one('[data-item="mud"]').text, "it is told")
        self.assertNotEqual(self.one('[data-item="mud"]').text, usual)
        self.button("Why: Bed mortar").click()
        self.until(lambda: "as typed" in self.one("dialog").text, "the working")
        self.press(Keys.ESCAPE)
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.items(job_id) == {}, "undone")

    def test_the_file_holds_what_the_screen_says(self) -> None:
        job_id = self.job(document(), "order")
        self.seen("[data-item]", "the lines")
        url = self.button("Save as CSV").get_attribute("href")
        with urllib.request.urlopen(str(url), timeout=30) as answer:
            text = answer.read().decode()
        rows = list(csv.DictReader(io.StringIO(text.split("\n\n")[0])))
        shown = self.driver.find_elements(By.CSS_SELECTOR, "[data-item]")
        self.assertEqual(len(rows), len(shown))
        for row, line in zip(rows, shown, strict=True):
            self.assertIn(row["item"], line.text)
            self.assertIn(row["buy"], line.text)
        self.assertTrue(job_id)
