"""What the screens owe everybody: contrast and names, thumbs, phones, and no stranger's files."""

from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from calm_basin.demo import demo_plans
from tests.browser.case import BrowserCase

AXE = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"


class DemoCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.jobs = [
            self.server.call("POST", "/jobs", {"plan": plan.model_dump(mode="json")})["job_id"]
            for plan in demo_plans()
        ]


class LooksTest(DemoCase):
    def axe(self) -> list[str]:
        self.driver.execute_script(AXE.read_text("utf-8"))
        result = self.driver.execute_async_script("axe.run().then(arguments[0])")
        return [
            f"{rule['id']}: {node['html'][:120]}"
            for rule in result["violations"]
            for node in rule["nodes"]
        ]

    def test_axe_finds_nothing_by_day_and_by_night(self) -> None:
        for theme in ("tide-day", "tide-night"):
            self.open("/")
            self.button("New job")
            self.driver.execute_script(f"localStorage.setItem('calm-basin.theme', '{theme}')")
            self.driver.refresh()
            self.button("New job")
            with self.subTest(theme=theme, view="jobs"):
                self.assertEqual(self.axe(), [])
            for job, step in zip(
                self.jobs[:6], ("room", "levels", "drain", "depth", "water", "pins"), strict=True
            ):
                self.open(f"/jobs/{job}/{step}")
                self.ready()
                with self.subTest(theme=theme, view=step):
                    self.assertEqual(self.axe(), [])
            # The demo's cut tray, with all that its step shows.
            self.open(f"/jobs/{self.jobs[5]}/depth")
            self.ready()
            with self.subTest(theme=theme, view="cut tray"):
                self.assertEqual(self.axe(), [])
        self.driver.execute_script("localStorage.clear()")

    def test_on_a_phone_nothing_is_cut_off_or_too_small_for_a_thumb(self) -> None:
        self.size(390, 844)
        for step in ("room", "levels", "drain", "depth", "water", "pins"):
            self.open(f"/jobs/{self.jobs[1]}/{step}")
            self.ready()
            wide = self.driver.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390, step)
            small = [
                f"{element.text or element.get_attribute('aria-label')} {element.rect}"
                for element in self.driver.find_elements(
                    By.CSS_SELECTOR,
                    "button, a, select, summary, input:not([type=radio]):not([type=file])",
                )
                if element.is_displayed() and element.rect["height"] < 43.5
            ]
            self.assertEqual(small, [], step)

    def test_the_answer_stands_on_the_first_screen(self) -> None:
        self.open(f"/jobs/{self.jobs[0]}/depth")
        self.ready()
        for figure in ("Recess needed", "Drop at drain", "Falls", "Step at entry"):
            box = self.one(f'[data-figure="{figure}"]').rect
            self.assertLess(box["y"] + box["height"], 800)
        self.assertEqual(
            self.driver.execute_script("return document.documentElement.scrollHeight"), 800
        )

    def test_no_text_is_smaller_than_14_pixels(self) -> None:
        script = """
            const small = [];
            for (const element of document.querySelectorAll("body *")) {
              const own = [...element.childNodes].some((n) => n.nodeType === 3 && n.data.trim());
              const size = parseFloat(getComputedStyle(element).fontSize);
              if (own && size < (element.closest(".sounding") ? 12 : 14)) {
                small.push(`${size} ${element.textContent}`);
              }
            }
            return small;
        """
        for step in ("room", "levels", "drain", "depth", "water", "pins"):
            self.open(f"/jobs/{self.jobs[1]}/{step}")
            self.ready()
            self.assertEqual(self.driver.execute_script(script), [], step)

    def test_everything_comes_from_this_server_and_nothing_complains(self) -> None:
        self.open(f"/jobs/{self.jobs[0]}/drain")
        self.ready()
        script = "return performance.getEntriesByType('resource').map((entry) => entry.name)"
        own = f"http://127.0.0.1:{self.server.port}/"
        for name in self.driver.execute_script(script):
            self.assertTrue(name.startswith(own), name)
        self.assertEqual(self.driver.get_log("browser"), [])


