"""No edit is lost, and what the screen says of saving is so, whatever fails."""

from __future__ import annotations

import copy
import json
import os
from typing import Any
from unittest import mock

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.case import BrowserCase
from tests.plans import Document, document

NUDGED = [749, 1350]
"""Where the drain of the usual plan lies after one press of the left arrow, mm."""

BLOCKED = """
  for (const name of ["localStorage", "sessionStorage"])
    Object.defineProperty(window, name, {get() { throw new DOMException("no", "SecurityError"); }});
"""
LOSING = """
  const real = window.fetch;
  window.lose = 1;
  window.fetch = async (...asked) => {
    const answer = await real(...asked);
    if (asked[1]?.method === "PUT" && window.lose-- > 0) throw new TypeError("lost");
    return answer;
  };
"""
HELD = """
  const real = window.fetch;
  const held = [];
  window.fetch = (...asked) => asked[1]?.method === "PUT"
    ? new Promise((on) => held.push(on)).then(() => real(...asked)) : real(...asked);
  window.onward = () => held.splice(0).forEach((on) => on());
  window.freed = () => {
    window.fetch = real;
    window.onward();
  };
"""
"""Saves are held on their way: what is held goes onward, or is freed with all that follow."""


def large() -> Document:
    """A plan of more than 120 kB: a floor that was read at many places."""
    plan = document()
    plan["survey"] = {
        "levels": [
            {"kind": "height", "x": 20.0 + 47 * (i % 50), "y": 20.0 + 35 * (i // 50), "height": 0.0}
            for i in range(1500)
        ]
    }
    assert len(json.dumps(plan)) > 90_000
    return plan


class KeepingCase(BrowserCase):
    def before_each_page(self, script: str) -> None:
        done = self.emulate("Page.addScriptToEvaluateOnNewDocument", {"source": script})
        self.addCleanup(self.emulate, "Page.removeScriptToEvaluateOnNewDocument", done)

    def slow(self, latency: int) -> None:
        self.emulate("Network.enable", {})
        for ms, later in ((latency, False), (0, True)):
            conditions = {
                "offline": False,
                "latency": ms,
                "downloadThroughput": -1,
                "uploadThroughput": -1,
            }
            command = "Network.emulateNetworkConditions"
            if later:
                self.addCleanup(self.emulate, command, conditions)
            else:
                self.emulate(command, conditions)

    def nudge(self, key: str = Keys.ARROW_LEFT) -> None:
        self.one('[data-handle="drain"]').send_keys(key)

    def stored(self, job_id: str) -> Any:
        return self.server.call("GET", f"/jobs/{job_id}")["plan"]

    def drain(self, job_id: str) -> Any:
        return self.stored(job_id)["shower"]["drain"]["centre"]

    def state(self) -> str | None:
        return self.one("[data-save]").get_attribute("data-save")


class StorageTest(KeepingCase):
    def test_full_storage_costs_no_edit_and_is_told_once(self) -> None:
        job_id = self.job(document())
        self.driver.execute_script("""
            const fill = (size, i) => localStorage.setItem(`x${size}-${i}`, "x".repeat(size));
            for (let size = 4e6; size >= 1; size = Math.floor(size / 2))
              try { for (let i = 0; ; i += 1) fill(size, i); } catch {}
        """)
        self.addCleanup(self.driver.execute_script, "localStorage.clear()")
        self.nudge()
        note = self.until(lambda: self.one('[data-note="uncopied"]'), "told that there is no copy")
        self.assertIn("full or blocked", note.text)
        self.saved()
        self.assertEqual(self.drain(job_id), NUDGED)
        self.click("All right")
        self.nudge()
        self.saved()
        self.assertEqual(self.drain(job_id), [748, 1350])
        self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, '[data-note="uncopied"]'), [])

    def test_blocked_storage_leaves_every_page_standing(self) -> None:
        self.before_each_page(BLOCKED)
        job_id = self.job(document())
        self.nudge()
        self.saved()
        self.assertEqual(self.drain(job_id), NUDGED)
        for path, css in (("/", "[data-job]"), ("/rules", "h1"), ("/keeping", "h1")):
            self.open(path)
            self.until(lambda at=css: self.one(at), path)  # type: ignore[misc]

    def test_a_draft_that_is_half_written_is_put_aside(self) -> None:
        job_id = self.job(document())
        for text in ('{"base": 1, "plan": {"form', '{"base": 1, "plan": {"version": 7}}'):
            with self.subTest(text=text):
                self.driver.execute_script(
                    "localStorage.setItem(arguments[0], arguments[1])",
                    f"calm-basin.draft.{job_id}.elsewhere",
                    text,
                )
                self.driver.refresh()
                self.ready()
                told = self.until(
                    lambda: self.one('aside [role="status"]').text, "told that it was put aside"
                )
                self.assertIn("could not be read", told)
                self.saved()
                kept = self.driver.execute_script("return JSON.stringify(localStorage)")
                self.assertIn(f"calm-basin.aside.{job_id}", kept)
                self.assertNotIn(f"calm-basin.draft.{job_id}", kept)

    def test_a_draft_of_an_older_version_is_brought_up_to_date(self) -> None:
        job_id = self.job(document())
        head = self.server.call("GET", f"/jobs/{job_id}")
        plan = copy.deepcopy(head["plan"])
        plan["shower"]["drain"]["centre"] = NUDGED
        for name in ("waste", "services", "users", "transfer", "assumed", "setting_out"):
            del plan[name]
        plan |= {"version": 3, "laser": 900}
        draft = {"base": head["revision"], "plan": plan}
        self.driver.execute_script(
            "localStorage.setItem(arguments[0], JSON.stringify(arguments[1]))",
            f"calm-basin.draft.{job_id}",
            draft,
        )
        self.driver.refresh()
        self.ready()
        self.saved()
        stored = self.stored(job_id)
        self.assertEqual(stored["shower"]["drain"]["centre"], NUDGED)
        self.assertEqual(stored["setting_out"]["staff_on_high_spot"], 900)
        self.assertNotIn(
            "calm-basin.draft", self.driver.execute_script("return JSON.stringify(localStorage)")
        )

    def test_drafts_of_jobs_that_are_gone_for_good_go(self) -> None:
        job_id = self.job(document())
        self.driver.execute_script(f"""
            localStorage.setItem("calm-basin.draft.gone.w", "{{}}");
            localStorage.setItem("calm-basin.draft.{job_id}.w", "{{}}");
        """)
        self.server.call("DELETE", f"/jobs/{job_id}")
        self.open("/")
        keys = "return Object.keys(localStorage).filter((key) => key.includes('draft'))"
        kept = [f"calm-basin.draft.{job_id}.w"]
        self.until(
            lambda: self.driver.execute_script(keys) == kept, "only what can come back stays"
        )


