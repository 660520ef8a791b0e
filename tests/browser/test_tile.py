"""Tile on the real interface: sizes typed, cuts that appear, the best layout, by keyboard too."""

from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.test_steps import StepCase
from tests.core.test_membrane import alcove
from tests.core.test_tile import TO_WALLS
from tests.plans import document, moved

TILE = {"length": 100, "width": 100, "joint": 3}


class TileTest(StepCase):
    def begin_with(self, doc: Any) -> None:
        self.job_id = self.job(doc, "tile")
        self.until(lambda: self.one("[data-buy], [data-panel] [role=status]"), "it is laid out")

    def pieces(self, kind: str) -> int:
        """How many pieces of a kind the chart shows."""
        drawn = self.all(f'[data-tiled] [data-pieces="{kind}"]')
        return sum((path.get_attribute("d") or "").count("M") for path in drawn)

    def bought(self) -> list[int]:
        self.saved()
        return [int(one.get_attribute("data-buy") or 0) for one in self.all("[data-buy]")]

    def test_from_small_to_large_tile_the_cuts_appear(self) -> None:
        self.begin_with(document(tile=TILE))
        self.until(lambda: self.pieces("whole") > 80, "the tile is drawn")
        many = self.bought()
        self.type("Length", "600")
        self.type("Width", "600")
        self.says("Cut this tile along 4 folds")
        self.until(lambda: self.pieces("whole") == 0, "no tile of that size is whole")
        self.assertGreater(self.pieces("cut") + self.pieces("sliver"), 4)
        self.assertLess(self.bought()[0], many[0])
        self.chord(Keys.CONTROL, "z")
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.bought() == many, "undone")

    def test_what_the_folds_ask_and_a_tile_that_follows_them(self) -> None:
        self.begin_with(document())
        self.says("Choose a tile for")
        self.says("a tile may reach")
        self.click("Choose a tile")
        self.says("Cut this tile along 4 folds")
        self.type("Length", "20")
        self.type("Width", "20")
        self.says("This tile follows every fold uncut")

    def test_the_best_layout_is_made_and_taken_back(self) -> None:
        doc = document(**TO_WALLS, tile={"length": 300, "width": 300, "joint": 3})
        doc |= {"version": 3, "tiling": {"along": 60, "across": 70}}
        self.begin_with(doc)
        self.says("a third of the tile is 100 mm")
        self.assertIn("check", self.one('[data-step="tile"]').text)
        self.assertGreater(self.pieces("sliver"), 0)
        self.click("Best layout")
        self.says("no slivers")
        self.until(lambda: self.pieces("sliver") == 0, "no sliver is drawn")
        self.saved()
        self.assertNotEqual(self.plan()["tiling"]["along"], 60)
        self.until(lambda: "fine" in self.one('[data-step="tile"]').text, "its mark")
        self.click("Best layout")
        self.says("Already the best layout")
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.plan()["tiling"]["along"] == 60, "taken back")

    def test_the_room_is_laid_out_too_and_its_joints_run_on(self) -> None:
        self.begin_with(document(**TO_WALLS, tile=TILE))
        self.assertEqual(len(self.bought()), 1)
        self.click("Add room tile")
        self.until(lambda: len(self.bought()) == 2, "both floors")
        self.type("Room tile length", "300")
        self.until(lambda: self.plan()["tiling"]["room"]["length"] == 300, "another size")
        self.click("Remove room tile")
        self.until(lambda: len(self.bought()) == 1, "the shower alone")

    def test_nonsense_is_named_and_nothing_lost(self) -> None:
        self.begin_with(document(**TO_WALLS, tile=TILE))
        self.type("Joint", "0")
        self.says("Joint too narrow: 0 mm. Type at least 1 mm")
        self.assertEqual(self.pieces("whole"), 0)
        self.type("Joint", "2")
        self.until(lambda: self.pieces("whole") > 0, "laid again")
        self.type("Length", "3 m")
        self.type("Width", "3 m")
        self.says("Tile larger than this floor")
        self.type("Length", "a hand")
        self.until(lambda: self.one('[data-panel] [role="alert"]').is_displayed(), "named")

    def test_without_a_mouse_in_inches_in_a_room_that_is_turned(self) -> None:
        doc = moved(document(**TO_WALLS, tile=TILE), turn=37.3, mirror=True)
        self.begin_with(doc | {"display": {"length": "in"}})
        self.tab_to("Length")
        self.press(*'12"', Keys.ENTER)
        self.tab_to("Straight")
        self.press(Keys.ARROW_RIGHT)
        self.until(lambda: self.plan()["tiling"]["pattern"] == "half", "the pattern")
        before = self.plan()["tiling"]
        self.tab_to("Tile start")
        self.press(Keys.ARROW_RIGHT)
        self.until(lambda: self.plan()["tiling"] != before, "it is moved by a key")
        self.until(lambda: '12" ×' in self.aside(), "told in inches")
        self.assertTrue(self.driver.find_elements(By.CSS_SELECTOR, "[data-narrowest]"))

    def test_a_tile_or_a_crossing_of_joints_lies_on_the_drain(self) -> None:
        doc = document(tile={"length": 200, "width": 100, "joint": 4}) | {"version": 3}
        self.job_id = self.job(doc, "tile")
        self.click("Tile on drain")
        self.until(lambda: self.plan()["tiling"]["along"] == 102, "half a tile and its joint")
        self.assertEqual(self.plan()["tiling"]["across"], 52)
        self.click("Joints on drain")
        self.until(lambda: self.plan()["tiling"]["along"] == 0, "the crossing again")
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.plan()["tiling"]["across"] == 52, "one step back takes both")

    def test_the_walls_are_tiled_in_place_of_the_section(self) -> None:
        self.job_id = self.job(alcove() | {"version": 3, "display": {"length": "mm"}}, "tile")
        self.says("Choose a tile for the shower floor")
        self.click("Add wall tile")
        self.until(lambda: len(self.all("[data-tiled-wall]")) == 3, "three walls")
        self.says("Shower walls: ")
        # The floor has no tile yet: nothing is green.
        verdict = self.one('[aria-label="How many tiles"]')
        self.assertNotIn("success", verdict.get_attribute("outerHTML") or "")
        self.type("Wall tile length", "298")
        self.type("Wall joint", "2")
        self.type("Height of wall tile", "2002")
        self.says("Whole tiles in the ")
        self.radio("Half")
        self.saved()
        plan = self.plan()["tiling"]
        self.assertEqual((plan["wall_pattern"], plan["wall_height"]), ("half", 2002))
        self.type("Wall tile length", "30 m")
        self.says("Tile larger than these walls")
        self.click("Remove wall tile")
        self.until(lambda: not self.all("[data-tiled-wall]"), "the section again")
