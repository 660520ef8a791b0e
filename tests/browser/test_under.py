"""Under the floor: from a clash to nothing open, where the drain can go, drains of one's own."""

import json
from pathlib import Path
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

from tests.browser.test_access import AccessCase
from tests.core.test_structure import under
from tests.plans import document, point, tray

DEMO = Path(__file__).parents[2] / "src" / "calm_basin" / "demo"


class UnderCase(AccessCase):
    def start(self, plan: Any, step: str = "under") -> None:
        super().start(plan, step)
        self.mapped()

    def mapped(self) -> None:
        """Wait until the map is of the plan on screen."""
        self.saved()
        self.until(lambda: self.one('[data-part="drain-map"][opacity="1"]'), "the map stands")


class ClashTest(UnderCase):
    def test_from_a_clash_to_a_plan_without_open_findings(self) -> None:
        """With only what the screen offers: the drain moves, and its waste gets away."""
        doc = under(
            document(
                drain=point(600, 1200, 110),
                outline=[[0, 600], [1200, 600], [1200, 1800], [0, 1800]],
                former=tray(28),
                fall={"asked": 1 / 48},
            ),
            "gasket-hub-foam-tray",
            depth=300,
            deck_thickness=22,
        )
        doc["rule_set"] = "norway"
        # Where the membrane lies at a door is another matter.
        doc["room"]["doors"] = []
        doc["waste"] |= {"stack": [2250, 1500], "branch": -240}
        self.start(doc)
        self.until(lambda: self.one('[data-code="drain_on_timber"]'), "the clash is told")
        self.assertTrue(self.all('[data-body][data-meets="yes"]'))
        self.until(lambda: self.one('[data-hatch="clash"]'), "the section shows it")
        for _ in range(4):
            self.saved()
            cures = self.all("[data-cure]")
            if not cures:
                break
            cures[0].click()
            self.saved()
        self.until(lambda: not self.all("[data-code]"), "none is open")
        self.assertFalse(self.all('[data-body][data-meets="yes"]'))
        self.assertFalse(self.all('[data-hatch="clash"]'))
        self.says("The drain is clear of the floor")
        self.says("The waste gets away")
        self.assertEqual(self.one("[data-run]").get_attribute("data-run"), "fits")

    def test_a_joist_that_is_to_be_cut_stays_a_stop_until_an_engineer_has_signed(self) -> None:
        doc = under(document(drain=point(790, 1350), former=tray(28)), "gasket-hub-foam-tray")
        doc["floor"] |= {"centres": 400, "first_offset": 0, "direction": 90}
        self.start(doc)
        self.seen('[data-code="drain_on_timber"]', "the clash")
        cure = self.until(
            lambda: self.driver.find_element(
                By.XPATH, '//*[@data-cure][contains(., "Have an engineer cut")]'
            ),
            "the cut for an engineer",
        )
        self.assertIn("has to sign", cure.text)
        self.driver.execute_script("arguments[0].click()", cure)
        self.saved()
        self.seen('[data-code="engineer_has_to_sign"]', "the stop")
        self.type("Engineer who signed", "A. Rowan")
        self.saved()
        # A name alone is no signature.
        self.assertIsNone(self.plan()["floor"]["signed"])
        self.assertTrue(self.all('[data-code="engineer_has_to_sign"]'))
        day = self.field("Signed on")
        day.send_keys("11302026")
        self.until(lambda: not self.all('[data-code="engineer_has_to_sign"]'), "signed")
        self.saved()
        self.assertEqual(self.plan()["floor"]["signed"], {"name": "A. Rowan", "on": "2026-11-30"})

    def test_one_joist_is_moved_and_the_map_changes(self) -> None:
        self.start(under(document(drain=point(750, 1350))))
        before = self.one('[data-verdict="blocked"] path').get_attribute("d")
        chooser = self.until(
            lambda: self.driver.find_element(
                By.XPATH, '//label[contains(., "A joist is different")]/select'
            ),
            "the choice of a joist",
        )
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", chooser)
        Select(chooser).select_by_visible_text("joist 2")
        self.mapped()
        self.assertEqual(self.plan()["floor"]["others"][0]["plies"], 2)
        self.type("Moved sideways", "-120")
        self.mapped()
        self.assertEqual(self.plan()["floor"]["others"][0]["moved"], -120)
        self.until(
            lambda: self.one('[data-verdict="blocked"] path').get_attribute("d") != before,
            "what is blocked is elsewhere",
        )
        self.chord(Keys.CONTROL, "z")
        self.mapped()

    def test_a_map_that_nobody_waits_for_is_ended_and_the_newest_plan_answered(self) -> None:
        self.start(under(document(drain=point(750, 1350))))
        self.driver.execute_script(
            "window.ended = 0; const plain = window.fetch;"
            "window.fetch = (to, how) => {"
            "  how?.signal?.addEventListener('abort', () => { window.ended += 1; });"
            "  return plain(to, how); };"
        )
        field = self.field("Centres")

        def nudged() -> bool:
            field.send_keys(Keys.ARROW_UP)
            return bool(self.driver.execute_script("return window.ended"))

        self.until(nudged, "the map of a plan that is no more is ended")
        self.mapped()
        typed = float(field.get_attribute("value") or 0)
        self.assertEqual(self.plan()["floor"]["centres"], typed)

    def test_the_map_is_walked_by_keyboard(self) -> None:
        self.start(
            under(
                document(
                    drain=point(750, 1350),
                    outline=[[0, 600], [1200, 600], [1200, 1800], [0, 1800]],
                    fall={"asked": 1 / 48},
                ),
                deck_thickness=30,
            )
        )
        self.tab_to("Places for the drain. Arrow keys step")
        self.press(Keys.ARROW_LEFT)
        reason = self.until(lambda: self.one('[data-part="map-reason"]').text, "a reason")
        self.assertNotIn("Point at", reason)
        self.assertTrue(self.one('[data-part="looked-at"]'))
        self.press(Keys.ARROW_LEFT, Keys.ARROW_UP)
        self.press(Keys.ENTER)
        self.mapped()
        x, y = self.plan()["shower"]["drain"]["centre"]
        self.assertEqual([x, y], [700, 1375])
        self.click("The best")
        self.mapped()
        self.assertFalse(self.all('[data-offer="best"]'))

    def test_two_screws_tell_where_the_joists_lie(self) -> None:
        self.start(under(document(drain=point(750, 1350))))
        self.type("First joist, from origin", "-150")
        self.mapped()
        self.assertEqual(self.plan()["floor"]["first_offset"], -150)
        answer = self.server.call(
            "POST",
            "/edit",
            {
                "plan": self.plan(),
                "act": "screws",
                "first": [300, 100],
                "last": [300, 1500],
            },
        )
        self.assertAlmostEqual(answer["plan"]["floor"]["direction"], 90)
        self.assertAlmostEqual(answer["plan"]["floor"]["first_offset"], -300)