class AnswersTest(KeepingCase):
    def test_a_save_whose_answer_was_lost_is_no_change_elsewhere(self) -> None:
        self.before_each_page(LOSING)
        job_id = self.job(document())
        self.nudge()
        self.until(lambda: self.state() == "offline", "told that nothing is known to be saved")
        self.assertEqual(self.drain(job_id), NUDGED)
        self.saved()
        self.assertEqual(self.drain(job_id), NUDGED)
        self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, "dialog"), [])
        # The same where more was typed before it is sent again.
        self.driver.execute_script("window.lose = 1")
        self.nudge()
        self.until(lambda: self.state() == "offline", "lost again")
        self.nudge()
        self.saved()
        self.assertEqual(self.drain(job_id), [747, 1350])
        self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, "dialog"), [])

    def test_undo_after_a_slow_save_undoes_and_redo_brings_back(self) -> None:
        job_id = self.job(document())
        self.driver.execute_script(HELD)
        self.nudge()
        self.until(lambda: self.state() == "saving", "on its way")
        self.click("Undo")
        self.driver.execute_script("window.freed()")
        self.saved()
        self.assertEqual(self.drain(job_id), [750, 1350])
        self.click("Redo")
        self.saved()
        self.assertEqual(self.drain(job_id), NUDGED)

    def test_edits_while_a_save_is_slow_are_all_kept_in_order(self) -> None:
        job_id = self.job(document())
        self.driver.execute_script(HELD)
        for _ in range(3):
            self.nudge()
            self.until(lambda: self.state() == "saving", "on its way")
            self.nudge()
            self.assertNotEqual(self.state(), "saved")
            self.driver.execute_script("window.onward()")
        self.driver.execute_script("window.freed()")
        self.saved()
        self.assertEqual(self.drain(job_id), [744, 1350])
        self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, "dialog"), [])

    def test_typed_back_while_nothing_answers_it_is_saved_again(self) -> None:
        self.job(document())
        self.server.kill()
        self.nudge()
        self.until(lambda: self.state() == "offline", "told that nothing is saved")
        self.nudge(Keys.ARROW_RIGHT)
        self.server.start()
        self.saved()
        drafts = "return Object.keys(localStorage).filter((key) => key.includes('draft'))"
        self.until(lambda: self.driver.execute_script(drafts) == [], "nothing is kept back")

    def waits(self, how: str, count: int) -> None:
        rows = f'[data-waits="{how}"]'
        self.until(
            lambda: len(self.driver.find_elements(By.CSS_SELECTOR, rows)) == count,
            f"{count} edits wait ({how})",
        )

    def type_unheard(self, label: str, text: str) -> None:
        """Type into a field while nothing answers."""
        self.field(label).send_keys(Keys.CONTROL, "a", Keys.NULL, text, Keys.ENTER)

    def test_what_is_typed_while_nothing_answers_outlives_the_step_and_is_sent(self) -> None:
        job_id = self.job(document())
        self.server.kill()
        self.type_unheard("Planned fall", "1:50")
        self.waits("yes", 1)
        self.step("room")
        self.type_unheard("Depth, bottom to top", "1.9 m")
        self.waits("yes", 2)
        self.type_unheard("Depth, bottom to top", "2 m")
        self.until(lambda: "2 m" in self.one('[data-waits="yes"]:last-child').text, "the last")
        self.waits("yes", 2)
        self.click("Add a door")
        self.waits("yes", 3)
        self.step("drain")
        self.assertEqual(self.field("Planned fall").get_attribute("value"), "1:50")
        self.assertEqual(self.state(), "offline")
        self.assertNotIn("Saved", self.one("header").text)
        self.server.start()
        self.saved()
        self.waits("yes", 0)
        plan = self.stored(job_id)
        self.assertAlmostEqual(plan["shower"]["fall"]["asked"], 1 / 50)
        self.assertEqual(max(y for _, y in plan["room"]["outline"]), 2000)
        self.assertEqual(len(plan["room"]["doors"]), len(document()["room"]["doors"]) + 1)

    def test_what_waits_is_sent_by_the_window_that_comes_after(self) -> None:
        job_id = self.job(document())
        self.server.kill()
        self.type_unheard("Planned fall", "1:50")
        self.waits("yes", 1)
        self.driver.get("about:blank")
        self.server.start()
        # Saved elsewhere meanwhile: what waits is no plan of its own and goes on top.
        head = self.server.call("GET", f"/jobs/{job_id}")
        head["plan"]["shower"]["set_down"] = 3
        self.server.call(
            "PUT", f"/jobs/{job_id}/plan", {"base": head["revision"], "plan": head["plan"]}
        )
        self.open(f"/jobs/{job_id}/drain")
        self.ready()
        self.saved()
        shower = self.stored(job_id)["shower"]
        self.assertAlmostEqual(shower["fall"]["asked"], 1 / 50)
        self.assertEqual(shower["set_down"], 3)
        drafts = "return Object.keys(localStorage).filter((key) => key.includes('draft'))"
        self.until(lambda: self.driver.execute_script(drafts) == [], "nothing is kept back")

    def test_what_waited_and_cannot_be_read_is_named_and_let_go(self) -> None:
        job_id = self.job(document())
        before = self.stored(job_id)
        self.server.kill()
        self.type_unheard("Planned fall", "steep")
        self.waits("yes", 1)
        self.server.start()
        self.waits("unread", 1)
        self.assertIn("steep", self.one('[data-waits="unread"]').text)
        self.saved()
        self.assertEqual(self.stored(job_id), before)
        self.click("Discard Planned fall: steep")
        self.waits("unread", 0)
        self.assertEqual(self.field("Planned fall").get_attribute("value"), "1:60")

    def test_undo_lets_go_of_what_waits_and_a_second_removal_is_refused(self) -> None:
        self.job(document() | {"version": 2}, "room")
        self.server.kill()
        self.one("[data-panel] details summary").click()
        self.click("Remove corner 1")
        self.waits("yes", 1)
        self.click("Remove corner 2")
        self.until(lambda: "Not done" in self.one("aside").text, "it counts on the first")
        self.waits("yes", 1)
        self.click("Undo")
        self.waits("yes", 0)
        self.server.start()
        self.saved()

    def test_a_plan_of_120_kb_left_in_the_middle_is_back(self) -> None:
        job_id = self.job(large())
        self.slow(1500)
        self.nudge()
        self.until(lambda: self.state() == "saving", "on its way")
        self.driver.get("about:blank")
        self.slow(0)
        self.open(f"/jobs/{job_id}/drain")
        self.ready()
        self.saved()
        self.assertEqual(self.drain(job_id), NUDGED)
        self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, "dialog"), [])

    def test_a_small_plan_is_saved_on_leaving(self) -> None:
        job_id = self.job(document())
        self.nudge()
        self.driver.get("about:blank")
        self.until(lambda: self.drain(job_id) == NUDGED, "the save that outlives its page")

    def test_a_double_press_makes_one_job(self) -> None:
        self.open("/")
        self.click("New job")
        self.until(lambda: self.one("dialog input"), "the dialog").send_keys("Weir Cottage")
        self.slow(500)
        start = self.button("Start")
        self.driver.execute_script("arguments[0].click(); arguments[0].click()", start)
        self.until(lambda: "/room" in self.driver.current_url, "the job is open")
        self.assertEqual(len(self.server.call("GET", "/jobs")["jobs"]), 1)

    def test_a_page_that_fails_is_not_blank(self) -> None:
        self.before_each_page("""
            const real = window.fetch;
            window.fetch = async (url, ...rest) => url.endsWith("/api/jobs")
              ? new Response('{"jobs": [{}]}') : real(url, ...rest);
        """)
        self.open("/")
        self.until(lambda: self.one("[data-broken]"), "told that it failed")
        self.assertIn("What was saved is safe", self.one("main").text)


