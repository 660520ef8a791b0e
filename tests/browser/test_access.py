"""Getting in: who will use the room, where a chair turns, and what mends it."""

from selenium.webdriver.common.keys import Keys

from tests.browser.test_steps import StepCase
from tests.plans import point


class AccessTest(StepCase):
    def test_by_keyboard_from_nobody_said_to_none_open(self) -> None:
        self.begin(
            "access",
            drain=point(750, 1400),
            fall={"asked": 1 / 48},
            former={"kind": "bed", "least_thickness": 8},
        )
        self.says("Say who will use the room")
        self.assertFalse(self.all("[data-part=spaces] circle"))
        self.choose("Rule set", "US accessible")
        self.button("In a chair").send_keys(Keys.ENTER)
        self.saved()
        self.assertEqual(self.plan()["users"], ["chair"])
        self.until(lambda: self.one('[data-code="turning_too_steep"]'), "no place to turn")
        self.assertTrue(self.one("[data-part=spaces] circle").is_displayed())
        self.cure("Make the opening 863 mm wide")
        self.assertEqual(self.plan()["room"]["doors"][0]["width"], 863)
        self.cure("Turn to a channel along the back wall, at 1:48")
        self.until(lambda: not self.all("[data-code], [data-other]"), "none is open")
        self.says("A circle of 1524 mm is asked")
        self.assertEqual(self.plan()["shower"]["drain"]["kind"], "linear")
        # Nobody in a chair any more, and nothing is asked.
        self.click("In a chair")
        self.saved()
        self.assertEqual(self.plan()["users"], [])
        self.says("Say who will use the room")
