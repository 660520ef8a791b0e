"""As built, hand over and the instruments over HTTP."""

import io
import json
import tempfile
import zipfile
from datetime import datetime
from pathlib import Path
from typing import Any

import pypdf
from click.testing import CliRunner

from calm_basin.cli import main
from calm_basin.devices.clock import SimulatedClock, SystemClock
from calm_basin.devices.instrument import simulated
from tests.pictures import picture
from tests.web.test_log import LogCase

READ = "\n".join(
    f"{x} {y} {9 + 2 * (x > 700)}" for x in (200, 700, 1200) for y in (1000, 1300, 1700)
)


class ProvingTest(LogCase):
    def setUp(self) -> None:
        super().setUp()
        self.base = f"/api/jobs/{self.job}"

    def write(self, kind: str, entry_id: str, **fields: str) -> Any:
        response = self.client.post(self.url, json=self.entry(kind, entry_id, **fields))
        self.assertEqual(response.status_code, 201, response.get_data(as_text=True))
        return response.get_json()

    def built(self, query: str = "layer=tile") -> Any:
        response = self.client.get(f"{self.base}/as-built?{query}")
        self.assertEqual(response.status_code, 200)
        return response.get_json()

    def test_levels_are_judged_by_layer_and_the_newest_alone_where_that_is_asked(self) -> None:
        self.assertIsNone(self.built()["state"])
        made = self.write("levels", "levels-0001", layer="tile", zero="0", readings=READ)
        self.assertIn(made["verdict"]["state"], ("fails", "open"))
        self.write("levels", "levels-0002", layer="tile", zero="0", readings="750 1350 13")
        self.assertEqual(len(self.built()["readings"]), 10)
        self.assertEqual(len(self.built("layer=tile&newest")["readings"]), 1)
        self.assertEqual(self.built("layer=bed")["readings"], [])
        self.write("correction", "entry-0003", entry="1", right="read on the wrong floor")
        self.assertEqual(len(self.built()["readings"]), 1)
        self.problem(self.client.get(f"{self.base}/as-built?layer=roof"), 422)
        self.problem(self.client.get("/api/jobs/none/as-built"), 404)

    def test_readings_that_cannot_be_read_are_named(self) -> None:
        for text, said in (
            ("200 300 deep", "reading 1"),
            ("200 300 4\n200", "reading 2"),
            ("a b 4", "reading 1"),
            ("nan 1 4", ""),
        ):
            entry = self.entry("levels", "levels-0001", layer="tile", readings=text)
            answer = self.problem(self.client.post(self.url, json=entry), 422)
            self.assertTrue(answer["errors"][0]["path"].startswith("/fields/readings"), answer)
            self.assertIn(said, answer["errors"][0]["message"])

    def test_the_record_is_read_back_and_checked_without_the_server(self) -> None:
        self.write("flood", "flood-00001", closed_by="plug", hours="24", first="40", last="39")
        entry = self.entry("photo", "photo-00001", shows="bands")
        form = {"entry": json.dumps(entry), "photo": (io.BytesIO(picture()), "a.jpg")}
        self.client.post(f"{self.url}/photos", data=form)
        told = self.client.get(f"{self.base}/hand-over").get_json()
        self.assertTrue(told["open"])
        made = self.client.get(f"{self.base}/record.pdf?paper=letter")
        self.assertEqual((made.status_code, made.mimetype), (200, "application/pdf"))
        pages = pypdf.PdfReader(io.BytesIO(made.data)).pages
        self.assertIn("Record of the work", "".join(page.extract_text() for page in pages))
        self.problem(self.client.get(f"{self.base}/record.pdf?paper=napkin"), 422)
        packed = self.client.get(f"{self.base}/record.zip")
        names = set(zipfile.ZipFile(io.BytesIO(packed.data)).namelist())
        self.assertLessEqual({"job.json", "record.pdf", "log.csv", "plan.json", "sums.json"}, names)
        seal = self.client.get(self.url).get_json()["last"][:12]
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "record.zip"
            file.write_bytes(packed.data)
            good = CliRunner().invoke(main, ["verify", str(file), "--seal", seal])
            self.assertEqual(good.exit_code, 0, good.output)
            self.assertIn("2 entries, 1 photo, none changed", good.output)
        packed.close()
        # And brought in again, here or elsewhere, it is the same job with its log and its photo.
        new = self.client.post("/api/jobs/import/record", data=packed.data)
        self.assertEqual(new.status_code, 201, new.get_data(as_text=True))
        check = self.client.get(f"/api/jobs/{new.get_json()['job_id']}/log/check?whole")
        self.assertEqual(check.get_json()["broken"], [])

    def test_a_zip_that_is_no_record_is_refused(self) -> None:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as made:
            made.writestr("holiday.txt", "x")
        answer = self.problem(self.client.post("/api/jobs/import/record", data=out.getvalue()), 422)
        self.assertIn("holds no job.json", answer["detail"])
        self.problem(self.client.post("/api/jobs/import/record", data=b"PK\x03\x04 broken"), 422)


class DeviceTest(LogCase):
    def read(self, name: str, near: str, **display: str) -> Any:
        body = {"near": near, "display": display}
        return self.client.post(f"/api/devices/{name}/read", json=body)

    def test_each_stand_in_reads_near_what_is_expected_and_says_that_it_is_one(self) -> None:
        for name, near, to in (
            ("distance", "900", 4),
            ("moisture", "8,5", 2),
            ("resistance", "40", 1),
        ):
            found = self.read(name, near).get_json()
            self.assertTrue(found["simulated"])
            expected = float(near.replace(",", "."))
            self.assertAlmostEqual(found["value"], expected, delta=to)
        inches = self.read("distance", "3'", length="in", fraction=16).get_json()
        self.assertTrue(inches["text"].endswith('"'), inches)
        self.problem(self.read("distance", "far"), 422)
        self.problem(self.read("resistance", ""), 422)
        self.problem(self.read("resistance", "1e99"), 422)
        self.problem(self.read("spirit", "1"), 404)

    def test_their_errors_are_as_large_as_they_say(self) -> None:
        for name, near in (("distance", 1200.0), ("moisture", 9.0), ("resistance", 52.0)):
            instrument = simulated()[name]
            reads = [instrument.read(near) for _ in range(400)]
            within = sum(abs(one.value - near) <= one.to + 0.26 for one in reads) / len(reads)
            self.assertGreater(within, 0.9, name)
            self.assertGreater(len({one.value for one in reads}), 5, name)

    def test_the_clock_of_the_site_may_run_faster(self) -> None:
        told = self.client.get("/api/devices/clock").get_json()
        self.assertFalse(told["simulated"])
        here = SystemClock().now()
        self.assertLess(abs((datetime.fromisoformat(told["now"]) - here).total_seconds()), 60)
        start = datetime(2026, 12, 7, 8, 0)
        clock = SimulatedClock(start, 1e6)
        self.assertGreater(clock.now(), start)