class WindowsTest(KeepingCase):
    def second_window(self, path: str) -> tuple[str, str]:
        first = self.driver.current_window_handle
        self.driver.switch_to.new_window("window")
        second = self.driver.current_window_handle
        self.addCleanup(self.driver.switch_to.window, first)
        self.addCleanup(self.driver.close)
        self.addCleanup(self.driver.switch_to.window, second)
        self.size(1280, 800)
        self.open(path)
        self.ready()
        return first, second

    def test_deleted_in_another_window_it_can_be_kept_as_a_new_job(self) -> None:
        job_id = self.job(document())
        self.server.call("DELETE", f"/jobs/{job_id}")
        self.nudge()
        self.until(lambda: self.state() == "gone", "told that the job is gone")
        self.click("Save as a new job")
        self.until(lambda: job_id not in self.driver.current_url, "the new job is open")
        self.ready()
        self.saved()
        (made,) = self.server.call("GET", "/jobs")["jobs"]
        self.assertEqual(self.drain(made["id"]), NUDGED)

    def test_deleted_in_another_window_it_can_be_brought_back(self) -> None:
        job_id = self.job(document())
        self.server.call("DELETE", f"/jobs/{job_id}")
        self.nudge()
        self.click("Bring the job back")
        self.saved()
        self.assertEqual(self.drain(job_id), NUDGED)

    def test_two_windows_take_turns_and_neither_takes_the_others_draft(self) -> None:
        job_id = self.job(document())
        first, second = self.second_window(f"/jobs/{job_id}/drain")
        self.nudge()
        self.saved()
        self.driver.switch_to.window(first)
        # A window that comes to the front follows; one that was typed in asks.
        self.driver.execute_script("document.dispatchEvent(new Event('visibilitychange'))")
        self.saved()
        self.nudge()
        self.saved()
        self.assertEqual(self.drain(job_id), [748, 1350])
        self.driver.switch_to.window(second)
        self.nudge(Keys.ARROW_UP)
        self.until(lambda: self.state() == "conflict", "asked whose plan goes on top")
        self.click("Keep mine on top")
        self.saved()
        self.assertEqual(self.drain(job_id), [749, 1351])
        self.click("Undo")
        self.saved()
        self.assertEqual(self.drain(job_id), [748, 1350])


