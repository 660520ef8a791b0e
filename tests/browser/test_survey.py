"""The survey on the real interface: tapes, readings, the laser, the pour."""

import numpy as np
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser.test_steps import StepCase
from tests.plans import document


def tilted(*, by: float = 0.003) -> list[dict[str, object]]:
    return [
        {"kind": "height", "x": x, "y": y, "height": -by * x}
        for x in (0, 1200, 2400)
        for y in (0, 900, 1800)
    ]


class SurveyTest(StepCase):
    def begin_with(self, step: str, levels: list[dict[str, object]], base: str) -> None:
        doc = document() | {"version": 2, "survey": {"levels": levels, "base": base}}
        self.job_id = self.job(doc, step)

    def bags(self) -> str:
        return self.one('[data-truing="pour"] dd').text

    def test_a_five_wall_room_twelve_levels_and_the_pour(self) -> None:
        self.begin("room")
        self.click("Measure the walls by tape")
        self.until(lambda: self.field("Tape of wall 4"), "four walls")
        self.click("Add a wall")
        self.until(lambda: self.field("Tape of wall 5"), "five walls")
        # A room of 2600 × 2000 whose corner between walls 2 and 4 is cut by 500 × 500.
        free = {2: "left-free", 3: "left-free"}
        lengths = ["2600", "1500", "707.1", "2100", "2 m"]
        for number, text in enumerate(lengths, start=1):
            box = Select(self.field(f"Corner after wall {number}"))
            box.select_by_value(free.get(number, "left"))
            self.type(f"Tape of wall {number}", text)
        self.click("Add a diagonal")
        self.type("Tape of diagonal 1", "3001.7")
        self.until(lambda: "Use this outline" in self.one("aside").text, "the outline")
        self.until(
            lambda: self.field("Tape of diagonal 1").get_attribute("value") == "3001.7", "tape"
        )
        self.click("Use this outline")
        outline = self.plan()["room"]["outline"]
        self.assertEqual(len(outline), 5)
        for found, expected in zip(
            outline, [[0, 0], [2600, 0], [2600, 1500], [2100, 2000], [0, 2000]], strict=True
        ):
            self.assertAlmostEqual(found[0], expected[0], delta=12)
            self.assertAlmostEqual(found[1], expected[1], delta=12)
        self.step("levels")
        self.click("Walk the room")
        self.until(lambda: self.driver.find_elements(By.TAG_NAME, "progress"), "progress shows")
        self.until(lambda: not self.driver.find_elements(By.TAG_NAME, "progress"), "walked", 30)
        plan = self.plan()
        self.assertEqual(len(plan["survey"]["levels"]), 12)
        bags = self.bags()
        self.assertTrue(bags.isdigit())
        self.click("Choose the pour")
        self.until(lambda: "in the plan" in self.one('[data-truing="pour"]').text, "chosen")
        plan = self.plan()
        solution = self.server.call("POST", "/solve", {"plan": plan})
        pour = next(w for w in solution["survey"]["floor"]["truings"] if w["code"] == "pour")
        self.assertEqual([pour["figures"][0][key] for key in ("name", "text")], ["bags", bags])
        self.assertEqual(self.bags(), bags)
        self.assertTrue(pour["chosen"])
        self.type("Waste kept back", "0.5")
        self.until(lambda: int(self.bags()) > int(bags), "the waste is bought too")
        self.click("Take it out")
        self.assertIsNone(self.plan()["survey"]["correction"])

    def test_a_place_is_touched_and_its_reading_typed(self) -> None:
        self.begin("levels")
        self.until(lambda: "No reading yet" in self.one("aside").text, "the empty state")
        self.click("Take it")
        self.until(lambda: "Touch the chart" in self.one('[role="alert"]').text, "told why")
        chart = self.one("main svg")
        for dx, dy, text in ((-120, -60, "0"), (120, -60, "-4"), (0, 70, "-9")):
            ActionChains(self.driver, duration=60).move_to_element_with_offset(
                chart, dx, dy
            ).click().perform()
            self.until(
                lambda: self.field("From wall 4").get_attribute("value"), "the place is shown"
            )
            # What was touched waits for what is read there: it has the keyboard.
            self.press(text, Keys.ENTER)
            self.until(lambda: not self.field("From wall 4").get_attribute("value"), "begun anew")
            self.saved()
        levels = self.plan()["survey"]["levels"]
        self.assertEqual([level["height"] for level in levels], [0, -4, -9])
        self.assertLess(levels[0]["x"], levels[1]["x"])
        self.assertLess(levels[2]["y"], levels[0]["y"])
        self.until(lambda: "Highest to lowest" in self.one("aside").text, "the floor")
        self.click("Remove reading 3")
        self.until(lambda: "Fewer than three" in self.one("aside").text, "a doubt is told")

    def test_staff_and_shims_are_typed_with_what_they_need(self) -> None:
        self.begin("levels")
        self.radio("Staff")
        self.type("From wall 4", "600")
        self.type("From wall 1", "40 cm")
        self.type("Laser's height", "1240")
        self.type("On the staff", "1.243 m")
        self.saved()
        self.until(lambda: len(self.plan()["survey"]["levels"]) == 1, "the first is taken")
        # A level is told by its two ends, typed or touched, and each reading begins anew.
        self.radio("Level & shims")
        self.assertEqual(self.field("Lies at, from wall 4").get_attribute("value"), "")
        self.type("Lies at, from wall 4", "600")
        self.type("Lies at, from wall 1", "100")
        self.click("Then its other end")
        self.type("Other end, from wall 4", "600")
        self.type("Other end, from wall 1", "1300")
        self.type("Gap under the other end", "4")
        self.until(lambda: len(self.plan()["survey"]["levels"]) == 2, "both are taken")
        staff, shim = self.plan()["survey"]["levels"]
        self.assertEqual((staff["x"], staff["y"], staff["reading"]), (600, 400, 1243))
        self.assertEqual((shim["x"], shim["y"]), (600, 100))
        self.assertEqual((shim["direction"], shim["distance"], shim["gap"]), (90, 1200, 4))
        told = "level lying 600 from wall 4, 100 from wall 1"
        self.until(lambda: told in self.aside(), "the list says where, from the walls")
        # By keys as fast as they come: half a place is none, and no measure goes to the other end.
        self.assertFalse(self.button("Then its other end").is_enabled())
        self.tab_to("Lies at, from wall 4")
        self.press("500", Keys.ENTER)
        self.assertFalse(self.button("Then its other end").is_enabled())
        self.press(Keys.TAB, "700", Keys.ENTER)
        self.until(lambda: self.button("Then its other end").is_enabled(), "a place")
        self.press(Keys.TAB, Keys.ENTER)
        self.until(lambda: self.field("Other end, from wall 4"), "the other end is asked for")
        self.tab_to("Other end, from wall 4")
        self.press("900", Keys.ENTER, Keys.TAB, "700", Keys.ENTER)
        self.type("Gap under the other end", "1")
        self.until(lambda: len(self.plan()["survey"]["levels"]) == 3, "the typed one is taken")
        typed = self.plan()["survey"]["levels"].pop()
        self.assertEqual((typed["x"], typed["y"], typed["distance"]), (500, 700, 400))
        self.click("Remove reading 3")
        self.saved()
        chart = self.one("main svg")
        for dx, dy in ((-100, 40), (60, -50)):
            touch = ActionChains(self.driver, duration=60)
            touch.move_to_element_with_offset(chart, dx, dy).click().perform()
            self.seen('[data-part="level"], [data-panel] button:not(:disabled)', "touched")
            if dx < 0:
                self.click("Then its other end")
        self.type("Gap under the other end", "2.5")
        self.until(lambda: len(self.plan()["survey"]["levels"]) == 3, "the touched one is taken")
        touched = self.plan()["survey"]["levels"][2]
        scale = float(np.hypot(160, 90)) / touched["distance"]
        self.assertAlmostEqual(
            touched["direction"], float(np.degrees(np.arctan2(90, 160))), delta=1
        )
        self.assertGreater(scale, 0.05)
        self.assertEqual(touched["gap"], 2.5)

    def test_what_the_floor_carries_decides_and_a_cure_is_one_press(self) -> None:
        self.begin_with("levels", tilted(), "rigid-pan")
        self.assertIn("True enough", self.one("aside").text)
        Select(self.one("aside select")).select_by_value("foam-tray")
        self.until(lambda: self.one('[data-code="floor_out_of_true"]'), "the finding")
        self.cure("Frame the deck pieces level on cleats")
        self.until(
            lambda: (
                not self.driver.find_elements(By.CSS_SELECTOR, '[data-code="floor_out_of_true"]')
            ),
            "cured",
        )
        self.assertEqual(self.plan()["survey"]["correction"], {"kind": "frame"})

    def test_the_straightedge_is_dragged_over_the_floor(self) -> None:
        levels = [level | {"height": 0} for level in tilted()]
        levels.append({"kind": "height", "x": 1300, "y": 1000, "height": -9})
        self.begin_with("levels", levels, "mortar-bed")
        gap = self.one("main svg").text
        self.assertIn("gap ", gap)
        self.one('[data-handle="edge-0"]').send_keys(Keys.SHIFT, Keys.ARROW_DOWN * 40)
        self.until(lambda: self.one("main svg").text != gap, "another gap")

    def test_readings_come_and_go_as_csv(self) -> None:
        self.begin("levels")
        file = self.server.database.parent / "levels.csv"
        file.write_text("x,y,reading,kind\n0,0,0,\n2400,0,-3,\n0,1800,-5,\nhere,0,1,\n", "utf-8")
        self.one('input[accept^=".csv"]').send_keys(str(file))
        self.until(lambda: "Row 5" in self.one('[role="alert"]').text, "the row is told")
        self.assertEqual(len(self.plan()["survey"]["levels"]), 3)
        self.click("All")
        self.assertEqual(self.plan()["survey"]["levels"], [])

    def test_the_tape_that_does_not_fit_is_named(self) -> None:
        doc = document() | {"version": 2}
        walls = [{"length": length} for length in (2400, 1800, 2400, 1800)]
        diagonals = [
            {"first": 0, "last": 2, "length": 3000},
            {"first": 1, "last": 3, "length": 3000},
        ]
        doc["survey"] = {"tape": {"walls": walls, "diagonals": diagonals}}
        self.job_id = self.job(doc, "room")
        self.assertFalse(self.driver.find_elements(By.CSS_SELECTOR, '[data-code="tape_blunder"]'))
        self.type("Tape of wall 3", "2.5 m")
        finding = self.until(lambda: self.one('[data-code="tape_blunder"]'), "the finding")
        self.assertIn("Wall 3", finding.text)
        self.click("Remove diagonal 2")
        self.click("Remove diagonal 1")
        self.assertEqual(self.plan()["survey"]["tape"]["diagonals"], [])
        self.click("Put the tape away")
        self.assertIsNone(self.plan()["survey"]["tape"])

    def test_a_tray_on_a_tilted_floor_is_told_where_its_fall_turns(self) -> None:
        doc = document(
            former={"kind": "tray", "edge_thickness": 40},
            fall={"asked": 1 / 100, "measured": "plane_run"},
        )
        doc |= {"version": 2, "survey": {"levels": tilted(by=0.5 / 48)}}
        self.job_id = self.job(doc, "levels")
        self.assertIn("the wrong way", self.one("aside").text)
        self.one('[data-code="tray_fall_turned"] > button').click()
        self.assertIn("right plane", self.one('[data-code="tray_fall_turned"]').text)
        self.one('[data-truing="frame"] button').click()
        self.until(lambda: "the wrong way" not in self.one("aside").text, "mended")
        marks = self.driver.find_element(By.XPATH, '//summary[contains(., "Cleat marks")]')
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", marks)
        marks.click()
        self.until(lambda: "Joist 3:" in self.one("aside").text, "the marks")

    def test_the_laser_reads_where_the_chart_was_touched(self) -> None:
        self.begin("levels")
        self.assertTrue(self.button("Read here").get_attribute("disabled"))
        chart = self.one("main svg")
        ActionChains(self.driver, duration=60).move_to_element_with_offset(
            chart, 60, 20
        ).click().perform()
        self.until(lambda: self.field("From wall 4").get_attribute("value"), "the place")
        self.click("Read here")
        self.until(lambda: len(self.plan()["survey"]["levels"]) == 1, "one reading")
        level = self.plan()["survey"]["levels"][0]
        self.assertEqual((level["kind"], level["instrument"]), ("staff", 1240))
        self.assertLess(abs(level["reading"] - 1240), 30)

    STOPPED = """
        new MutationObserver((_, watching) => {
          const taken = document.querySelector('progress[aria-label="Readings taken"]');
          if (!taken || taken.value < 2) return;
          watching.disconnect();
          for (const one of document.querySelectorAll("button"))
            if (one.textContent.trim() === "Stop") one.click();
        }).observe(document.body, {attributes: true, childList: true, subtree: true});
    """
    """Presses Stop at the second reading, however long this test has to wait for its turn."""

    def test_a_walk_can_be_stopped_and_undone(self) -> None:
        self.begin("levels")
        self.driver.execute_script(self.STOPPED)
        self.click("Walk the room")
        self.until(lambda: self.button("Walk the room"), "stopped")
        taken = len(self.plan()["survey"]["levels"])
        self.assertLess(taken, 12)
        self.assertGreater(taken, 0)
        while not self.button("Undo").get_attribute("disabled"):
            self.click("Undo")
            self.saved()
        self.assertEqual(self.plan()["survey"]["levels"], [])
