"""Falls, water, pins and sections on the real interface."""

import json
import re
from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.test_steps import StepCase
from tests.plans import L_SHAPE, channel, document, point, tray, wet_room


class WaterCase(StepCase):
    def begin_with(self, step: str, doc: dict[str, Any]) -> None:
        self.job_id = self.job(doc, step)


class FallsTest(WaterCase):
    def test_the_corridor_and_where_the_drain_fits(self) -> None:
        outline = [[0, 900], [1100, 900], [1100, 1800], [0, 1800]]
        self.begin("drain", outline=outline, drain=point(550, 1350), fall={"asked": 1 / 54})
        self.says("Within the limits")
        self.assertIn("Fall to plan", self.aside())
        self.click("Show on the chart where the drain fits")
        self.until(lambda: self.all('[data-part="places"] rect'), "places on the chart")
        before = len(self.all('[data-part="places"] rect'))
        self.type("Planned fall", "1:60")
        self.until(lambda: len(self.all('[data-part="places"] rect')) != before, "they follow")

    def test_the_corner_that_hides_and_the_cure_by_two_drains(self) -> None:
        self.begin("drain", outline=L_SHAPE, drain=point(1200, 1450), fall={"asked": 1 / 48})
        self.says("A corner hides part of the shower from the drain")
        said = set(re.findall(r"wall \d", self.button("Give it two drains").text))
        self.assertGreater(len(said), 1)
        chart = [text.text for text in self.all("main svg text")]
        self.assertLessEqual(said, set(chart), "the chart names the walls that the words name")
        self.cure("Give it two drains")
        self.until(lambda: self.one('[data-choice="two"][aria-pressed="true"]'), "two drains")
        self.saved()
        self.assertEqual(len(self.all('[data-part="rim"]')), 2)
        second = self.plan()["shower"]["second_drain"]["centre"]
        self.one('[data-handle="drain-2"]').send_keys(Keys.SHIFT, Keys.ARROW_LEFT)
        moved = self.plan()["shower"]["second_drain"]["centre"]
        self.assertEqual(moved, [second[0] - 10, second[1]])
        self.click("Point, level edge")
        self.until(lambda: len(self.all('[data-part="rim"]')) == 1, "one drain again")
        self.assertIsNone(self.plan()["shower"]["second_drain"])

    def test_an_even_floor_and_its_entry(self) -> None:
        self.begin("drain")
        self.one('[data-choice="even"]').click()
        self.until(lambda: self.one('[data-choice="even"][aria-pressed="true"]'), "even")
        self.reads("Step at entry", "flush")
        self.radio("Follows the fall")
        self.until(lambda: self.figure("Step at entry") != "flush", "the entry follows")

    def test_a_channel_that_stops_short_gets_strips_and_an_outlet(self) -> None:
        self.begin("drain", drain=channel(200, 1765, 1500, 1765))
        self.says("Channel 200 mm short")
        self.radio("Fall to it")
        self.until(lambda: "stops 200 mm short" not in self.aside(), "the strip falls")
        self.type("Fall of the strips", "1:40")
        self.radio("Elsewhere")
        self.until(
            lambda: self.field("Outlet, from the first end").get_attribute("value") == "650",
            "it starts in the middle",
        )
        self.type("Outlet, from the first end", "250")
        drain = self.plan()["shower"]["drain"]
        self.assertEqual((drain["strips"], drain["outlet"]), (0.025, 250))
        self.type("Outlet, from the first end", "2 m")
        self.until(lambda: "beyond the channel" in self.one('[role="alert"]').text, "too far")

    def test_a_wet_room_in_two_zones(self) -> None:
        self.begin_with("drain", wet_room())
        chart = '[role="group"] text'
        self.until(
            lambda: any("below the doors" in t.text for t in self.all(chart)), "depths by the doors"
        )
        self.radio("Level walls")
        self.until(lambda: "room entry" in self.aside(), "planes from every wall")
        self.radio("No, flat")
        self.until(lambda: self.plan()["shower"]["rest"] is None, "flat again")

    def test_a_tray_cut_at_its_entry(self) -> None:
        self.begin("depth", former=tray())
        self.click("Cut side 1 (entry)")
        self.saved()
        self.type("Side 1, the entry", "100")
        self.says("cut entry edge")
        self.saved()
        self.says("edge at")
        self.cure("Cut side 3, across from the entry, instead")
        cuts = self.plan()["shower"]["former"]["cuts"]
        self.assertEqual(cuts, [{"edge": 2, "width": 100}])
        self.cure("Do not cut side 3")
        self.assertEqual(self.plan()["shower"]["former"]["cuts"], [])

    def test_panels_say_what_they_fall(self) -> None:
        self.begin("depth", drain=channel(0, 1765, 1500, 1765), fall={"asked": 1 / 48})
        self.radio("Slope panels")
        self.until(lambda: not self.all('[data-code="panel_fall"]'), "common panels fall as asked")
        self.type("Thick edge", "28.75")
        self.says("Panels too flat: 1:64, planned 1:48")
        self.saved()
        self.cure("Plan the panels' own fall of 1:64")
        self.until(lambda: not self.all('[data-code="panel_fall"]'), "asked is what is built")


