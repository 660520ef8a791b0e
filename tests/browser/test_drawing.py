"""A room's outline brought in from a drawing: its unit, its layer, and what is no drawing."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

from selenium.webdriver.common.by import By

from tests.browser.case import BrowserCase
from tests.core.test_outline_dxf import HAND
from tests.plans import document


class DrawingTest(BrowserCase):
    def bring(self, text: str) -> None:
        with TemporaryDirectory() as folder:
            file = Path(folder) / "room.dxf"
            file.write_text(text)
            self.one('input[accept=".dxf"]').send_keys(str(file))
            self.until(lambda: self.one("dialog[open] p:not([aria-busy])"), "it was read")

    def test_an_outline_is_chosen_and_taken(self) -> None:
        job_id = self.job(document() | {"display": {"length": "in"}}, "room")
        self.ready()
        self.bring(HAND.replace("60.0", "75.0"))
        dialog = self.one("dialog[open]")
        self.until(lambda: "choose the unit" in dialog.text, "it names no unit")
        self.one("dialog[open] select").send_keys("in")
        self.until(lambda: '96" × 75", 4 corners' in dialog.text, "its size")
        self.assertIn("WALLS (1)", dialog.text)
        self.click("Use this outline")
        self.saved()
        room = self.server.call("GET", f"/jobs/{job_id}")["plan"]["room"]
        self.assertEqual(sorted(room["outline"])[-1], [2438.4, 1905])

    def test_what_is_no_drawing_is_said_and_nothing_is_lost(self) -> None:
        job_id = self.job(document(), "room")
        self.ready()
        before = self.server.call("GET", f"/jobs/{job_id}")["plan"]["room"]
        self.bring("this is a shopping list")
        self.until(lambda: "no drawing" in self.one("dialog[open]").text, "said")
        self.click("Close")
        self.until(lambda: not self.driver.find_elements(By.CSS_SELECTOR, "dialog[open]"), "closed")
        self.assertEqual(self.server.call("GET", f"/jobs/{job_id}")["plan"]["room"], before)
