"""The walls on the real interface: layers, a room measured at its studs, framing, a niche that is
moved, by thumb and by keys."""

from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.test_steps import StepCase
from tests.core.test_blocks import bathroom
from tests.core.test_membrane import alcove
from tests.plans import layers, moved

STACK = {"shower": layers(("tile", 8), ("adhesive", 4), ("board", 13)), "rest": []}


class WallsTest(StepCase):
    def begin_with(self, doc: Any) -> None:
        self.job_id = self.job(doc, "walls")
        self.seen('[data-part="walls"]', "the walls")

    def test_layers_put_the_studs_behind_the_walls_and_the_room_in_front_of_its_studs(self) -> None:
        self.begin_with(alcove() | {"version": 3})
        self.says("say what is on the studs")
        self.assertEqual(self.all("[data-studs]"), [])
        self.click("Add usual layers")
        self.says("Shower 950 mm × 925 mm between studs")
        self.seen("[data-studs]", "the line of the studs")
        # Nobody has measured them: they look assumed until they are typed.
        tile = "Shower walls, from tile to studs: thickness of tile"
        self.assertIsNotNone(self.field(tile).get_attribute("data-assumed"))
        self.type(tile, "13")
        self.says("Shower 960 mm × 930 mm between studs")
        self.radio("Studs")
        self.says("Shower 900 mm × 900 mm between studs")
        self.saved()
        self.assertEqual(self.plan()["room"]["outline"][0], [30, 12])
        self.radio("Finished walls")
        self.until(lambda: self.plan()["walls"]["studs"] is None, "back to the finished line")
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.plan()["walls"]["studs"] is not None, "at the studs again")
        # Thicker tile: the walls have to move again, and the cure does it.
        self.type(tile, "15")
        self.cure("Move the finished walls")
        self.says("Shower 900 mm × 900 mm between studs")
        self.saved()
        self.assertEqual(self.plan()["room"]["outline"][0], [32, 12])
        for _ in range(2):
            self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.plan()["room"]["outline"][0] == [30, 12], "both taken back")

    def test_framing_and_boards_and_a_niche_on_a_stud(self) -> None:
        self.begin_with(alcove() | {"version": 3, "walls": STACK})
        self.until(lambda: len(self.all("[data-stud]")) > 10, "studs")
        self.assertEqual(self.all("[data-board]"), [])
        self.radio("Boards")
        self.until(lambda: len(self.all("[data-board]")) == 6, "boards of three walls")
        screws = len(self.all("[data-screw]"))
        self.radio("Screws and bead")
        self.until(lambda: len(self.all("[data-screw]")) > screws, "more of them")
        self.click("Add opening")
        self.until(lambda: self.one("[data-niche]"), "it is drawn")
        self.type("Opening width", "330")
        self.cure("Move niche 1")
        self.says("niche 1, sill and header")
        self.saved()
        self.assertEqual(self.plan()["walls"]["niches"][0]["width"], 330)
        # A window has its framing already: no stud is in its way.
        self.type("From first corner", "0")
        self.until(lambda: self.one('[data-code="niche_on_stud"]'), "on a stud")
        self.choose("What opening 1 is", "Window")
        self.until(lambda: not self.all('[data-code="niche_on_stud"]'), "a window")
        self.type("Stud spacing", "24 in")
        self.cure("Set studs 400 mm apart")
        self.type("Board height", "2 parsecs")
        self.until(lambda: self.one('[role="alert"]').is_displayed(), "named")

    def test_a_valve_and_studs_out_of_plumb_by_keys_in_inches_in_a_room_that_is_turned(
        self,
    ) -> None:
        doc = moved(alcove(), turn=211, mirror=True) | {"version": 3, "walls": STACK}
        self.begin_with(doc | {"display": {"length": "in"}})
        self.tab_to("Add valve")
        self.press(Keys.ENTER)
        self.says("in front of the valve")
        self.type("Thinnest wall it takes", '1 1/2"')
        self.cure("Fix the valve")
        self.tab_to("Add stud")
        self.press(Keys.ENTER)
        self.says("stud at 16")
        self.type("At head", "3/8")
        self.says('3/8" at the head')
        self.saved()
        plan = self.plan()
        self.assertLess(plan["walls"]["valve"]["forward"], 0)
        self.assertEqual(len(plan["walls"]["faces"]), 1)


class BlockTest(StepCase):
    def test_a_bench_takes_its_place_out_of_the_floor_and_is_framed(self) -> None:
        """Added in the room, cut out of the falls by its cure, drawn by its faces, and back."""
        self.job_id = self.job(bathroom(1500, 900, (1000, 250)) | {"version": 3}, "room")
        self.click("bench")
        self.until(lambda: self.plan()["room"]["fixtures"], "a bench")
        self.cure("Cut the shower floor round the bench")
        self.until(lambda: len(self.plan()["shower"]["outline"]) > 4, "the floor is cut")
        self.step("walls")
        self.click("Add usual layers")
        self.seen('[data-wall="bench, front"] [data-stud]', "its studs")
        self.seen('section[aria-label="bench"]', "its sizes")
        self.step("membrane")
        self.seen('[data-sealed="bench, top"]', "its top is sealed")
        for _ in range(2):
            self.chord(Keys.CONTROL, "z")
        self.until(lambda: len(self.plan()["shower"]["outline"]) == 4, "the whole floor again")