class WaterTest(WaterCase):
    moving = True

    def test_every_drop_reaches_the_drain_and_can_be_held(self) -> None:
        self.begin("water")
        self.says("Every drop reaches the drain")
        self.assertTrue(self.all('[data-part="runoff"] .drop'))
        self.click("Hold the water still")
        self.until(lambda: not self.all('[data-part="runoff"] .drop'), "it stands still")
        self.click("Let the water run")
        self.until(lambda: self.all('[data-part="runoff"] .drop'), "it runs")
        self.says("holds 6.6 L")
        self.click("Holds with the drain blocked")
        self.until(lambda: "plane by plane" in self.one("dialog[open]").text, "why")

    def test_who_wants_no_motion_gets_none(self) -> None:
        media = {"features": [{"name": "prefers-reduced-motion", "value": "reduce"}]}
        self.emulate("Emulation.setEmulatedMedia", media)
        self.begin("water")
        self.says("Let the water run")
        self.assertFalse(self.all('[data-part="runoff"] .drop'))
        self.assertTrue(self.all('[data-part="runoff"] path'))

    def test_heads_and_the_way_out(self) -> None:
        self.begin("water")
        self.click("Add a head")
        self.type("hand shower, L/min", "60")
        self.says("Too much water: the heads give 69 L/min")
        self.says("too little")
        self.type("Pipe, inside", "75")
        self.until(lambda: "heads give" not in self.aside(), "a wider pipe takes it")
        self.click("Enter the drain's own figure")
        self.says("Drain and trap")
        self.type("Drain takes, L/min", "80")
        water = self.plan()["water"]
        self.assertEqual((water["drain_l_min"], len(water["heads"])), (80, 2))
        self.type("Pipe, inside", "wide")
        self.until(lambda: "wide" in self.one('[role="alert"]').text, "told why")

    def test_floors_as_hands_make_them_with_progress_and_a_stop(self) -> None:
        self.begin("water")
        self.type("Bed uneven by up to ±", "3")
        self.type("Floors", "30")
        self.click("Try it on floors")
        self.until(lambda: self.one("progress"), "progress shows")
        self.says("30 of 30 floors")
        first = self.one('[aria-label="Workmanship"] tbody').text
        self.click("Try it on floors")
        self.until(
            lambda: (
                "30 of 30 floors" in self.aside()
                and self.one('[aria-label="Workmanship"] tbody').text == first
            ),
            "the same seed gives the same floors",
        )
        self.type("Floors", "1000")
        self.click("Try it on floors")
        self.says("of 1000 floors")
        self.click("Stop")
        self.says("stopped")
        self.says("Try it on floors")

    def test_hidden_falls_say_what_to_wait_for(self) -> None:
        self.begin("water", drain=point(-500, 1350))
        self.says("worked out once the falls can be")
        self.press("4")
        self.says("The order is worked out once")
        self.press(".")
        self.says("The days are worked out once")
        self.press(".")
        self.says("There is something to mark once")


