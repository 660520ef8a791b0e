"""The site log over HTTP: entries with their verdicts, once each, and what cannot be read."""

import csv
import io
import sqlite3
from contextlib import closing

from tests.plans import Document, document
from tests.web.test_api import ApiCase

FLOOD = {"closed_by": "plug", "hours": "24", "first": "40", "last": "39"}


class LogTest(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.job = self.made(document())["job_id"]
        self.url = f"/api/jobs/{self.job}/log"

    def entry(self, kind: str, entry_id: str = "entry-0001", **fields: str) -> Document:
        return {
            "id": entry_id,
            "kind": kind,
            "by": "AB",
            "at": "2026-12-07T09:30",
            "fields": fields,
        }

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
        self.assertEqual((shown["broken"], len(shown["last"])), ([], 64))
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
        shown = self.client.get(self.url).get_json()
        self.assertEqual(shown["broken"], ["Entry 2 was changed after it was written."])
        self.assertEqual(len(shown["entries"]), 3)

    def test_the_forms_are_listed(self) -> None:
        forms = self.client.get("/api/log-forms").get_json()["forms"]
        self.assertGreater(len(forms), 10)
        for form in forms:
            self.assertTrue(form["title"] and form["fields"])