class StoreTest(KeepingCase):
    own_server = True

    def test_a_backup_is_restored_on_screen_and_taken_back(self) -> None:
        kept = self.job(document())
        self.server.kill()
        self.server.start()
        self.open("/keeping")
        self.until(lambda: "Copy of the day" in self.one("main").text, "the copy of the day")
        self.server.call("PUT", f"/jobs/{kept}/plan", self.moved(kept))
        self.click("Restore")
        self.until(lambda: self.one("dialog"), "asked")
        self.one("dialog .btn-info").click()
        self.until(lambda: "1 job with" in self.one("main").text, "it is back")
        self.assertEqual(self.drain(kept), [750, 1350])
        self.until(lambda: "Before a restore" in self.one("main").text, "what was there is kept")
        self.assertIn("Put back", self.one("main").text)
        # How a phone comes in, step by step, and what is still missing for it.
        self.assertIn("No passphrase is set yet", self.one("main").text)
        self.assertIn("calm-basin serve --host 0.0.0.0 --tls", self.one("main").text)

    def test_by_keyboard_a_job_is_brought_back_and_a_copy_put_back(self) -> None:
        kept = self.job(document())
        self.server.kill()
        self.server.start()
        self.server.call("DELETE", f"/jobs/{kept}")
        self.open("/")
        self.until(lambda: self.one("main h1"), "the jobs")
        self.tab_to("Backups")
        self.press(Keys.ENTER)
        self.until(lambda: "Bring it back" in self.one("main").text, "the deleted job")
        self.tab_to("Bring it back")
        self.press(Keys.ENTER)
        self.until(lambda: self.server.call("GET", "/jobs")["jobs"], "it is back")
        self.server.call("PUT", f"/jobs/{kept}/plan", self.moved(kept))
        self.driver.refresh()
        self.until(lambda: "Copy of the day" in self.one("main").text, "the copies")
        self.tab_to("Restore")
        # The first is the choice of a file; the one after the first copy's download puts it back.
        self.tab_to("Restore")
        self.press(Keys.ENTER)
        self.until(lambda: self.one("dialog[open]"), "asked")
        self.press(Keys.ESCAPE)
        self.until(
            lambda: not self.driver.find_elements(By.CSS_SELECTOR, "dialog"), "left as it is"
        )
        self.assertEqual(self.drain(kept), NUDGED)
        # The focus is back where it was.
        self.assertIn("Restore", self.driver.switch_to.active_element.text)
        self.press(Keys.ENTER)
        self.until(lambda: self.one("dialog[open]"), "asked again")
        self.one("dialog .btn-info").send_keys(Keys.ENTER)
        self.until(lambda: "1 job with" in self.one("main").text, "it is put back")
        self.assertEqual(self.drain(kept), [750, 1350])

    def moved(self, job_id: str) -> Document:
        head = self.server.call("GET", f"/jobs/{job_id}")
        plan = head["plan"]
        plan["shower"]["drain"]["centre"] = NUDGED
        return {"base": head["revision"], "plan": plan}

    def test_a_damaged_file_is_told_shown_and_put_back(self) -> None:
        job_id = self.job(document())
        self.server.kill()
        self.server.start()
        self.open("/keeping")
        self.until(lambda: "Copy of the day" in self.one("main").text, "the copy of the day")
        self.server.kill()
        for end in ("-wal", "-shm"):
            self.server.database.with_name(self.server.database.name + end).unlink(missing_ok=True)
        self.server.database.write_bytes(b"SQLite format 3\0" + b"\xff" * 5000)
        self.server.start()
        self.open("/")
        self.until(lambda: "Nothing can be saved now" in self.one("main").text, "told so")
        self.one('main a[href="/keeping"]').click()
        self.click("Restore")
        self.until(lambda: self.one("dialog"), "asked")
        self.one("dialog .btn-info").click()
        self.until(lambda: "1 job with" in self.one("main").text, "it is back")
        self.open(f"/jobs/{job_id}/drain")
        self.ready()
        self.nudge()
        self.saved()
        self.assertEqual(self.drain(job_id), NUDGED)