class MarksTest(WaterCase):
    def group(self, kind: str) -> None:
        self.one(f'[data-group="{kind}"]').click()
        self.until(
            lambda: self.one(f'[data-group="{kind}"][aria-expanded="true"]'), "the group opens"
        )

    def marked(self) -> list[str]:
        return [mark["name"] for mark in self.plan()["setting_out"]["marked"]]

    def test_pins_are_listed_drawn_and_saved(self) -> None:
        self.begin("marks")
        self.group("pin")
        self.says("Rounding never reverses the fall")
        rows = len(self.all("[data-mark]"))
        self.assertEqual(len(self.all('[data-part="pins"] g[data-pin]')), rows)
        self.type("Between pins", "800")
        self.until(lambda: 0 < len(self.all("[data-mark]")) < rows, "fewer")
        self.type("Level line over the high spot", "1200")
        plan = self.plan()["setting_out"]
        self.assertEqual((plan["pin_spacing"], plan["staff_on_high_spot"]), (800, 1200))
        link = self.button("Save the list as CSV").get_attribute("href")
        self.assertTrue(link.endswith(f"/api/jobs/{self.job_id}/marks.csv"))
        self.assertIn("line 6", self.aside())

    def test_what_is_marked_leaves_the_chart_and_a_moved_drain_is_told(self) -> None:
        self.begin("marks", drain=point(700, 1300))
        self.group("drain")
        self.until(lambda: self.all('[data-line="drain"]'), "drawn")
        total = len(self.all("[data-mark]"))
        self.one('[data-mark="drain"] button').click()
        self.until(lambda: not self.all('[data-line="drain"]'), "leaves the chart")
        self.assertEqual((self.marked(), total), (["drain"], 1))
        self.group("entry")
        self.one('[data-mark="entry"] button').click()
        self.until(lambda: self.marked() == ["drain", "entry"], "both are noted")
        self.press("2")
        self.until(lambda: self.one('[data-panel="drain"]'), "falls")
        self.tab_to("Drain. Arrow keys move it")
        self.chord(Keys.SHIFT, Keys.ARROW_LEFT)
        self.driver.execute_script("document.activeElement.blur()")
        self.press("4")
        for _ in range(2):
            self.press(".")
        self.says("Holds no more: drain")
        self.assertIn("500 from wall 3, 700 from wall 4", self.aside())
        self.assertIn("It has moved by 10 mm", self.aside())
        self.assertEqual(len(self.all('[data-part="gone"]')), 1)
        pressed = self.one('[data-mark="entry"] button').get_attribute("aria-pressed")
        self.assertEqual(pressed, "true")
        self.click("drain: rubbed out")
        self.until(lambda: self.marked() == ["entry"], "it is rubbed out")
        self.until(lambda: not self.all('[data-part="gone"]'), "and off the chart")

    def test_inches_and_a_tray(self) -> None:
        self.begin_with("marks", document(former=tray()) | {"display": {"length": "in"}})
        self.says("no pins are set")
        self.says("Check card")


