"""As built and hand over on the real interface: read, judged, put right, handed over."""

from __future__ import annotations

import io
import json
import tempfile
import time
import urllib.request
import zipfile
from pathlib import Path
from typing import Any

import numpy as np
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from calm_basin.core.as_built.judged import above
from calm_basin.core.falls import surface_of
from calm_basin.plan import plan_from
from tests.browser.case import PATIENCE
from tests.browser.test_log import LogCase
from tests.plans import channel, document, moved

PLAN = document(drain=channel(35, 1765, 1465, 1765), fall={"asked": 1 / 48})


class BuiltTest(LogCase):
    def levels(self, job_id: str, tilt: float) -> None:
        """Readings of the bed as it was made, put into the log."""
        plan = plan_from(PLAN)
        surface = surface_of(plan)
        xs, ys = np.meshgrid(np.linspace(150, 1350, 4), np.linspace(950, 1650, 3))
        places = [(750.0, 1765.0), *zip(xs.ravel(), ys.ravel(), strict=True)]
        rows = []
        for x, y in places:
            planned = float(surface.heights(np.array([[x, y]]))[0]) - above(plan, "bed")
            # The drain lies where it was planned; the bed falls less and less towards the entry.
            rows.append(f"{x:.1f} {y:.1f} {planned - tilt * (1765 - y):.2f}")
        entry = {
            "id": "levels-00001",
            "kind": "levels",
            "by": "AB",
            "at": "2026-12-07T09:30",
            "fields": {"layer": "bed", "readings": "\n".join(rows)},
        }
        self.server.call("POST", f"/jobs/{job_id}/log", entry)

    def touch(self, dx: int, dy: int) -> None:
        chart = self.one("[data-zoom]")
        ActionChains(self.driver).move_to_element_with_offset(chart, dx, dy).click().perform()

    def test_readings_are_taken_on_the_chart_kept_and_judged(self) -> None:
        job_id = self.job(PLAN, "as-built")
        self.until(lambda: self.one('[data-built="none"]'), "nothing is read")
        self.put("Staff or line at finished entry level", "1240")
        self.click("Take it")
        self.until(lambda: "Touch the chart" in self.one("aside").text, "what is missing")
        self.touch(20, 10)
        self.put("Reading there", "deep")
        self.click("Take it")
        self.until(lambda: "deep" in self.one('aside [role="alert"]').text, "it is named")
        for n, (dx, dy) in enumerate(((20, 10), (-90, 30), (60, -40))):
            self.touch(dx, dy)
            self.put("Reading there", f"125{n}")
            self.press(Keys.ENTER)
            self.until(lambda n=n: self.one(f'[data-draft="125{n}"]'), "it is on the chart")  # type: ignore[misc]
        # Nothing that was read is lost with the window.
        self.open(f"/jobs/{job_id}/as-built")
        self.ready()
        self.until(lambda: self.one('[data-draft="1251"]'), "it is kept")
        self.put("Staff or line at finished entry level", "1240")
        self.put("By", "AB")
        self.click("Write 3 readings into the log")
        self.until(lambda: len(self.log(job_id)) == 1, "they are in the log")
        self.until(
            lambda: len(self.driver.find_elements(By.CSS_SELECTOR, "[data-reading]")) == 3,
            "and on the chart",
        )
        (entry,) = self.log(job_id)
        heights = [1240 - read for _, _, read in entry["values"]["readings"]]
        self.assertEqual(heights, [-10, -11, -12])

    def test_a_reading_is_taken_and_written_without_a_mouse_in_inches(self) -> None:
        turned = moved(PLAN, turn=37.3, mirror=True)
        job_id = self.job(turned | {"display": {"length": "in", "fraction": 16}}, "as-built")
        for label, text in (("From wall 4", "30"), ("From wall 1", "47 1/2")):
            self.tab_to(label)
            self.chord(Keys.CONTROL, "a")
            self.press(text, Keys.ENTER)
            self.until(
                lambda label=label: self.field(label).get_attribute("value"), "half its place"
            )
        self.tab_to("Reading there")
        self.press("-1 3/8", Keys.ENTER)
        self.until(lambda: self.one('[data-draft="-1 3/8"]'), "it is on the chart")
        self.tab_to("By")
        self.press("AB")
        self.tab_to("Write 1 reading into the log")
        self.press(Keys.ENTER)
        self.until(lambda: len(self.log(job_id)) == 1, "it is in the log")
        ((x, y, height),) = self.log(job_id)[0]["values"]["readings"]
        # The place is so far from both walls, by the plain distance to their lines.
        a, b, *_, d = (np.array(corner) for corner in turned["room"]["outline"])
        place = np.array([x, y])
        for far, start, end in ((30, d, a), (47.5, a, b)):
            across = np.linalg.det([end - start, place - start]) / np.hypot(*(end - start))
            self.assertAlmostEqual(abs(float(across)), far * 25.4, delta=0.1)
        self.assertAlmostEqual(height, -1.375 * 25.4, delta=1e-6)

    def test_a_floor_that_is_out_is_put_right_with_the_least_work(self) -> None:
        job_id = self.job(PLAN, "as-built")
        self.levels(job_id, 0.008)
        self.open(f"/jobs/{job_id}/as-built")
        self.ready()
        self.until(lambda: self.one('[data-built="fails"]'), "it is out")
        self.until(lambda: self.one('[data-plane="fails"]'), "its plane")
        work = self.until(lambda: self.one('[data-work="true"]'), "what brings it back")
        self.assertIn("Fill", work.text)
        self.click("Show the floor put right")
        self.until(lambda: self.one('[data-built-marks="after"]'), "it is drawn")
        self.until(lambda: self.one('input[aria-label="Planned"]'), "the others").click()
        self.until(
            lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[data-built-marks]"),
            "the plan as it was",
        )