class DoorTest(KeepingCase):
    own_server = True

    def test_from_another_machine_one_signs_in_and_nothing_typed_is_lost(self) -> None:
        job_id = self.job(document())
        self.server.kill()
        with mock.patch.dict(os.environ, {"CALM_BASIN_PASSPHRASE": "four words not together"}):
            self.server.options = ("--host", "0.0.0.0")
            self.server.start()
        # The page that is open goes on: what is typed before one is in is saved afterwards.
        self.nudge()
        field = self.until(lambda: self.one('dialog input[type="password"]'), "asked to sign in")
        field.send_keys("not this one at all", Keys.ENTER)
        self.until(lambda: "not the passphrase" in self.one("dialog").text, "told that it is wrong")
        self.driver.find_element(By.XPATH, '//label[contains(., "Show what I type")]').click()
        self.assertEqual(field.get_attribute("type"), "text")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys("four words not together", Keys.ENTER)
        self.saved()
        self.open("/keeping")
        self.until(lambda: "this window" in self.one("main").text, "the session is listed")
        self.assertIn("Refused", self.one("main").text)
        self.click("Sign out")
        self.until(lambda: self.one('dialog input[type="password"]'), "out again")
        field = self.one('dialog input[type="password"]')
        field.send_keys("four words not together", Keys.ENTER)
        self.until(lambda: self.one(f'[data-job="{job_id}"]'), "in again")
        self.open(f"/jobs/{job_id}/drain")
        self.ready()
        self.assertEqual(self.one("[data-save]").get_attribute("data-save"), "saved")