class KeyboardTest(WaterCase):
    moving = True

    def test_from_the_falls_to_the_pins_without_a_mouse(self) -> None:
        self.begin("drain", drain=channel(200, 1765, 1500, 1765))
        self.tab_to("Channel 200 mm short")
        self.press(Keys.ENTER)
        self.tab_to("Give the strips beside it a fall")
        self.press(Keys.ENTER)
        self.until(lambda: "stops 200 mm short" not in self.aside(), "the strip falls")
        self.tab_to("Point, even fall")
        self.press(Keys.SPACE)
        self.until(lambda: self.one('[data-choice="even"][aria-pressed="true"]'), "even")
        self.tab_to("Drain. Arrow keys move it")
        self.press(Keys.ARROW_LEFT)
        self.assertEqual(self.plan()["shower"]["drain"]["centre"], [749, 1350])
        self.tab_to("Cut along another line")
        self.press(Keys.ENTER)
        self.tab_to("First end of the section")
        self.chord(Keys.SHIFT, Keys.ARROW_LEFT)
        self.driver.execute_script("document.activeElement.blur()")
        for step in ("depth", "under", "access", "water"):
            self.press(".")
            self.until(lambda at=step: self.one(f'[data-panel="{at}"]'), step)  # type: ignore[misc]
        self.says("Every drop reaches the drain")
        self.tab_to("Hold the water still")
        self.press(Keys.SPACE)
        self.says("Let the water run")
        self.tab_to("Try it on floors")
        self.press(Keys.ENTER)
        self.until(lambda: "200 of 200 floors" in self.aside(), "all floors are made", 90)
        self.driver.execute_script("document.activeElement.blur()")
        for key, step in (("4", "order"), (".", "days"), (".", "marks")):
            self.press(key)
            self.until(lambda at=step: self.one(f'[data-panel="{at}"]'), step)  # type: ignore[misc]
        self.tab_to("Screed pins")
        self.press(Keys.ENTER)
        self.says("Rounding never reverses the fall")
        self.tab_to("pin 1: marked")
        self.press(Keys.SPACE)
        self.until(lambda: len(self.plan()["setting_out"]["marked"]) == 1, "noted by keyboard")
        self.tab_to("Save the list as CSV")


class SectionTest(WaterCase):
    def line(self) -> str:
        return self.one('svg[role="img"] title').get_attribute("textContent")

    def test_the_section_is_cut_along_a_line_that_is_dragged(self) -> None:
        self.begin("drain")
        self.assertIn("through entry and drain", self.line())
        self.click("Cut along another line")
        self.until(lambda: self.one('[data-handle="cut-0"]'), "its ends can be taken")
        self.assertIn("along your line", self.line())
        before = self.one('svg[role="img"]').get_attribute("innerHTML")
        self.drag(self.one('[data-handle="cut-0"]'), -60, -40)
        self.until(
            lambda: self.one('svg[role="img"]').get_attribute("innerHTML") != before, "it follows"
        )
        self.one('[data-handle="cut-1"]').send_keys(Keys.SHIFT, Keys.ARROW_RIGHT)
        self.press(".")
        self.until(lambda: self.one('[data-handle="cut-0"]'), "it stays in the next step")
        self.click("Back to entry and drain")
        self.until(lambda: "through entry and drain" in self.line(), "back")
        before = json.dumps(self.plan()["shower"])
        self.assertNotIn("cut-", before)

    def test_the_section_at_true_scale_and_its_hatches(self) -> None:
        self.begin("depth")
        drawing = self.one('[data-pane="section"] svg')
        self.assertIn("heights drawn", drawing.text)
        for kind in ("bed", "deck", "refitted"):
            self.assertTrue(self.all(f'[data-hatch="{kind}"]'), kind)
        deck = self.all('[data-hatch="deck"]')[0]
        tall, wide = deck.rect["height"], deck.rect["width"]
        self.assertGreater(tall / wide, 0.04)
        self.click("True scale")
        self.until(lambda: "true scale" in drawing.text, "it is said")
        deck = self.all('[data-hatch="deck"]')[0]
        self.assertAlmostEqual(deck.rect["width"], wide, delta=1)
        # The deck of the worked examples is 18 mm thick and 900 mm long before the shower.
        self.assertAlmostEqual(deck.rect["height"] / deck.rect["width"], 18 / 900, delta=0.004)
        self.assertLess(deck.rect["height"], tall)
        self.click("Heights larger")
        self.until(lambda: "heights drawn" in drawing.text, "larger again")
