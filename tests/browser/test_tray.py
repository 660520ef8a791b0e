"""A stock tray laid out from its riser, on the real interface."""

from __future__ import annotations

from selenium.webdriver.common.by import By

from tests.browser.case import BrowserCase
from tests.plans import document, point


class TrayTest(BrowserCase):
    def sides(self) -> dict[str, str]:
        self.saved()
        rows = self.driver.find_elements(By.CSS_SELECTOR, "[data-side]")
        return {row.get_attribute("data-side") or "": row.text for row in rows}

    def verdict(self) -> str:
        self.saved()
        return self.one("[data-tray]").text

    def test_from_what_was_bought_to_a_tray_that_reaches_every_side(self) -> None:
        job_id = self.job(document(former={"kind": "tray", "edge_thickness": 60}), "depth")
        self.click("Lay a stock tray out from the riser")
        # The riser is 450 mm from back and entry: 1,000 mm deep is the next whole size.
        self.assertIn("sides are cut", self.verdict())
        self.assertIn("cut 50 mm", self.sides()["back"])
        self.type("Tray, entry to back", "800")
        self.type("Its drain, from its back edge", "400")
        self.assertIn("Too small on 2", self.verdict())
        self.assertIn("50 mm is missing", self.sides()["back"])
        self.type("Tray, entry to back", "36 in")
        self.type("Its drain, from its back edge", "457")
        self.until(lambda: "missing" not in str(self.sides()), "it reaches every side")
        self.one('[aria-label="Underside, to mark it"]').click()
        drawing = self.one('svg[aria-label^="Cutting diagram"]').get_attribute("aria-label")
        self.assertIn("underside", drawing or "")
        stored = self.server.call("GET", f"/jobs/{job_id}")["plan"]["shower"]["former"]["stock"]
        self.assertAlmostEqual(stored["length"], 914.4)
        self.click("Give its cuts by hand instead")
        self.saved()
        self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, "[data-tray]"), [])

    def test_the_riser_is_moved_where_the_finding_says(self) -> None:
        stock = {"width": 1520, "length": 920, "drain_left": 760, "drain_back": 460}
        former = {"kind": "tray", "edge_thickness": 60, "stock": stock}
        plan = document(former=former)
        plan["shower"]["drain"]["centre"] = [700, 1350]
        self.job(plan | {"version": 8}, "depth")
        self.assertIn("Too small on 1", self.verdict())
        self.cure("Move the riser")
        self.assertNotIn("Too small", self.verdict())
        self.assertNotIn("missing", str(self.sides()))

    def test_two_trays_are_each_seen_from_either_side(self) -> None:
        stock = {"width": 1000, "length": 900, "drain_left": 500, "drain_back": 450}
        plan = document(
            outline=[[0, 900], [1800, 900], [1800, 1800], [0, 1800]],
            drain=point(450, 1350, rim=110),
            second_drain=point(1380, 1350, rim=110),
            former={"kind": "tray", "edge_thickness": 40, "stock": stock},
        )
        self.job(plan | {"version": 9}, "depth")
        self.saved()
        self.assertEqual(len(self.driver.find_elements(By.CSS_SELECTOR, "[data-tray]")), 2)
        self.assertIn("cut 35 mm", self.one('[data-side="joint"]').text)
        first, second = self.driver.find_elements(
            By.CSS_SELECTOR, '[aria-label="Underside, to mark it"]'
        )
        second.click()
        drawings = self.driver.find_elements(By.CSS_SELECTOR, 'svg[aria-label^="Cutting diagram"]')
        told = [drawing.get_attribute("aria-label") or "" for drawing in drawings]
        self.assertEqual(["underside" in label for label in told], [False, True])
        above = self.driver.find_elements(By.CSS_SELECTOR, '[aria-label="From above"]')
        self.assertEqual([one.is_selected() for one in above], [True, False])
        self.assertFalse(first.is_selected())
