"""What the screens owe everybody: contrast and names, thumbs, phones, and no stranger's files."""

import zipfile
from itertools import combinations, cycle
from pathlib import Path
from typing import Any, ClassVar

from pypdf import PdfReader
from selenium.webdriver import ActionChains
from selenium.webdriver.common.actions.wheel_input import ScrollOrigin
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from calm_basin.demo import demo_plans
from calm_basin.plan import plan_from
from calm_basin.rules import rule_sets
from tests.browser.case import BrowserCase
from tests.plans import document, moved

AXE = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"

STEPS = (
    "room",
    "levels",
    "drain",
    "depth",
    "under",
    "access",
    "water",
    "walls",
    "membrane",
    "heating",
    "tile",
    "order",
    "days",
    "marks",
    "log",
    "as-built",
    "hand-over",
)


class DemoCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.jobs = self.server.fill(demo_plans())

    SMALL = """
        const held = "button, a, select, summary, input:not([type=radio]):not([type=file])";
        return [...document.querySelectorAll(held)]
          .filter((one) => one.checkVisibility({ visibilityProperty: true }))
          .map((one) => [one, one.getBoundingClientRect()])
          .filter(([, box]) => box.width > 0 && box.height > 0)
          .map(([one, box]) => [one.innerText || one.ariaLabel || one.id, box.height]);
    """

    def small(self) -> list[str]:
        """What is too low for a thumb."""

        def all_there() -> list[list[Any]] | None:
            shown: list[list[Any]] = self.driver.execute_script(self.SMALL)
            return shown if len(shown) > 3 else None

        shown = self.until(all_there, "what can be pressed")
        return [f"{name} {height}" for name, height in shown if height < 43.5]


