"""The tables of Build on the screen: cell by cell what the answer says, and with it all other forms
(tests/core/test_tables.py)."""

from __future__ import annotations

from selenium.webdriver.common.by import By

from calm_basin.demo import demo_plans
from tests.browser.case import BrowserCase
from tests.core.test_tables import job, plain, tables


class TablesTest(BrowserCase):
    def shown(self) -> str:
        return plain(
            self.driver.execute_script(
                "return document.querySelector('section[data-panel]').textContent"
            )
        ).replace(" ", "")

    def test_each_cell_is_on_the_screen(self) -> None:
        plan, solution = job(demo_plans()[1])
        found = dict(tables(solution))
        opened = {"order": ("order", "cuts"), "days": ("days",), "marks": ("marks",)}
        job_id = self.job(plan.model_dump(mode="json"), "order")
        for step, names in opened.items():
            self.open(f"/jobs/{job_id}/{step}")
            self.seen(
                {"order": "[data-item]", "days": "[data-task]"}.get(step, "[data-group]"), step
            )
            told = self.shown()
            if step == "marks":
                for group in self.driver.find_elements(By.CSS_SELECTOR, "[data-group]"):
                    if group.get_attribute("aria-expanded") != "true":
                        self.driver.execute_script("arguments[0].click()", group)
                    self.until(
                        lambda g=group: g.get_attribute("aria-expanded") == "true",  # type: ignore[misc]
                        "the group opens",
                    )
                    told += self.shown()
            cells = {cell for name in names for row in found[name] for cell in row if cell}
            self.assertGreater(len(cells), 15, step)
            # A task that goes on is told so on the days that it is not begun or ended.
            for cell in cells:
                self.assertIn(cell.replace(" ", ""), told, (step, cell))
