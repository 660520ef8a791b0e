"""Build systems and the ways to the depth, on the real interface."""

from __future__ import annotations

from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from calm_basin.rules import build_systems, written_system
from tests.browser.case import BrowserCase
from tests.plans import Document, document


class SystemCase(BrowserCase):
    def start(self, plan: Document) -> None:
        self.job_id = self.job(plan, "depth")

    def plan(self) -> Document:
        self.saved()
        stored: Document = self.server.call("GET", f"/jobs/{self.job_id}")["plan"]
        return stored

    def pick(self, name: str) -> None:
        box = self.until(
            lambda: self.driver.find_element(
                By.XPATH, '//label[contains(., "Built with")]//select'
            ),
            "the systems",
        )
        self.until(
            lambda: box.find_element(By.XPATH, f'.//option[contains(., "{name}")]'), name
        ).click()
        self.saved()

    def codes(self) -> list[str]:
        self.saved()
        shown = self.driver.find_elements(By.CSS_SELECTOR, "[data-code], [data-other]")
        return [
            item.get_attribute("data-code") or item.get_attribute("data-other") or ""
            for item in shown
        ]

    def take(self, css: str) -> None:
        """Press what is offered once the newest answer stands."""
        self.saved()
        self.until(lambda: self.one(css), css)
        button = self.one(css)
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
        button.click()
        self.saved()


class SystemTest(SystemCase):
    def test_a_system_fills_its_part_and_one_undo_brings_all_back(self) -> None:
        self.start(document())
        before = self.plan()
        self.pick("Foam tray on a poured")
        now = self.plan()
        self.assertEqual(now["system"]["id"], "foam-tray-poured-deck")
        self.assertEqual(now["shower"]["former"]["kind"], "tray")
        for part in ("room", "floor", "rule_set", "users", "job"):
            self.assertEqual(now[part], before[part], part)
        self.assertEqual(now["survey"]["levels"], before["survey"]["levels"])
        # Its sizes are only usual: they do not look measured.
        field = self.field("Tray's edge thickness")
        self.assertEqual(field.get_attribute("data-assumed"), "true")
        self.view("Instructions")
        self.assertIn("1/4 × 1/4 in", self.one('[data-card^="Bedding"]').text)
        self.assertIn("What goes wrong", self.one('[data-view="cards"]').text)
        self.click("Undo")
        self.assertEqual(self.plan(), before)

    def test_all_are_compared_and_one_is_taken(self) -> None:
        self.start(document())
        self.click("Compare for this room")
        self.until(
            lambda: self.one("dialog [data-compared]").get_attribute("data-compared") == "19",
            "all of them",
        )
        row = self.one('[data-candidate="channel-bed-bonded"]').text
        self.click("Use this: Channel in one mortar bed under a bonded membrane")
        self.saved()
        self.assertEqual(self.plan()["system"]["id"], "channel-bed-bonded")
        # What it said there is what the plan now says.
        self.assertIn(self.figure("Recess needed"), row)

    def test_one_of_ones_own_from_a_file_with_an_unknown_key(self) -> None:
        self.start(document())
        text = written_system(build_systems()["foam-tray-poured-deck"])
        text = text.replace("foam-tray-poured-deck", "van-tray").replace(
            'name = "Foam tray on a poured, level deck"', 'name = "Tray from the van"'
        )
        folder = Path(self.server.database).parent
        bad, good = folder / "bad.toml", folder / "good.toml"
        bad.write_text('colour = "red"\n' + text, "utf-8")
        good.write_text(text, "utf-8")
        self.click("A system of your own")
        chooser = self.until(lambda: self.one('dialog input[type="file"]'), "the chooser")
        chooser.send_keys(str(bad))
        area = self.field("The system as text")
        self.until(lambda: "colour" in (area.get_attribute("value") or ""), "it is read")
        self.click("Keep it")
        self.until(lambda: "colour" in self.one("dialog [role=alert]").text, "it is named")
        # What was typed stands.
        self.assertIn("Tray from the van", area.get_attribute("value") or "")
        self.one('dialog input[type="file"]').send_keys(str(good))
        self.until(lambda: "colour" not in (area.get_attribute("value") or ""), "read anew")
        self.click("Keep it")
        self.until(lambda: not self.driver.find_elements(By.TAG_NAME, "dialog"), "kept")
        self.until(lambda: self.plan()["system"], "it is in the plan")
        self.assertEqual(self.plan()["system"]["id"], "van-tray")

    def test_a_tray_too_small_on_three_sides_says_what_to_do(self) -> None:
        doc = document(
            former={
                "kind": "tray",
                "edge_thickness": 40,
                "stock": {"width": 1200, "length": 800, "drain_left": 600, "drain_back": 450},
            }
        )
        self.start(doc | {"version": 9})
        self.saved()
        self.assertIn("Too small on 3", self.one("[data-tray]").text)
        self.assertIn("tray_too_small", self.codes())

    def test_panels_are_counted_and_the_channel_has_its_lengths(self) -> None:
        self.start(document())
        self.pick("Channel at the back wall with slope")
        self.assertEqual(self.one("[data-panels]").get_attribute("data-panels"), "4")
        self.view("Instructions")
        chain = self.one('[data-chain^="Lengths"]').text
        self.assertIn("1495.2 mm", chain)
        # One of its ends lies at a wall: the studs are behind that by the board.
        self.step("walls")
        self.click("Add usual layers")
        self.saved()
        self.step("depth")
        self.view("Instructions")
        self.until(
            lambda: "from the stud to the open end" in self.one('[data-chain^="Lengths"]').text,
            "from the stud",
        )
        self.assertIn("1525 mm", self.one('[data-chain^="Lengths"]').text)