class LooksTest(DemoCase):
    THEMED = """
        document.documentElement.dataset.theme = arguments[0];
        for (const one of document.getAnimations())
          if (one instanceof CSSTransition) one.finish();
    """
    BY_COLOUR = ("color-contrast", "link-in-text-block")
    """The rules that read colours: all others find the same by day and by night."""

    FRAME = ("header", 'nav[aria-label="Steps of the job"]')
    """What stands on every step alike."""

    def axe(self, view: str, *, framed: bool = True) -> None:
        """Hold what is on screen against all rules by day, and by night those that read colours;
        not ``framed`` without what was looked at before."""
        if not self.driver.execute_script("return Boolean(window.axe)"):
            self.driver.execute_script(AXE.read_text("utf-8"))
        for theme, only in (
            ("tide-day", {}),
            ("tide-night", {"runOnly": {"type": "rule", "values": self.BY_COLOUR}}),
        ):
            where = {"exclude": [[css] for css in (() if framed else self.FRAME)]}
            options = {"resultTypes": ["violations"], **only}
            self.driver.execute_script(self.THEMED, theme)
            result = self.driver.execute_async_script(
                "axe.run(arguments[0], arguments[1]).then(arguments[2])", where, options
            )
            found = [
                f"{rule['id']}: {node['html'][:120]}"
                for rule in result["violations"]
                for node in rule["nodes"]
            ]
            with self.subTest(theme=theme, view=view):
                self.assertEqual(found, [])
                self.assertGreater(len(result["passes"]), 0)

    def proved(self, job: str) -> None:
        """Write a floor that is out into a job's log."""
        outline = self.server.call("GET", f"/jobs/{job}")["plan"]["shower"]["outline"]
        xs, ys = zip(*outline, strict=True)
        rows = [
            f"{min(xs) + u * (max(xs) - min(xs)):.0f} {min(ys) + v * (max(ys) - min(ys)):.0f} "
            f"-{20 + 9 * u * v:.0f} mm"
            for u in (0.15, 0.4, 0.65, 0.9)
            for v in (0.2, 0.5, 0.85)
        ]
        entry = {"id": "levels-00001", "kind": "levels", "by": "AB", "at": "2026-12-07T09:30"}
        fields = {"layer": "bed", "readings": "\n".join(rows)}
        self.server.call("POST", f"/jobs/{job}/log", entry | {"fields": fields})

    def test_axe_finds_nothing_in_any_step_by_day_and_by_night(self) -> None:
        self.open("/")
        self.button("New job")
        self.axe("jobs")
        jobs = dict(zip(STEPS, cycle(self.jobs), strict=False))
        self.proved(jobs["as-built"])
        for step, job in jobs.items():
            self.at(job, step)
            if step == "as-built":
                self.until(lambda: self.one("[data-plane]"), "what was read")
            self.axe(step, framed=step == STEPS[0])
        # The demo's cut tray, with all that its step shows.
        self.at(self.jobs[5], "depth")
        self.axe("cut tray", framed=False)

    def test_axe_finds_nothing_in_views_and_comparisons_by_day_and_by_night(self) -> None:
        # A plan filled from a system, view by view, and all systems compared.
        self.at(self.jobs[1], "depth")
        for view in ("Build-up", "Options", "Instructions", "System"):
            self.view(view)
            self.saved()
            self.axe(view, framed=False)
        self.click("Compare for this room")
        self.until(lambda: self.one("dialog [data-compared]"), "all are compared")
        self.axe("systems")
        # Somebody in a chair, with all that is asked for them, and the same under other rules.
        self.at(self.jobs[8], "access")
        self.driver.execute_script("[...document.querySelectorAll('details')].at(-1).open = true;")
        self.until(lambda: self.one("[data-compared]"), "under other rules")
        self.axe("getting in")
        self.open("/rules/us-accessible")
        self.until(lambda: self.one("main section"), "the rules")
        self.axe("rules")

    def test_axe_finds_nothing_in_what_is_kept_and_asked(self) -> None:
        gone = self.jobs.pop()
        self.server.call("DELETE", f"/jobs/{gone}")
        self.server.kill()
        self.server.start()
        self.open("/keeping")
        self.until(lambda: "Copy of the day" in self.one("main").text, "the copy of the day")
        self.axe("backups")
        self.click("Restore")
        self.until(lambda: self.one("dialog"), "asked")
        self.axe("restore")
        self.open("/")
        self.button("New job")
        self.driver.execute_script("dispatchEvent(new Event('calm-basin:sign-in'))")
        self.until(lambda: self.one("dialog"), "asked to sign in")
        self.axe("sign in")
        self.at(self.jobs[5], "depth")
        self.click("Lay a stock tray out from the riser")
        self.until(lambda: self.one("[data-tray]"), "it is laid out")
        self.saved()
        self.axe("stock tray")
        said = {"name": "Upstairs", "length": "in", "rule_set": "us-dwelling"}
        self.at(self.server.call("POST", "/jobs", said)["job_id"], "room")
        self.click("Measure one by one")
        self.until(lambda: self.one("[data-walk]"), "the walk")
        self.axe("walk")

    def test_the_switch_of_the_look_is_what_the_page_wears(self) -> None:
        self.open("/")
        self.button("New job")
        for theme in ("tide-night", "tide-day"):
            self.driver.execute_script(f"localStorage.setItem('calm-basin.theme', '{theme}')")
            self.driver.refresh()
            self.button("New job")
            self.assertEqual(self.one("html").get_attribute("data-theme"), theme)

    def test_pages_beside_the_jobs_fit_a_phone(self) -> None:
        self.server.call("DELETE", f"/jobs/{self.jobs[-1]}")
        self.server.kill()
        self.server.start()
        self.size(390, 844)
        for path, css in (("/", "[data-job]"), ("/keeping", "main ul"), ("/rules", "main section")):
            self.open(path)
            self.until(lambda at=css: self.one(at), path)  # type: ignore[misc]
            wide = self.driver.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390, path)
            self.assertEqual(self.small(), [], path)

    def test_on_a_phone_no_view_is_cut_off_or_too_small_for_a_thumb(self) -> None:
        self.size(390, 844)
        self.at(self.jobs[1], "depth")
        for view in ("System", "Build-up", "Options", "Instructions"):
            self.view(view)
            self.saved()
            wide = self.driver.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390, view)
            self.assertEqual(self.small(), [], view)

    def test_the_answer_stands_on_the_first_screen(self) -> None:
        self.open(f"/jobs/{self.jobs[0]}/depth")
        self.ready()
        for figure in ("Recess needed", "Drop at drain", "Falls", "Step at entry"):
            box = self.one(f'[data-figure="{figure}"]').rect
            self.assertLess(box["y"] + box["height"], 800)
        self.assertEqual(
            self.driver.execute_script("return document.documentElement.scrollHeight"), 800
        )

    def test_everything_comes_from_this_server_and_nothing_complains(self) -> None:
        # What other windows complained of is read away.
        self.driver.get_log("browser")
        self.open(f"/jobs/{self.jobs[0]}/drain")
        self.ready()
        script = "return performance.getEntriesByType('resource').map((entry) => entry.name)"
        own = f"http://127.0.0.1:{self.server.port}/"
        for name in self.driver.execute_script(script):
            self.assertTrue(name.startswith(own), name)
        self.assertEqual(self.driver.get_log("browser"), [])