STEPS = ("room", "levels", "drain", "depth", "water", "pins")


class FrameTest(DemoCase):
    """Phases, steps, findings and panes."""

    FIRST = """
        const field = document.querySelector(
          "[data-panel] :is(input, select, [data-choice], [role=radio])");
        return field?.getBoundingClientRect().bottom ?? null;
    """

    def test_the_first_field_of_every_step_is_in_sight(self) -> None:
        for width, height, foot in ((1280, 800, 0), (390, 844, 64)):
            self.size(width, height)
            for nth, step in ((nth, step) for nth in (1, 5, 6) for step in STEPS):
                self.open(f"/jobs/{self.jobs[nth]}/{step}")
                self.ready()
                if step == "pins" and nth == 5:
                    continue  # A tray has no pins to set, and no field for them.
                bottom = self.driver.execute_script(self.FIRST)
                self.assertIsNotNone(bottom, step)
                self.assertLessEqual(bottom, height - foot, f"job {nth}, {step}, {width} wide")

    def test_phases_and_steps_by_keyboard(self) -> None:
        self.open(f"/jobs/{self.jobs[1]}/room")
        self.ready()
        steps = ("drain", "depth", "water", "pins", "water", "room", "levels")
        for key, step in zip(("2", ".", ".", ".", ",", "1", "."), steps, strict=True):
            self.press(key)
            self.until(lambda step=step: self.one(f'[data-panel="{step}"]'), f"{key} opens {step}")
        self.assertEqual(len(self.driver.find_elements(By.CSS_SELECTOR, "[data-panel]")), 1)

    def test_a_phase_opens_where_it_was_left(self) -> None:
        self.open(f"/jobs/{self.jobs[1]}/depth")
        self.ready()
        self.one('[data-phase="Build"]').click()
        self.one('[data-phase="Plan"]').click()
        self.until(lambda: self.one('[data-panel="depth"]'), "the step that was open")

    def test_findings_of_other_steps_are_a_press_away(self) -> None:
        self.open(f"/jobs/{self.jobs[1]}/room")
        self.ready()
        self.assertFalse(self.driver.find_elements(By.CSS_SELECTOR, "[data-code]"))
        other = self.one('[data-other="fall_over_most"]')
        self.assertIn("Drain & falls", other.text)
        other.click()
        self.until(lambda: self.one('[data-panel="drain"]'), "the step of the finding")
        self.assertTrue(self.one('[data-code="fall_over_most"]').is_displayed())

    def test_a_mark_agrees_with_what_its_step_says(self) -> None:
        self.open(f"/jobs/{self.jobs[6]}/water")
        self.ready()
        self.until(lambda: "lies on a level part" in self.one("aside").text, "the verdict")
        self.assertIn("a caution", self.one('[data-step="water"]').text)
        self.step("drain")
        # Nobody has looked at the water now: it is not called clear.
        self.assertNotIn("clear", self.one('[data-step="water"]').text)

    def test_chart_and_section_share_the_column(self) -> None:
        self.open(f"/jobs/{self.jobs[0]}/depth")
        self.ready()

        def heights() -> list[int]:
            panes = [self.one(f'[data-pane="{name}"]') for name in ("chart", "section")]
            return [pane.size["height"] if pane.is_displayed() else 0 for pane in panes]

        chart, section = heights()
        self.one('[role="separator"]').send_keys(Keys.ARROW_UP)
        self.assertLess(heights()[0], chart)
        self.assertGreater(heights()[1], section)
        self.click("Section")
        self.assertEqual(heights()[0], 0)
        self.assertGreater(heights()[1], 600)
        self.click("Section")
        self.click("Chart")
        self.assertEqual(heights()[1], 0)
        self.size(390, 844)
        self.click("Section")
        self.assertEqual([height > 0 for height in heights()], [False, True])
