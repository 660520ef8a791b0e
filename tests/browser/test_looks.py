"""What the screens owe everybody: contrast and names, thumbs, phones, and no stranger's files."""

from pathlib import Path

from selenium.webdriver.common.by import By

from calm_basin.demo import demo_plans
from tests.browser.case import BrowserCase

AXE = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"


class LooksTest(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.jobs = [
            self.server.call("POST", "/jobs", {"plan": plan.model_dump(mode="json")})["job_id"]
            for plan in demo_plans()
        ]

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