class FrameTest(DemoCase):
    """Phases, steps, findings and panes."""

    FIRST = """
        const field = document.querySelector(
          "[data-panel] :is(input, select, [data-choice], [aria-pressed])");
        return field?.getBoundingClientRect().bottom ?? null;
    """
    PARTED = """
        return [...document.querySelectorAll("[data-code], [data-figure]")]
          .map((one) => one.textContent)
          .filter((text) => /\\d [0-9]+\\/[0-9]|\\d["']? (mm|cm|m|in|ft)\\b/.test(text));
    """
    """Findings and figures in which a number may part from its fraction or its unit."""

    FAINT = """
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

    MET = """
        const parts = "header, nav, section[aria-label='Key figures'], aside";
        const there = (one) => !one.closest(".sr-only, option")
          && one.checkVisibility({contentVisibilityAuto: true, visibilityProperty: true});
        // What stays while the page scrolls beneath it covers it.
        const stays = (one) => Boolean(one.closest(".fixed, .sticky, [data-walk]"));
        const inside = ([left, top, right, bottom], to) => [
          Math.max(left, to[0]), Math.max(top, to[1]),
          Math.min(right, to[2]), Math.min(bottom, to[3]),
        ];
        // What is seen through an element: through all that cut it off, each asked once.
        const seen = new Map([[null, [-1e6, -1e6, 1e6, 1e6]]]);
        const through = (one) => {
          if (!seen.has(one)) {
            const {overflowX, overflowY} = getComputedStyle(one);
            const {left, top, right, bottom} = one.getBoundingClientRect();
            const open = overflowX === "visible" && overflowY === "visible";
            const around = through(one.parentElement);
            seen.set(one, open ? around : inside([left, top, right, bottom], around));
          }
          return seen.get(one);
        };
        const within = (one, box) =>
          inside([box.left, box.top, box.right, box.bottom], through(one));
        const texts = [];
        for (const part of document.querySelectorAll(parts)) {
          const walker = document.createTreeWalker(part, NodeFilter.SHOW_TEXT);
          for (let node = walker.nextNode(); node; node = walker.nextNode()) {
            const one = node.parentElement;
            if (!node.data.trim() || one.closest("select") || !there(one)) continue;
            const range = document.createRange();
            range.selectNodeContents(node);
            for (const box of range.getClientRects())
              texts.push([one, node.data.trim().slice(0, 40), within(one, box), stays(one)]);
          }
        }
        const fields = "aside input:not([type=radio]):not([type=checkbox]), header input";
        for (const one of document.querySelectorAll(fields)) {
          const box = one.getBoundingClientRect();
          // Its unit stands in the field, at its end, where it keeps room for it.
          const kept = Math.max(parseFloat(getComputedStyle(one).paddingRight), 10);
          const inner = {
            left: box.left + 2, top: box.top + 4, right: box.right - kept, bottom: box.bottom - 4,
          };
          if (box.width && there(one))
            texts.push([one, `field ${one.value}`, within(one, inner), stays(one)]);
        }
        const met = [];
        // From the top down: none that begins below another's end lies on it.
        texts.sort((a, b) => a[2][1] - b[2][1]);
        for (let i = 0; i < texts.length; i++)
          for (let j = i + 1; j < texts.length && texts[j][2][1] < texts[i][2][3]; j++) {
            const [[one, text, a, up], [other, said, b, also]] = [texts[i], texts[j]];
            if (one === other || up !== also) continue;
            const wide = Math.min(a[2], b[2]) - Math.max(a[0], b[0]);
            const high = Math.min(a[3], b[3]) - Math.max(a[1], b[1]);
            if (wide > 2 && high > 5) met.push(`${text} | ${said}`);
          }
        return [texts.length, met];
    """
    """Texts of head, rail, figures and panel that lie on one another."""

    def no_text_on_another(self, where: str) -> None:
        count, met = self.driver.execute_script(self.MET)
        self.assertGreater(count, 10, where)
        self.assertEqual(met, [], where)

    def at_other_sizes(self, where: str) -> None:
        """The same on a tablet, either way round, and with letters twice as large."""
        for width, height, letters in (
            (1024, 768, 16),
            (834, 1112, 16),
            (1280, 800, 32),
            (390, 844, 32),
        ):
            self.size(width, height)
            self.emulate("Page.setFontSizes", {"fontSizes": {"standard": letters}})
            self.no_text_on_another(f"{where} {width}, letters of {letters} px")
        self.emulate("Page.setFontSizes", {"fontSizes": {"standard": 16}})

    def first_field(self, height: int, where: str) -> None:
        bottom = self.driver.execute_script(self.FIRST)
        if bottom is None:
            # An order is ticked, tile and cable are chosen first, and what is handed over is
            # downloaded: there is no field.
            self.assertTrue(where.endswith((" order", " hand-over", " tile", " heating")), where)
        else:
            self.assertLessEqual(bottom, height, where)

    def test_every_step_fits_a_phone_and_a_desk_with_its_first_field_in_sight(self) -> None:
        # Every step in one job; in two more every second of them.
        views = [(1, STEPS), (5, STEPS[::2]), (6, STEPS[1::2])]
        for job, step in ((self.jobs[nth], step) for nth, steps in views for step in steps):
            where = f"{job} {step}"
            self.size(390, 844)
            self.at(job, step)
            if step == "log":
                self.until(lambda: self.one("[data-panel] select"), "its form has come")
            wide = self.driver.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390, where)
            # Header and key figures take a line each.
            self.assertLess(self.one("header").size["height"], 60)
            self.assertLess(self.one('[aria-label="Key figures"]').size["height"], 80)
            self.assertEqual(self.small(), [], where)
            self.assertEqual(self.driver.execute_script(self.FAINT), [], where)
            self.first_field(844 - 64, where)
            self.assertEqual(self.driver.execute_script(self.PARTED), [], where)
            self.no_text_on_another(f"{where} on a phone")
            if job == self.jobs[1]:
                self.at_other_sizes(where)
            self.size(1280, 800)
            self.settled()
            self.no_text_on_another(where)
            self.assertEqual(self.driver.execute_script(self.FAINT), [], where)
            self.first_field(800, where)

    def test_on_its_side_a_phone_has_chart_and_panel_side_by_side(self) -> None:
        self.size(844, 390)
        for step in ("room", "drain", "log"):
            self.at(self.jobs[1], step)
            chart = self.one("[data-pane=chart], [data-part=schedule]").rect
            panel = self.one("[data-scrolls]").rect
            self.assertGreaterEqual(panel["x"], chart["x"] + chart["width"] - 1, step)
            # The panel begins in sight, above the bar of steps.
            self.assertLess(panel["y"], 390 - 100, step)
            self.no_text_on_another(f"{step} on its side")

    def test_phases_and_steps_by_keyboard(self) -> None:
        self.open(f"/jobs/{self.jobs[1]}/room")
        self.ready()
        steps = (
            "drain",
            "depth",
            "under",
            "access",
            "water",
            "walls",
            "water",
            "room",
            "levels",
        )
        for key, step in zip(("2", ".", ".", ".", ".", ".", ",", "1", "."), steps, strict=True):
            self.press(key)
            self.until(lambda step=step: self.one(f'[data-panel="{step}"]'), f"{key} opens {step}")
        self.assertEqual(len(self.driver.find_elements(By.CSS_SELECTOR, "[data-panel]")), 1)

    def steps_in_sight(self) -> list[str]:
        links = self.driver.find_elements(By.CSS_SELECTOR, "[data-step]")
        return [one.get_attribute("data-step") or "" for one in links if one.is_displayed()]

    def test_single_keys_can_be_turned_off(self) -> None:
        self.open(f"/jobs/{self.jobs[1]}/room")
        self.ready()
        self.press("?")
        self.until(lambda: self.one("dialog input[type=checkbox]"), "the switch").click()
        self.press(Keys.ESCAPE)
        self.press("2", ".", "?")
        self.assertEqual(self.one("[data-panel]").get_attribute("data-panel"), "room")
        self.assertFalse(self.driver.find_elements(By.CSS_SELECTOR, "dialog"))
        self.click("Keys and help")
        self.until(lambda: self.one("dialog input[type=checkbox]"), "the switch").click()
        self.press(Keys.ESCAPE)
        self.press("2")
        self.until(lambda: self.one('[data-panel="drain"]'), "they go on")

    def test_tab_comes_first_to_ways_past_head_and_rail(self) -> None:
        self.open(f"/jobs/{self.jobs[1]}/drain")
        self.ready()
        for count, label, css in (
            (1, "Skip to the fields", "[data-panel] *"),
            (2, "Skip to the findings", "#findings *"),
            (3, "Skip to the chart", "[data-handle]"),
        ):
            self.driver.get(self.driver.current_url)
            self.ready()
            self.press(*[Keys.TAB] * count)
            skip = self.driver.switch_to.active_element
            self.assertEqual(skip.text, label)
            self.assertGreater(skip.size["height"], 40)
            skip.send_keys(Keys.ENTER)
            there = f"return document.activeElement.matches('{css}')"
            self.assertTrue(self.driver.execute_script(there), label)

    def test_every_step_is_in_sight_and_the_rail_stays_as_it_was_left(self) -> None:
        self.open(f"/jobs/{self.jobs[1]}/depth")
        self.ready()
        self.assertEqual(self.steps_in_sight(), list(STEPS))
        rail = self.one('nav[aria-label="Steps of the job"]')
        self.assertLessEqual(rail.size["height"], 744)
        inside = "return arguments[0].scrollHeight <= arguments[0].clientHeight"
        self.assertTrue(self.driver.execute_script(inside, rail))
        # Beside its name a step says its answer: here the recess, as the key figure does.
        recess = self.one('[data-figure^="Recess"] > span:nth-child(2)').text
        self.assertIn(recess, self.one('[data-step="depth"]').text)
        self.click("Narrow")
        self.until(lambda: rail.size["width"] < 80, "it is narrow")
        self.open(f"/jobs/{self.jobs[1]}/room")
        self.ready()
        self.assertLess(self.one('nav[aria-label="Steps of the job"]').size["width"], 80)
        self.assertEqual(self.steps_in_sight(), list(STEPS))
        self.click("Show the names of the steps")

    def test_a_phone_opens_all_steps_from_a_bar(self) -> None:
        self.size(390, 844)
        self.open(f"/jobs/{self.jobs[1]}/depth")
        self.ready()
        self.assertEqual(self.steps_in_sight(), [])
        self.one("[data-steps]").click()
        self.until(lambda: self.steps_in_sight() == list(STEPS), "all steps")
        self.press(Keys.ESCAPE)
        self.until(lambda: self.steps_in_sight() == [], "closed by its key")
        self.one("[data-steps]").click()
        links = self.driver.find_elements(By.CSS_SELECTOR, '[data-step="water"]')
        next(one for one in links if one.is_displayed()).click()
        self.until(lambda: self.one('[data-panel="water"]'), "the step")
        self.assertEqual(self.steps_in_sight(), [])

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
        self.assertIn("check", self.one('[data-step="water"]').text)
        self.step("drain")
        # Nobody has looked at the water now: it is not called clear.
        self.assertNotIn("fine", self.one('[data-step="water"]').text)

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


class FindingMarksTest(DemoCase):
    def test_each_is_where_it_is_by_its_number_and_either_lights_the_other(self) -> None:
        self.at(self.jobs[1], "drain")
        cards = self.driver.find_elements(By.CSS_SELECTOR, "#findings li[data-code]")
        self.assertEqual(len(cards), 2)
        for nth, card in enumerate(cards, start=1):
            css = f'main [data-number="{nth}"]'
            (mark,) = self.driver.find_elements(By.CSS_SELECTOR, css)
            self.assertEqual(mark.text, str(nth))
            self.assertEqual(mark.get_attribute("data-found"), card.get_attribute("data-code"))
            # Pointed at, it is marked at all its places.
            ActionChains(self.driver, duration=60).move_to_element(card).perform()
            self.until(
                lambda css=css: (
                    len(self.driver.find_elements(By.CSS_SELECTOR, f"{css}[data-lit]")) > 1
                ),
                "its marks are lit",
            )
            ActionChains(self.driver, duration=60).move_to_element(self.one("h2")).perform()
            # The circle is in sight: no other mark of the same place lies over it.
            circle = self.until(lambda css=css: self.one(f"{css}:not([data-lit]) circle"), "one")
            ActionChains(self.driver, duration=60).move_to_element(circle).perform()
            self.until(lambda at=card: at.get_attribute("data-lit"), "the finding is lit")

    def test_what_is_refused_leads_to_its_field(self) -> None:
        self.at(self.jobs[1], "room")
        self.type("Deck thickness", "40")
        self.until(lambda: self.one('main [role="alert"]'), "refused")
        self.step("water")
        self.assertNotIn("/floor", self.one("#findings, aside").text)
        self.click("To its field")
        self.until(
            lambda: (
                self.driver.switch_to.active_element.get_attribute("data-field")
                == "/floor/deck_thickness"
            ),
            "the keyboard is there",
        )


class LegendTest(DemoCase):
    NAMES = """
        return [...document.querySelectorAll("[data-legend] label")].map((one) => one.innerText);
    """

    def names(self) -> list[str]:
        found: list[str] = self.driver.execute_script(self.NAMES)
        return found

    def shown(self, part: str) -> bool:
        return bool(self.one(f'main [data-part="{part}"]').is_displayed())

    def test_it_names_what_is_shown_and_hides_it(self) -> None:
        self.at(self.jobs[1], "drain")
        self.one('[title="What the chart shows"]').click()
        names = self.until(self.names, "what is shown")
        self.assertIn("Joists", names)
        self.assertIn("Depth of the floor: darker is deeper", names)
        self.assertNotIn("How the water runs: blue to the drain, red elsewhere", names)
        self.click_label("Lines of equal depth")
        self.until(lambda: not self.shown("contours"), "the lines are gone")
        self.assertTrue(self.shown("folds"))
        # Another step draws its own, and what is hidden stays so.
        self.step("water")
        self.until(lambda: self.one('[data-part="runoff"] *'), "the water")
        self.assertFalse(self.shown("contours"))
        self.one('[title="What the chart shows"]').click()
        water = "How the water runs: blue to the drain, red elsewhere"
        self.until(lambda: water in self.names(), "the water is named")
        self.click_label("Lines of equal depth")
        self.until(lambda: self.shown("contours"), "the lines are back")

    def click_label(self, text: str) -> None:
        self.driver.find_element(
            By.XPATH, f'//*[@data-legend]//label[contains(., "{text}")]'
        ).click()

    def test_a_map_stands_in_place_of_the_tints(self) -> None:
        self.at(self.jobs[1], "under")
        self.until(lambda: self.one('[data-part="drain-map"] *'), "the map")
        self.until(lambda: not self.shown("tints"), "no tints under it")
        self.one('[title="What the chart shows"]').click()
        self.until(lambda: "Drain places clear of the floor" in self.names(), "it is named")
        self.click_label("Drain places clear of the floor")
        self.until(lambda: self.shown("tints"), "the tints are back")


class ChartTest(DemoCase):
    """Soundings that can be read, and a closer look at them."""

    BOXES = """
        return [...document.querySelectorAll(arguments[0])].map((text) => {
          const box = text.getBoundingClientRect();
          return [box.left, box.top, box.right, box.bottom, text.textContent];
        });
    """
    LINES = """
        return [...document.querySelectorAll("main path[data-line]")].flatMap((path) => {
          const to = path.getScreenCTM();
          const length = path.getTotalLength();
          return Array.from({ length: Math.ceil(length / 4) + 1 }, (_, i) => {
            const at = path.getPointAtLength(Math.min(4 * i, length)).matrixTransform(to);
            return [at.x, at.y];
          });
        });
    """
    LEADING = 4
    """Half a letter's height of leading lies above and below figures, pixels."""

    def apart(self, one: list[Any], other: list[Any]) -> bool:
        return bool(
            one[0] >= other[2]
            or other[0] >= one[2]
            or one[1] + self.LEADING >= other[3]
            or other[1] + self.LEADING >= one[3]
        )

    LETTERED = ("room", "drain", "access", "water")
    """Steps whose chart has a caption, and a letter at each end of the section."""
    SOUNDED: ClassVar[dict[str, str]] = {
        "drain": "main .sounding text",
        "levels": "main .sounding text",
        "marks": "main [data-part=pins] text",
    }
    """Steps whose chart has soundings, and what they are."""

    MET = """
        const chart = document.querySelector("main svg[data-zoom]");
        const boxed = (css, name, inset) =>
          [...chart.querySelectorAll(css)].filter((one) => one.checkVisibility()).map((one) => {
            const {left, top, right, bottom} = one.getBoundingClientRect();
            return [name(one), left + 2, top + inset, right - 2, bottom - inset];
          });
        // What stands in the shower is named beneath its floor.
        const names = ":not([data-part=fixtures] *, [data-part=findings] *)";
        const texts = boxed(`text${names}`, (one) => one.textContent.slice(0, 30), 3);
        const handles = boxed("[data-handle] .ring", () => "handle", 2);
        const marks = boxed("[data-part=findings] circle", () => "mark", 2);
        const apart = (a, b) =>
          a[3] <= b[1] + 2 || b[3] <= a[1] + 2 || a[4] <= b[2] + 2 || b[4] <= a[2] + 2;
        return [texts.length, texts.flatMap((one, i) =>
          [...texts.slice(i + 1), ...handles, ...marks]
            .filter((other) => !apart(one, other)).map((other) => `${one[0]} | ${other[0]}`))];
    """
    """Labels of the chart that lie on one another, on a handle, or on a finding's mark."""

    def labels_apart(self, where: str) -> int:
        count, met = self.driver.execute_script(self.MET)
        self.assertEqual(met, [], where)
        return int(count)

    def test_no_sounding_lies_on_another_or_on_a_line_in_any_job_in_mm_and_in_inches(self) -> None:
        lettered = labels = 0
        for nth, plan in enumerate(demo_plans()):
            for length in ("mm", "in"):
                doc = plan.model_dump(mode="json")
                doc["display"] |= {"length": length, "fraction": 16}
                (job,) = self.server.fill([plan_from(doc)])
                for step in STEPS if length == "mm" else self.SOUNDED:
                    if step not in {*self.LETTERED, *self.SOUNDED}:
                        continue
                    self.at(job, step)
                    where = f"job {nth}, {step}, {length}"
                    if step in self.LETTERED:
                        lettered += self.letters_apart(where)
                    if step in ("room", "drain", "under"):
                        labels += self.labels_apart(where)
                    if step in self.SOUNDED:
                        self.soundings_apart(step, length, where)
            self.size(390, 844)
            for step in ("room", "drain"):
                self.at(job, step)
                labels += self.labels_apart(f"job {nth}, {step} on a phone")
            self.size(1280, 800)
        self.assertGreater(lettered, 40)
        self.assertGreater(labels, 200)

    NAMED = """
        const box = (one) => {
          const {left, top, right, bottom} = one.getBoundingClientRect();
          return [one.textContent, left + 2, top + 3, right - 2, bottom - 3];
        };
        const named = [...document.querySelectorAll("main [data-part=dimensions] text")].map(box);
        const lengths = [...document.querySelectorAll("main svg[data-zoom] text[transform]")]
          .filter((one) => one.textContent.startsWith("wall")).map(box);
        const meet = (a, b) => a[1] < b[3] && b[1] < a[3] && a[2] < b[4] && b[2] < a[4];
        return [named.length, lengths.length, named.flatMap((one, i) =>
          [...named.slice(i + 1), ...lengths].filter((other) => meet(one, other))
            .map((other) => `${one[0]} | ${other[0]}`))];
    """
    """Names of a place's walls that lie on one another or on a wall's length."""

    def test_names_of_a_places_walls_stand_clear_of_lengths_at_any_angle(self) -> None:
        seen = 0
        basin = {"name": "basin", "kind": "basin", "width": 500, "length": 400, "turn": 0}
        for turn in (0, 23.7, 45, 113, -66):
            for x, y in ((400, 300), (1200, 500), (2100, 1500)):
                doc = document()
                doc["room"]["fixtures"] = [basin | {"centre": [x, y]}]
                turned = moved(doc, turn=turn) | {"display": {"length": "in", "fraction": 16}}
                self.job(turned, "room")
                field = self.until(
                    lambda: self.one(
                        '[aria-label^="basin, from wall"], fieldset[aria-label="basin"] input'
                    ),
                    "its place",
                )
                self.driver.execute_script("arguments[0].focus()", field)
                self.seen("main [data-part=dimensions] path", "its measures")
                names, lengths, met = self.driver.execute_script(self.NAMED)
                self.assertEqual(met, [], (turn, x, y))
                self.assertGreater(lengths, 1)
                seen += names
        self.assertGreater(seen, 15)

    def boxes(self, css: str) -> list[list[Any]]:
        found: list[list[Any]] = self.driver.execute_script(self.BOXES, css)
        return found

    def soundings_apart(self, step: str, length: str, where: str) -> None:
        for group in self.driver.find_elements(By.CSS_SELECTOR, '[data-group="pin"]'):
            self.driver.execute_script("arguments[0].click()", group)
            self.until(lambda: self.one('[data-part="pins"]'), "the pins are drawn")
        boxes = self.boxes(self.SOUNDED[step])
        # A tray needs no pins; of the pins a third at least shows its height, however close they
        # stand.
        pins = self.driver.find_elements(By.CSS_SELECTOR, "g[data-pin]")
        least = {"drain": 4 if length == "mm" else 1, "levels": 0, "marks": len(pins) // 3}[step]
        self.assertGreaterEqual(len(boxes), least, where)
        met = [(i, j) for i, j in combinations(boxes, 2) if not self.apart(i, j)]
        self.assertEqual(met, [], where)
        found = self.boxes("main [data-part=findings] circle")
        under = [(i, j) for i in boxes for j in found if not self.apart(i, j)]
        self.assertEqual(under, [], f"{where}: a finding's mark on a sounding")
        if step == "marks":
            return
        points = self.driver.execute_script(self.LINES)
        struck = [one for one in boxes for x, y in points if not self.apart(one, [x, y, x, y])]
        self.assertEqual(struck, [], f"{where}: a line on a sounding")

    def letters_apart(self, where: str) -> int:
        """Hold the chart's caption against the section's letters, and return how many there are."""
        (caption,) = self.boxes("main [data-part=caption]")
        letters = self.boxes("main [data-part=letter]")
        for letter in letters:
            self.assertTrue(self.apart(caption, letter), f"{where}: {letter}")
        for recess in self.boxes("main [data-part=recess]"):
            for left, _, right, *_ in self.boxes("main [data-build-up=drain]"):
                beside = recess[2] <= left + 1 or recess[0] >= right - 1
                self.assertTrue(beside, f"{where}: the recess {recess} on the drain {left} {right}")
        return len(letters)

    def zoom(self) -> float:
        return float(self.one("[data-zoom]").get_attribute("data-zoom"))

    def test_the_chart_comes_closer_by_wheel_keys_and_buttons(self) -> None:
        self.open(f"/jobs/{self.jobs[4]}/marks")
        self.ready()
        self.driver.execute_script("document.querySelector('[data-group=pin]').click()")
        chart = self.one("[data-zoom]")
        origin = ScrollOrigin.from_element(chart, 60, 40)
        before = self.one('[data-part="pins"]').rect["width"]
        ActionChains(self.driver, duration=60).scroll_from_origin(origin, 0, -300).perform()
        self.until(lambda: self.zoom() > 1, "closer by wheel")
        self.assertGreater(self.one('[data-part="pins"]').rect["width"], before)
        at = self.one('[data-part="pins"]').rect["x"]
        self.press(Keys.ARROW_LEFT)
        self.until(lambda: self.one('[data-part="pins"]').rect["x"] > at, "moved by keys")
        at = self.one('[data-part="pins"]').rect["x"]
        drag = ActionChains(self.driver, duration=60).move_to_element_with_offset(chart, -200, 60)
        drag.click_and_hold().move_by_offset(-30, 0).move_by_offset(-30, 0).release().perform()
        self.until(lambda: self.one('[data-part="pins"]').rect["x"] < at, "dragged")
        self.press("0")
        self.until(lambda: self.zoom() == 1, "the whole of it")
        self.press("+", "+")
        self.until(lambda: self.zoom() > 1.5, "closer by keys")
        self.press("-")
        self.click("The whole drawing")
        self.until(lambda: self.zoom() == 1, "the whole by its button")
        self.click("Closer")
        self.until(lambda: self.zoom() > 1, "closer by its button")

    def test_two_fingers_zoom_on_a_phone(self) -> None:
        self.size(390, 844)
        self.open(f"/jobs/{self.jobs[1]}/drain")
        self.ready()
        box = self.one("[data-zoom]").rect
        x, y = box["x"] + 120, box["y"] + box["height"] - 30

        def touch(kind: str, *points: tuple[float, float]) -> None:
            fingers = [{"x": px, "y": py, "id": n} for n, (px, py) in enumerate(points)]
            self.emulate("Input.dispatchTouchEvent", {"type": kind, "touchPoints": fingers})

        touch("touchStart", (x, y), (x + 40, y))
        for apart in (60, 90, 120):
            touch("touchMove", (x - apart / 4, y), (x + apart, y))
        touch("touchEnd")
        self.until(lambda: self.zoom() > 1.2, "closer by two fingers")

    def test_a_row_and_its_pin_light_up_together(self) -> None:
        self.open(f"/jobs/{self.jobs[1]}/marks")
        self.ready()
        self.driver.execute_script("document.querySelector('[data-group=pin]').click()")
        row = self.until(lambda: self.one('[data-mark="pin 7"]'), "the pins")
        self.assertIn("from wall", row.text)
        ActionChains(self.driver, duration=60).move_to_element(row).perform()
        self.until(lambda: self.one('g[data-pin="7"] [data-lit]'), "its pin is lit")
        pin = self.one('g[data-pin="9"] circle')
        ActionChains(self.driver, duration=60).move_to_element(pin).perform()
        self.until(
            lambda: "bg-info" in self.one('[data-mark="pin 9"]').get_attribute("class"), "its row"
        )

    def test_what_gathers_and_its_mark_light_up_together(self) -> None:
        self.open(f"/jobs/{self.jobs[5]}/water")
        self.ready()
        said = self.one('[aria-label="Water on the floor"] li span')
        ActionChains(self.driver, duration=60).move_to_element(said).perform()
        self.until(lambda: self.one("[data-part=runoff] [data-lit]"), "its mark is lit")
        mark = self.driver.find_elements(By.CSS_SELECTOR, "[data-part=runoff] g circle")[-1]
        ActionChains(self.driver, duration=60).move_to_element(mark).perform()
        last = self.driver.find_elements(
            By.CSS_SELECTOR, '[aria-label="Water on the floor"] li span'
        )[-1]
        self.until(lambda: "bg-info" in last.get_attribute("class"), "its words are lit")


class SheetTest(DemoCase):
    def test_pages_are_chosen_and_the_sheet_is_made(self) -> None:
        self.open(f"/jobs/{self.jobs[1]}/drain")
        self.ready()
        folder = self.server.database.parent / "downloads"
        folder.mkdir()
        where = {"behavior": "allow", "downloadPath": str(folder)}
        self.emulate("Browser.setDownloadBehavior", where)
        self.click("Job sheet for the site")
        dialog = self.until(lambda: self.one("dialog[open]"), "the dialog")
        self.until(lambda: "Setting out" in dialog.text, "the pages")
        # It opens from the dark header: what stands in it is as dark as on the page.
        colour = "return getComputedStyle(arguments[0].querySelector('h2')).color"
        page = "return getComputedStyle(document.querySelector('main')).color"
        self.assertEqual(
            self.driver.execute_script(colour, dialog), self.driver.execute_script(page)
        )
        paper = self.one("dialog[open] select")
        self.assertEqual(paper.get_attribute("value"), "letter")
        for label in dialog.find_elements(By.CSS_SELECTOR, "label.flex"):
            box = label.find_element(By.CSS_SELECTOR, "input")
            if box.is_selected() != (label.text == "Plan"):
                label.click()
        self.click("Save as PDF")
        file = self.until(lambda: next(iter(folder.glob("*.pdf"))), "the file")
        self.until(lambda: file.read_bytes().rstrip().endswith(b"%%EOF"), "the whole file")
        read = PdfReader(file)
        self.assertEqual(len(read.pages), 1)
        self.assertIn("Juniper Yard", read.pages[0].extract_text())
        self.click("All files (zip)")
        packed = self.until(lambda: next(iter(folder.glob("*.zip"))), "all files")
        self.until(lambda: zipfile.is_zipfile(packed), "the whole zip")
        with zipfile.ZipFile(packed) as files:
            self.assertIn("floor.dxf", files.namelist())


class RulesTest(DemoCase):
    def test_every_rule_set_is_shown_with_its_sources(self) -> None:
        self.open("/")
        self.one('a[href="/rules"]').click()
        self.until(lambda: self.driver.title.endswith("rules · Calm Basin"), "the page")
        for rules in rule_sets().values():
            self.one(f'a[href="/rules/{rules.id}"]').click()
            self.until(
                lambda rules=rules: self.driver.find_elements(
                    By.CSS_SELECTOR, f'section[aria-label="{rules.name}"]'
                ),
                rules.name,
            )
            told = self.one("main").text
            for item in (*rules.limits, *rules.facts):
                self.assertIn(item.source, told)
                self.assertIn(item.applies_to, told)
            self.assertIn(rules.deference, told)
