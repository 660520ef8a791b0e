"""The heating cable on the real interface: it fits or says why not, and follows what is moved."""

from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.test_steps import StepCase
from tests.plans import document, moved


class HeatingTest(StepCase):
    def begin_with(self, length: float = 20_000, **more: Any) -> None:
        doc = document() | {"version": 3, "heating": {"length": length}} | more
        self.job_id = self.job(doc, "heating")
        self.until(lambda: self.one("[data-cable]"), "the cable is drawn")

    def cable(self) -> str:
        self.saved()
        return self.one("[data-cable]").get_attribute("d") or ""

    def test_a_cable_is_planned_and_told_to_be_too_long_with_what_cures_it(self) -> None:
        self.job_id = self.job(document(), "heating")
        self.says("No heating cable in this floor")
        self.click("Add heating cable")
        self.until(lambda: self.one('[data-state="fits"]'), "it fits")
        length = self.field("Cable length")
        self.assertEqual(length.get_attribute("value"), "25.0 m")
        # Nobody has read it from a label yet: it looks assumed until somebody types it.
        self.assertIsNotNone(length.get_attribute("data-assumed"))
        self.type("Cable length", "95 m")
        self.saved()
        self.assertIsNone(self.field("Cable length").get_attribute("data-assumed"))
        self.until(lambda: self.one('[data-state="too long"]'), "too long")
        self.says("never shortened")
        self.assertIn("check", self.one('[data-step="heating"]').text)
        self.cure("Use a ")
        self.until(lambda: self.one('[data-state="fits"]'), "its cure")
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.one('[data-state="too long"]'), "undone")
        self.click("Remove heating cable")
        self.says("No heating cable in this floor")

    def test_a_fixture_that_is_moved_and_the_cold_joint_take_the_cable_with_them(self) -> None:
        plan = document()
        plan["room"]["fixtures"] = [
            {"name": "WC", "kind": "WC", "centre": [2000, 400], "width": 380, "length": 700}
        ]
        self.begin_with(room=plan["room"])
        before = self.cable()
        self.step("room")
        self.tab_to("WC. Arrow keys move it")
        for _ in range(30):
            self.chord(Keys.SHIFT, Keys.ARROW_LEFT)
        self.step("heating")
        self.until(lambda: self.one("[data-cable]"), "drawn anew")
        after = self.cable()
        self.assertNotEqual(before, after)
        self.tab_to("Cold joint")
        self.chord(Keys.SHIFT, Keys.ARROW_RIGHT)
        self.until(lambda: self.plan()["heating"]["start"] is not None, "it begins elsewhere")

    def test_a_mat_with_studs_in_inches_in_a_room_that_is_turned(self) -> None:
        doc = moved(document(), turn=37.3, mirror=True) | {"version": 3}
        self.job_id = self.job(
            doc | {"display": {"length": "in"}, "heating": {"length": 24_000}}, "heating"
        )
        self.until(lambda: self.one("[data-cable]"), "the cable is drawn")
        self.says("uses all 78.7 ft")
        self.radio("Studded mat")
        self.until(lambda: self.plan()["heating"]["stud"] is not None, "studs")
        self.says("W/sq ft")
        self.type("Cable length", "-3 ft")
        self.until(lambda: self.one('[role="alert"]').is_displayed(), "named")

    def test_a_loose_mat_is_laid_in_strips(self) -> None:
        self.begin_with()
        self.radio("Loose mat")
        self.until(lambda: self.all("[data-mat]"), "strips")
        self.assertEqual(self.all("[data-cable]"), [])
        self.type("Cable length", "60 m")
        self.until(lambda: self.one('[data-state="too long"]'), "too long")
        self.cure("Use a ")
        self.until(lambda: self.one('[data-state="fits"]'), "its cure")
        self.type("Mat width", "300")
        self.saved()
        self.assertEqual(self.plan()["heating"]["mat"], 300)
        self.radio("Adhesive")
        self.until(lambda: self.one("[data-cable]"), "a cable again")
