"""The site log on the real interface: written with one thumb, without a connection, and once."""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Any, ClassVar

from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.case import BrowserCase
from tests.pictures import picture
from tests.plans import document
from tests.sweeps import some


class LogCase(BrowserCase):
    def begin(self) -> str:
        job_id = self.job(document(), "log")
        self.ready()
        self.until(lambda: self.one("section[data-panel] select"), "the form")
        self.put("By", "AB")
        return job_id

    def kind(self, name: str) -> None:
        self.one("section[data-panel] select").send_keys(name)
        self.until(
            lambda: self.driver.execute_script(
                "const s = document.querySelector('section[data-panel] select');"
                "return s.options[s.selectedIndex].text.startsWith(arguments[0])",
                name,
            ),
            name,
        )

    def put(self, label: str, text: str) -> None:
        by = f'//*[@id=//label[normalize-space(.)="{label}"]/@for]'
        field = self.until(lambda: self.driver.find_element(By.XPATH, by), label)
        field.send_keys(Keys.CONTROL, "a", Keys.NULL, text)

    def add(self) -> None:
        # On a phone the bar of the phases lies over the foot of the page.
        button = self.button("Add to the log")
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
        button.click()

    def log(self, job_id: str) -> list[Any]:
        found: list[Any] = self.server.call("GET", f"/jobs/{job_id}/log")["entries"]
        return found

    def note(self, text: str) -> None:
        self.put("Note", text)
        self.add()

    def chosen(self, data: bytes) -> None:
        """Choose a file with this in it."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        file = Path(folder.name) / "taken.jpg"
        file.write_bytes(data)
        self.one('input[type="file"][accept*="image/webp"]').send_keys(str(file))

    def photo(self, shows: str, seed: int = 1) -> None:
        """Choose a picture and say what it shows."""
        self.chosen(picture(size=(640, 480), seed=seed))
        self.until(lambda: self.one('img[alt="What was chosen"]'), "it is shown")
        self.put("It shows", shows)

    def network(self, *, there: bool) -> None:
        self.emulate("Network.enable", {})
        self.emulate(
            "Network.emulateNetworkConditions",
            {
                "offline": not there,
                "latency": 0,
                "downloadThroughput": -1,
                "uploadThroughput": -1,
            },
        )


class LogTest(LogCase):
    def test_a_flood_test_is_written_judged_and_corrected_on_a_phone(self) -> None:
        self.size(390, 844)
        job_id = self.begin()
        self.kind("Flood test")
        self.add()
        self.until(lambda: "Stood: fill it in." in self.one("aside").text, "what is missing")
        self.put("Stood, h", "24")
        self.put("Height at the drain, first", "deep")
        self.put("Height at the drain, last", "40")
        self.add()
        self.until(lambda: "Height at the drain, first:" in self.one("aside").text, "its field")
        self.assertEqual(self.log(job_id), [])
        self.put("Height at the drain, first", "40")
        self.add()
        entry = self.until(lambda: self.one('[data-entry="1"][data-verdict="holds"]'), "judged")
        self.assertIn("by its mark alone", entry.text)
        self.kind("Correction")
        self.put("Entry", "1")
        self.put("What is right", "it stood 20 h")
        self.add()
        self.until(
            lambda: "Corrected by entry 2" in self.one('[data-entry="1"]').text, "both stand"
        )
        self.until(lambda: self.one('[data-whole="2"]'), "the chain is whole")

    def test_what_is_written_without_a_connection_arrives_in_order_and_once(self) -> None:
        job_id = self.begin()
        self.kind("Note")
        count = some(12)
        self.network(there=False)
        for i in range(count):
            self.note(f"note {i}")
            waiting = f'[data-waiting="{i + 1}"]'
            self.until(lambda w=waiting: self.one(w), "it waits")  # type: ignore[misc]
        # Somebody else writes meanwhile, and this window is gone before there is a connection.
        other = {
            "id": "other-0001",
            "kind": "note",
            "by": "CD",
            "at": "2026-12-07T09:30",
            "fields": {"note": "other"},
        }
        self.server.call("POST", f"/jobs/{job_id}/log", other)
        self.driver.get("about:blank")
        self.network(there=True)
        self.open(f"/jobs/{job_id}/log")
        self.until(lambda: len(self.log(job_id)) == count + 1, "all of it arrives")
        texts = [entry["lines"][0][1] for entry in self.log(job_id)]
        self.assertEqual(texts, ["other", *(f"note {i}" for i in range(count))])
        self.until(
            lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[data-waiting]"), "none waits"
        )
        self.until(lambda: self.one(f'[data-whole="{count + 1}"]'), "the chain is whole")

    def test_what_waited_and_cannot_be_read_is_kept_until_it_is_let_go(self) -> None:
        job_id = self.begin()
        self.kind("Fall checked")
        self.network(there=False)
        self.put("Where", "entry plane")
        self.put("Run", "far")
        self.put("It falls", "20")
        self.add()
        self.until(lambda: self.one('[data-waiting="1"]'), "it waits")
        self.network(there=True)
        refused = self.until(lambda: self.one("[data-refused]"), "it is told")
        self.assertIn("Run:", refused.text)
        self.assertIn("entry plane · far · 20", refused.text)
        self.assertEqual(self.log(job_id), [])
        self.kind("Note")
        self.note("the others go on")
        self.until(lambda: len(self.log(job_id)) == 1, "what follows is written")
        self.click("Let it go")
        self.until(
            lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[data-refused]"), "let go"
        )


class PhotoTest(LogCase):
    def test_a_photo_is_marked_on_the_chart_and_shown_before_and_after(self) -> None:
        job_id = self.begin()
        self.kind("Photo")
        self.add()
        self.until(lambda: "Choose a picture." in self.one("aside").text, "what is missing")
        self.photo("riser in its hole")
        chart = self.one("[data-zoom]")
        ActionChains(self.driver).move_to_element_with_offset(chart, 40, 30).click().perform()
        self.until(lambda: "Marked on the chart" in self.one("aside").text, "its place")
        self.add()
        entry = self.until(lambda: self.one('[data-entry="1"] figure img'), "it is in the log")
        self.until(
            lambda: self.driver.execute_script("return arguments[0].naturalWidth", entry) == 640,
            "it is shown",
        )
        self.until(lambda: self.one('[data-photo="1"]'), "and on the chart")
        (kept,) = self.log(job_id)
        self.assertFalse(kept["photo"]["located"])
        self.photo("the same, sealed", seed=2)
        self.put("The same before, entry (if any)", "1")
        self.add()
        self.until(lambda: len(self.log(job_id)) == 2, "the second is kept")
        shown = self.until(
            lambda: self.driver.find_elements(By.CSS_SELECTOR, '[data-entry="2"] figure'),
            "side by side",
        )
        self.assertEqual(len(shown), 2)
        self.assertIn("Before, entry 1", shown[0].text)

    def test_one_that_cannot_be_read_is_named_at_its_field(self) -> None:
        job_id = self.begin()
        self.kind("Photo")
        self.chosen(b"\0\0\0\x18ftypheic" + b"\0" * 99)
        self.put("It shows", "x")
        self.add()
        self.until(lambda: "Set the camera to JPEG" in self.one("aside").text, "the cure")
        self.assertEqual(self.log(job_id), [])
        self.assertEqual(self.one('[id][maxlength="40"]').get_attribute("value"), "AB")


class OfflineTest(LogCase):
    own_server: ClassVar[bool] = True

    def test_the_page_opens_without_a_network_and_what_is_written_arrives_once(self) -> None:
        job_id = self.begin()
        self.kind("Note")
        self.note("first")
        self.until(lambda: len(self.log(job_id)) == 1, "there is a connection")
        # Everything that the page needs to open is in the browser.
        self.driver.execute_async_script(
            "navigator.serviceWorker.ready.then(arguments[arguments.length - 1])"
        )
        self.until(
            lambda: self.driver.execute_async_script(
                "const done = arguments[0];"
                "const asked = indexedDB.open('calm-basin'); asked.onsuccess = () => {"
                "  const all = asked.result.transaction('last').objectStore('last').getAllKeys();"
                "  all.onsuccess = () => { asked.result.close();"
                "    done(all.result.some((key) => key.startsWith('answer'))); };"
                "}"
            ),
            "the answer is kept",
        )
        self.server.kill()
        self.driver.get("about:blank")
        self.open(f"/jobs/{job_id}/log")
        self.seen("[data-zoom] path", "the drawings stand as they were")
        self.until(lambda: self.one('[data-entry="1"]'), "the log as it was")
        self.put("By", "AB")
        self.kind("Photo")
        self.photo("under the boards")
        self.add()
        self.until(lambda: self.one('[data-waiting="1"]'), "it waits with its picture")
        self.kind("Note")
        self.note("then this")
        self.until(lambda: self.one('[data-waiting="2"]'), "and this behind it")
        # The window is gone, and opened anew: still without a network.
        self.driver.get("about:blank")
        self.open(f"/jobs/{job_id}/log")
        self.until(lambda: self.one('[data-waiting="2"]'), "both still wait")
        self.server.start()
        self.until(lambda: len(self.log(job_id)) == 3, "both arrive")
        kinds = [entry["kind"] for entry in self.log(job_id)]
        self.assertEqual(kinds, ["note", "photo", "note"])
        self.until(
            lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[data-waiting]"), "none waits"
        )
        self.until(lambda: self.one('[data-whole="3"]'), "the chain is whole")
        shown = self.one('[data-entry="2"] figure img')
        self.until(
            lambda: self.driver.execute_script("return arguments[0].naturalWidth", shown) == 640,
            "with its picture",
        )
