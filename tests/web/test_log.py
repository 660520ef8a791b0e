"""The site log over HTTP: entries with their verdicts, once each, and what cannot be read."""

import csv
import hashlib
import io
import json
import sqlite3
from contextlib import closing
from typing import Any

from PIL import Image

from calm_basin.store import photos
from tests.pictures import GPS, picture
from tests.plans import Document, document
from tests.web.test_api import ApiCase

FLOOD = {"closed_by": "plug", "hours": "24", "first": "40", "last": "39"}


class LogCase(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.job = self.made(document())["job_id"]
        self.url = f"/api/jobs/{self.job}/log"

    def broken(self, how: str = "") -> list[str]:
        told: list[str] = self.client.get(f"{self.url}/check{how}").get_json()["broken"]
        return told

    def entry(self, kind: str, entry_id: str = "entry-0001", **fields: str) -> Document:
        return {
            "id": entry_id,
            "kind": kind,
            "by": "AB",
            "at": "2026-12-07T09:30",
            "fields": fields,
        }


class LogTest(LogCase):
    def test_an_entry_is_judged_kept_and_told(self) -> None:
        response = self.client.post(self.url, json=self.entry("flood", **FLOOD))
        self.assertEqual(response.status_code, 201)
        made = response.get_json()
        self.assertEqual((made["number"], made["verdict"]["state"]), (1, "holds"))
        self.assertIn(["Stood", "24 h"], made["lines"])
        again = self.client.post(self.url, json=self.entry("flood", **FLOOD)).get_json()
        self.assertEqual(again, made)
        shown = self.client.get(self.url).get_json()
        self.assertEqual(shown["entries"], [made])
        self.assertEqual(len(shown["last"]), 64)
        self.assertEqual(self.broken(), [])
        table = self.client.get(f"{self.url}.csv").get_data(as_text=True)
        (row,) = csv.DictReader(io.StringIO(table))
        self.assertEqual((row["by"], row["verdict"]), ("AB", made["verdict"]["text"]))
        self.assertIn("Height at the drain, first: 40 mm", row["what"])

    def test_a_correction_names_an_entry_that_is_there_and_nothing_is_overwritten(self) -> None:
        self.client.post(self.url, json=self.entry("note", note="dry"))
        wrong = self.entry("correction", "entry-0002", entry="7", right="wet")
        answer = self.problem(self.client.post(self.url, json=wrong), 422)
        self.assertEqual(answer["errors"][0]["path"], "/fields/entry")
        right = self.entry("correction", "entry-0002", entry="1", right="wet")
        self.assertEqual(self.client.post(self.url, json=right).status_code, 201)
        texts = [entry["lines"] for entry in self.client.get(self.url).get_json()["entries"]]
        self.assertEqual(texts[0], [["Note", "dry"]])
        self.assertEqual(texts[1][0], ["Entry", "1"])

    def test_what_cannot_be_read_is_named_and_nothing_is_kept(self) -> None:
        whole = self.entry("flood", **FLOOD)
        for change, path in (
            ({"kind": "spell"}, "/kind"),
            ({"by": " "}, "/by"),
            ({"at": "yesterday"}, "/at"),
            ({"id": "x"}, "/id"),
            ({"fields": FLOOD | {"hours": "-1"}}, "/fields/hours"),
            ({"fields": FLOOD | {"first": "deep"}}, "/fields/first"),
            ({"fields": {"hours": 3}}, "/fields/closed_by"),
        ):
            with self.subTest(change):
                answer = self.problem(self.client.post(self.url, json=whole | change), 422)
                self.assertEqual(answer["errors"][0]["path"], path)
        self.assertEqual(self.client.get(self.url).get_json()["entries"], [])
        self.problem(self.client.get("/api/jobs/none/log"), 404)
        self.problem(self.client.post("/api/jobs/none/log", json=whole), 404)

    def test_what_somebody_changed_in_the_file_is_told(self) -> None:
        for i in range(3):
            self.client.post(self.url, json=self.entry("note", f"entry-{i:04}", note="dry"))
        with closing(sqlite3.connect(self.path)) as db:
            db.execute("DROP TRIGGER log_entry_stays")
            db.execute("UPDATE log_entry SET body = replace(body, 'dry', 'wet') WHERE number = 2")
            db.commit()
        self.assertEqual(self.broken(), ["Entry 2 was changed after it was written."])
        self.assertEqual(len(self.client.get(self.url).get_json()["entries"]), 3)

    def test_an_entry_of_somebody_elses_file_that_says_nothing_sound_hides_no_other(self) -> None:
        self.client.post(self.url, json=self.entry("note", "entry-0001", note="dry"))
        self.client.post(self.url, json=self.entry("note", "entry-0002", note="wet"))
        job = json.loads(self.client.get(f"{self.url[:-4]}/job-file").get_data())
        for body in (
            {},
            {"kind": 5, "lines": 3, "verdict": None, "photo": {"hash": 1}},
            {"kind": "levels", "values": {"readings": 3}, "photo": {"hash": "../../jobs"}},
            {"title": ["x"], "lines": [["a"], ["b", "c"], 7], "verdict": {"state": "fine"}},
        ):
            with self.subTest(body=body):
                job["log"][0]["body"] = body
                made = self.client.post("/api/jobs/import", data=json.dumps(job)).get_json()
                url = f"/api/jobs/{made['job_id']}"
                spoiled, sound = self.client.get(f"{url}/log").get_json()["entries"]
                self.assertEqual(spoiled["title"], "Entry that cannot be read")
                self.assertEqual(sound["lines"], [["Note", "wet"]])
                broken = self.client.get(f"{url}/log/check").get_json()["broken"]
                self.assertIn("Entry 1 was changed after it was written.", broken)
                for address in ("as-built", "hand-over", "log.csv", "record.pdf", "record.zip"):
                    with self.client.get(f"{url}/{address}") as answer:
                        self.assertEqual(answer.status_code, 200, address)

    def test_the_forms_are_listed(self) -> None:
        forms = self.client.get("/api/log-forms").get_json()["forms"]
        self.assertGreater(len(forms), 10)
        for form in forms:
            self.assertTrue(form["title"] and form["fields"])


class PhotoTest(LogCase):
    def send(
        self, data: bytes, entry_id: str = "photo-0001", location: bool = False, **fields: str
    ) -> Any:
        entry = self.entry("photo", entry_id, **{"shows": "riser in its hole"} | fields)
        form: dict[str, Any] = {"entry": json.dumps(entry), "photo": (io.BytesIO(data), "a.jpg")}
        if location:
            form["location"] = "yes"
        return self.client.post(f"{self.url}/photos", data=form)

    def test_a_photo_is_kept_shown_and_told_once(self) -> None:
        data = picture(size=(2400, 1800), quality=5)
        made = self.send(data, place="400 250").get_json()
        self.assertEqual(made["photo"]["taken"], "2026-12-07T09:41")
        self.assertEqual((made["photo"]["width"], made["photo"]["located"]), (2400, False))
        self.assertIn(["Taken at", "250 from wall 1, 400 from wall 4"], made["lines"])
        again = self.send(data, place="400 250").get_json()
        self.assertEqual(again, made)
        address = f"{self.url}/photos/{made['photo']['hash']}"
        whole = self.client.get(address)
        self.assertEqual((whole.status_code, whole.mimetype), (200, "image/jpeg"))
        self.assertEqual(hashlib.sha256(whole.data).hexdigest(), made["photo"]["hash"])
        screen = self.client.get(f"{address}?screen")
        self.assertEqual(Image.open(io.BytesIO(screen.data)).size, (1600, 1200))
        # A copy that came without its small one makes it anew.
        photos.file_of(self.path, made["photo"]["hash"], screen=True).unlink()
        self.assertEqual(self.client.get(f"{address}?screen").data, screen.data)
        for response in (whole, screen):
            response.close()

    def test_before_and_after_name_each_other(self) -> None:
        self.send(picture(seed=1))
        after = self.send(picture(seed=2), "photo-0002", before="1").get_json()
        self.assertEqual(after["values"]["before"], 1)
        self.client.post(self.url, json=self.entry("note", "entry-0003", note="dry"))
        for number in ("3", "9"):
            answer = self.problem(self.send(picture(), "photo-0004", before=number), 422)
            self.assertEqual(answer["errors"][0]["path"], "/fields/before")

    def test_what_is_no_picture_is_refused_and_nothing_is_kept(self) -> None:
        for data in (b"", b"GIF89a", b"\0\0\0\x18ftypheic" + b"\0" * 90, picture()[:900]):
            answer = self.problem(self.send(data), 422)
            self.assertEqual(answer["errors"][0]["path"], "/fields/photo")
        self.problem(self.client.post(f"{self.url}/photos", data={"entry": "{"}), 422)
        self.problem(self.client.post(self.url, json=self.entry("photo", shows="x")), 422)
        self.problem(self.send(picture(), place="here"), 422)
        self.assertEqual(self.client.get(self.url).get_json()["entries"], [])
        photos.clear(self.path)
        self.assertEqual(list(photos.photos_of(self.path).glob("??/*")), [])

    def test_one_that_was_changed_or_is_gone_is_told(self) -> None:
        made = self.send(picture()).get_json()
        file = photos.file_of(self.path, made["photo"]["hash"])
        data = bytearray(file.read_bytes())
        data[-9] ^= 1
        file.write_bytes(data)
        self.assertEqual(self.broken(), [])
        self.assertEqual(self.broken("?whole"), ["Entry 1 has a photo that was changed."])
        file.unlink()
        self.assertEqual(self.broken(), ["Entry 1 has a photo that is gone."])
        self.problem(self.client.get(f"{self.url}/photos/{made['photo']['hash']}"), 404)
        self.problem(self.client.get(f"{self.url}/photos/{'0' * 64}"), 404)

    def test_the_place_on_earth_is_kept_only_where_it_is_asked(self) -> None:
        for located in (False, True):
            made = self.send(picture(seed=3), f"photo-{located}", located).get_json()
            self.assertEqual(made["photo"]["located"], located)
            data = photos.file_of(self.path, made["photo"]["hash"]).read_bytes()
            gps = Image.open(io.BytesIO(data)).getexif().get_ifd(GPS)
            self.assertEqual(bool(gps), located)