class HandOverTest(LogCase):
    def fetched(self, path: str) -> bytes:
        address = f"http://127.0.0.1:{self.server.port}/api{path}"
        with urllib.request.urlopen(address, timeout=60) as answer:
            data: bytes = answer.read()
        return data

    def test_hold_points_are_signed_and_the_record_is_made_on_a_phone(self) -> None:
        self.size(390, 844)
        job_id = self.job(PLAN, "hand-over")
        first = self.until(lambda: self.one('[data-hold="open"]'), "what is open")
        name = first.text.split("\n")[0]
        count = len(self.driver.find_elements(By.CSS_SELECTOR, '[data-hold="open"]'))
        self.open(f"/jobs/{job_id}/log")
        self.until(lambda: self.one("section[data-panel] select"), "the form")
        self.kind("Hold point")
        self.put("Hold point", name)
        self.put("By", "RT")
        self.add()
        self.until(lambda: len(self.log(job_id)) == 1, "it is signed")
        self.open(f"/jobs/{job_id}/hand-over")
        self.until(lambda: self.one('[data-hold="signed"]'), "and shown")
        left = len(self.driver.find_elements(By.CSS_SELECTOR, '[data-hold="open"]'))
        self.assertEqual(left, count - 1)
        with tempfile.TemporaryDirectory() as folder:
            self.emulate(
                "Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": folder}
            )
            button = self.button("With photos and log")
            self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
            self.until(lambda: button.is_enabled(), "it can be made")
            button.click()
            file = self.downloaded(Path(folder))
            with zipfile.ZipFile(io.BytesIO(file.read_bytes())) as packed:
                job = json.loads(packed.read("job.json"))
            # Brought in again it is a job of its own, with its log.
            self.open("/")
            self.until(lambda: self.one('input[accept*=".zip"]'), "the list").send_keys(str(file))
            self.until(lambda: "/jobs/" in self.driver.current_url, "it opens")
            other = self.driver.current_url.split("/jobs/")[1].split("/")[0]
        self.assertEqual([one["body"]["by"] for one in job["log"]], ["RT"])
        self.assertNotEqual(other, job_id)
        self.assertEqual([one["by"] for one in self.log(other)], ["RT"])

    def downloaded(self, folder: Path) -> Path:
        end = time.monotonic() + PATIENCE
        while time.monotonic() < end:
            # A zip ends with the list of its files: until then it is on its way.
            found = [file for file in folder.glob("*.zip") if zipfile.is_zipfile(file)]
            if found:
                return found[0]
            time.sleep(0.05)
        raise AssertionError("nothing was downloaded")


class MeterTest(LogCase):
    def test_a_stand_in_meter_fills_a_field_in(self) -> None:
        self.begin()
        self.kind("Cable")
        self.click("Read Before laying with the stand-in meter")
        self.until(lambda: "Fill in what it should be" in self.one("aside").text, "what is missing")
        self.put("By its label, Ω", "52")
        self.click("Read Before laying with the stand-in meter")
        read: Any = self.until(
            lambda: self.field("Before laying, Ω").get_attribute("value"), "read"
        )
        self.assertAlmostEqual(float(read), 52, delta=1)