class DepthTest(SystemCase):
    def short(self) -> Document:
        """The recess is 9 mm short, on joists, under a rule set that knows steps at doors."""
        doc = document(
            drain={"kind": "linear", "start": [0, 1765], "end": [1500, 1765], "width": 70},
            fall={"asked": 1 / 48},
            former={"kind": "bed", "least_thickness": 20.7},
        )
        doc["shower"]["layers"][0] |= {"least": 6, "most": 12}
        doc["waste"] = {}
        return doc | {"version": 9}

    def test_nine_short_on_joists_is_mended_by_what_is_offered(self) -> None:
        self.start(self.short())
        self.until(lambda: "9 mm short" in self.one('[data-figure="Recess needed"]').text, "9 mm")
        self.view("Build-up")
        self.saved()
        for _ in range(4):
            if not self.codes():
                break
            self.take("[data-cheapest]")
        self.assertEqual(self.codes(), [])
        self.assertNotIn("short", self.one('[data-figure="Recess needed"]').text)

    def test_raising_the_room_where_the_door_then_complains(self) -> None:
        doc = self.short()
        doc["rule_set"] = "us-accessible"
        doc["room"]["doors"][0] |= {"outside": 18, "swing": "out", "width": 920, "offset": 1400}
        doc["shower"]["fall"]["asked"] = 1 / 50
        self.start(doc)
        self.view("Options")
        self.saved()
        self.assertIn("door", self.one('[data-way="raise_room"]').text)
        self.take('[data-way="raise_room"] button')
        self.assertIn("step_at_door", self.codes())
        self.step("access")
        self.cure("Lay a ramp")
        self.assertNotIn("step_at_door", self.codes())
        self.assertNotIn("recess_over_available", self.codes())

    def test_a_part_of_the_bar_is_traded_by_keyboard(self) -> None:
        self.start(self.short())
        self.view("Build-up")
        self.saved()
        self.tab_to("tile: less")
        self.press(Keys.ENTER)
        self.until(lambda: self.plan()["shower"]["layers"][0]["thickness"] == 7, "a mm less")
        self.reads("Recess needed", "26 mm")
        self.click("Undo")
        self.reads("Recess needed", "27 mm")

    def test_two_lifts_and_a_floor_that_is_down(self) -> None:
        self.start(document())
        self.view("Build-up")
        self.click("Lay the bed in two lifts")
        self.saved()
        self.type("Least, at the drain", "13")
        self.type("Membrane between", "1")
        self.type("Its fall", "1:60")
        # 14 mm more than the single bed's 14.2: both lifts fall alike.
        self.reads("Recess needed", "28.3 mm")
        self.click("The room's tile is down already")
        self.saved()
        self.type("The room's floor, as it is down", "30")
        self.reads("Recess needed", "22.3 mm")
        self.assertIn("laid_otherwise", self.codes())