class DrainTest(UnderCase):
    def test_a_drain_of_ones_own_is_refused_by_field_and_then_kept(self) -> None:
        self.start(json.loads((DEMO / "95-wren-passage.json").read_text("utf-8")))
        button = self.button("A drain of your own")
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
        button.click()
        area = self.until(lambda: self.one("dialog textarea"), "its text")
        text = area.get_attribute("value") or ""
        self.assertIn('id = "gasket-hub-foam-tray-own"', text)
        wrong = text.replace('hole_width = "165.1 mm"', 'hole_width = "5 parsecs"')
        self.assertNotEqual(wrong, text)
        self.typed(area, wrong)
        self.click("Keep it")
        refusal = self.until(lambda: self.one('dialog [role="alert"]').text, "why it is refused")
        self.assertIn("/families/0/hole_width", refusal)
        self.assertEqual(area.get_attribute("value"), wrong)
        self.typed(area, text.replace('hole_width = "165.1 mm"', 'hole_width = "5 in"'))
        self.click("Keep it")
        self.until(lambda: not self.all("dialog textarea"), "it is kept")
        self.saved()
        family = self.plan()["waste"]["family"]
        self.assertEqual(family["id"], "gasket-hub-foam-tray-own")
        self.assertAlmostEqual(family["hole_width"], 127)
        known = self.server.call("GET", "/families")["families"]
        self.assertIn("gasket-hub-foam-tray-own", [one["family"]["id"] for one in known])

    def typed(self, area: Any, text: str) -> None:
        self.driver.execute_script(
            "const { prototype } = HTMLTextAreaElement;"
            "const { set } = Object.getOwnPropertyDescriptor(prototype, 'value');"
            "set.call(arguments[0], arguments[1]);"
            "arguments[0].dispatchEvent(new Event('input', {bubbles: true}));",
            area,
            text,
        )

    def test_the_stack_is_said_and_the_run_laid_by_hand(self) -> None:
        self.start(under(document(drain=point(750, 1350)), depth=300))
        self.says("Measure where the stack or branch is")
        self.click("Say where the stack or branch is")
        self.mapped()
        self.assertEqual(self.plan()["waste"]["stack"], [0, 0])
        self.assertIn("/waste/stack/0", [*self.plan()["assumed"], "/waste/stack/0"])
        self.type("Stack or branch, from wall 4", "800")
        self.mapped()
        self.until(lambda: self.one("[data-run]"), "a run is proposed")
        self.click("Lay it myself")
        self.saved()
        self.assertIsInstance(self.plan()["waste"]["run"], list)
        self.click("Let it be proposed")
        self.saved()
        self.assertIsNone(self.plan()["waste"]["run"])
