"""A job that is opened shows at once what it showed last, and what is pointed at stands out."""

from typing import Any

from calm_basin.demo import demo_plans
from tests.browser.case import BrowserCase
from tests.plans import document

HELD = """
    const asked = window.fetch;
    window.held = [];
    window.fetch = (url, options) => String(url).endsWith("/solve")
      ? new Promise((on) => window.held.push(on)).then(() => asked(url, options))
      : asked(url, options);
"""
"""No plan is worked out until what is held goes on."""

KEPT = """
    const [id, version, done] = arguments;
    const look = () => {
      const opening = indexedDB.open("calm-basin");
      opening.onsuccess = () => {
        const db = opening.result;
        const store = db.transaction("last", "readwrite").objectStore("last");
        const reading = store.get(`answer ${id}`);
        reading.onsuccess = () => {
          const kept = reading.result;
          if (kept && version) store.put({...kept, version}, `answer ${id}`);
          db.close();
          if (kept) done(true); else setTimeout(look, 50);
        };
      };
    };
    look();
"""
"""Waits until the answer of a job is kept; puts it down as of another version, if one is named."""


class OpeningTest(BrowserCase):
    def opened(self, job_id: str) -> None:
        """Open it from the list, with nothing worked out."""
        self.open("/")
        self.driver.execute_script(HELD)
        self.until(lambda: self.one(f'[data-job="{job_id}"] a'), "its card").click()

    def go_on(self) -> None:
        self.until(
            lambda: self.driver.execute_script(
                "window.held.splice(0).forEach((on) => on());"
                "return document.querySelector('[data-agrees=yes]')"
            ),
            "worked out",
        )

    def kept(self, job_id: str, version: str = "") -> None:
        self.assertTrue(self.driver.execute_async_script(KEPT, job_id, version))

    def test_it_opens_as_it_was_seen_last_and_says_so_until_it_is_worked_out(self) -> None:
        job_id = self.job(document(), "room")
        self.saved()
        figure = self.one('[data-figure="Recess needed"]').text
        self.kept(job_id)
        self.opened(job_id)
        self.seen('[data-save="opening"]', "it says that it is being opened")
        self.seen("[data-ready] [data-zoom] path", "the drawing of last time")
        self.assertEqual(self.one('[data-figure="Recess needed"]').text, figure)
        self.assertEqual(self.one("[data-save]").text, "Opening…")
        # It is not held to be what the plan says now.
        self.assertFalse(self.driver.find_elements("css selector", '[data-agrees="yes"]'))
        self.go_on()
        self.assertEqual(self.one("[data-save]").text, "Saved")

    def test_what_was_kept_of_another_plan_or_version_is_not_shown(self) -> None:
        job_id = self.job(document(), "room")
        self.saved()
        self.kept(job_id, version="an older one")
        self.opened(job_id)
        self.seen('[data-save="opening"]', "it is being opened")
        self.assertFalse(self.driver.find_elements("css selector", "[data-ready]"))
        self.go_on()
        self.kept(job_id)
        head = self.server.call("GET", f"/jobs/{job_id}")
        head["plan"]["shower"]["set_down"] = 3
        asked = {"base": head["revision"], "plan": head["plan"]}
        self.server.call("PUT", f"/jobs/{job_id}/plan", asked)
        self.opened(job_id)
        self.seen('[data-save="opening"]', "it is being opened")
        self.assertFalse(self.driver.find_elements("css selector", "[data-ready]"))
        self.go_on()
        self.assertIn("17.3 mm", self.one('[data-figure="Recess needed"]').text)


class PagesTest(BrowserCase):
    """What only a job needs is loaded after the list of jobs stands."""

    def loaded(self) -> list[str]:
        said = "return performance.getEntriesByType('resource').map((one) => one.name)"
        return [name.split("/")[-1] for name in self.driver.execute_script(said)]

    def block(self, *urls: str) -> None:
        self.emulate("Network.enable", {})
        self.emulate("Network.setBypassServiceWorker", {"bypass": True})
        self.emulate("Network.setCacheDisabled", {"cacheDisabled": True})
        self.emulate("Network.setBlockedURLs", {"urls": list(urls)})

    def test_the_others_come_by_themselves(self) -> None:
        self.open("/")
        for page in ("JobScreen-", "RulesPage-", "KeepingPage-"):
            self.until(lambda page=page: any(page in one for one in self.loaded()), page)

    def test_one_that_does_not_come_says_so_and_comes_again(self) -> None:
        made = self.server.call("POST", "/jobs", {"plan": document()})
        self.block("*/assets/JobScreen-*")
        self.open("/")
        self.until(lambda: self.one(f'[data-job="{made["job_id"]}"] a'), "its card").click()
        self.seen("[data-not-loaded]", "told that it did not load")
        self.assertIn("Nothing is lost", self.one("[role=alert]").text)
        self.block()
        self.click("Try again")
        self.ready()


class PointingTest(BrowserCase):
    def strong(self) -> Any:
        """What stands out on the chart, and how strongly the rest is drawn."""
        return self.driver.execute_script(
            """
            const chart = document.querySelector("[data-zoom]");
            const drawn = [...chart.querySelectorAll("[data-lights]")];
            const out = drawn.filter((one) => one.hasAttribute("data-strong"));
            const rest = drawn.filter((one) => !one.hasAttribute("data-strong"));
            const opacity = (one) => Number(getComputedStyle(one).opacity);
            return [out.map((one) => one.dataset.lights), out.map(opacity), rest.map(opacity)];
            """
        )

    def test_what_has_the_keyboard_stands_out_and_the_rest_fades(self) -> None:
        plan = next(plan for plan in demo_plans() if plan.users)
        self.job(plan.model_dump(mode="json"), "access")
        names, _, rest = self.strong()
        self.assertEqual(names, [])
        self.assertGreater(len(rest), 4)
        self.assertTrue(all(opacity == 1 for opacity in rest))
        row = self.one('[data-panel] [data-lights="space 0"]')
        self.driver.execute_script(
            "arguments[0].dispatchEvent(new FocusEvent('focusin', {bubbles: true}))", row
        )
        self.until(lambda: set(self.strong()[2]) == {0.35}, "the rest is pale")
        names, own, _ = self.strong()
        self.assertEqual((names, own), (["space 0"], [1]))
        self.driver.execute_script(
            "arguments[0].dispatchEvent(new FocusEvent('focusout', {bubbles: true}))", row
        )
        self.until(lambda: set(self.strong()[2]) == {1}, "all as before")
