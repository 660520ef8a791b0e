"""The membrane on the real interface: a school chosen, its list ticked, by thumb and by keys."""

from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.test_steps import StepCase
from tests.core.test_membrane import alcove
from tests.plans import document, layers, moved


class MembraneTest(StepCase):
    def begin_with(self, doc: Any) -> None:
        self.job_id = self.job(doc, "membrane")
        self.seen("[data-piece]", "its pieces")

    def test_a_school_is_chosen_and_its_list_ticked(self) -> None:
        self.begin_with(alcove() | {"version": 3, "membrane": {"extent": "shower"}})
        self.says("4.0 m of band in 4 pieces")
        bands = len(self.all("[data-band]"))
        self.assertEqual(bands, 4)
        self.type("Height on shower walls", "2000")
        self.says("8.1 m of band in 6 pieces")
        self.choose("Membrane", "Liquid, two coats")
        self.says("Second coat once the first is dry")
        self.saved()
        self.one("[data-piece]").click()
        self.until(lambda: self.one('[data-piece][aria-pressed="true"]'), "it is ticked")
        # Six bands, two corners, three collars.
        self.says("10 of 11 pieces to lay")
        plan = self.plan()
        self.assertEqual(len(plan["membrane"]["laid"]), 1)
        self.assertEqual(plan["days"]["membrane"], "liquid")
        self.step("order")
        self.says("Liquid membrane")
        self.chord(Keys.CONTROL, "z")
        self.until(lambda: self.plan()["membrane"]["laid"] == [], "the tick is taken back")

    def test_boards_are_sealed_at_their_joints_and_need_a_tray(self) -> None:
        walls = {"shower": layers(("tile", 8), ("board", 12))}
        self.begin_with(alcove() | {"version": 3, "walls": walls})
        self.choose("Membrane", "Foam boards with sealant")
        self.says("m of bead over")
        self.until(lambda: len(self.all("[data-joint]")) == 3, "a joint on each wall")
        self.cure("Use bonded sheet and bands")
        self.says("m of band in")

    def test_all_is_laid_by_keys_in_inches_in_a_room_that_is_turned(self) -> None:
        doc = moved(alcove(), turn=37.3, mirror=True) | {"version": 3}
        self.begin_with(doc | {"display": {"length": "in"}, "membrane": {"extent": "shower"}})
        self.says("ft of band")
        pieces = [one.get_attribute("data-piece") or "" for one in self.all("[data-piece]")]
        for name in pieces:
            self.tab_to(name)
            self.press(Keys.SPACE)
            self.saved()
        self.says("Every piece is laid")

    def test_how_far_it_goes_is_chosen_and_nonsense_named(self) -> None:
        self.begin_with(document())
        before = self.one('[data-part="membrane"] path').get_attribute("d")
        self.radio("Shower only")
        self.until(
            lambda: self.one('[data-part="membrane"] path').get_attribute("d") != before,
            "the shower alone",
        )
        self.type("Height on shower walls", "90 m")
        self.until(lambda: self.one('[role="alert"]').is_displayed(), "named")
