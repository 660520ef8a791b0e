"""Drain families over HTTP: those that ship, and those of one's own."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

from calm_basin.rules import drain_families, read_families, written_families
from calm_basin.store.opening import Store
from calm_basin.web.app import create_app

OWN = """
[[families]]
id = "site-drain"
name = "Drain from the van"
drain = "point"
hole = "round"
hole_width = "5 1/2 in"
hole_length = "140 mm"
trap = "100 mm"
pipe = "50 mm"
document = "Its own text"
"""


class FamiliesTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.client = create_app(Store(Path(folder.name) / "jobs.sqlite3")).test_client()

    def ids(self) -> list[str]:
        listed = self.client.get("/api/families").get_json()["families"]
        return [one["family"]["id"] for one in listed]

    def test_those_that_ship_come_first(self) -> None:
        self.assertEqual(self.ids(), list(drain_families()))

    def test_read_kept_taken_along_and_removed(self) -> None:
        answer = self.client.post("/api/families/import", data=OWN)
        self.assertEqual(answer.status_code, 201, answer.text)
        (own,) = answer.get_json()["families"]
        self.assertFalse(own["ships"])
        self.assertAlmostEqual(own["family"]["hole_width"], 139.7)
        self.assertEqual(self.ids()[-1], "site-drain")
        file = self.client.get("/api/families/site-drain/file")
        self.assertIn("site-drain.toml", file.headers["Content-Disposition"])
        self.assertEqual(read_families(file.text), read_families(OWN))
        # Read once more it takes its own place.
        changed = OWN.replace("100 mm", "90 mm")
        self.assertEqual(self.client.post("/api/families/import", data=changed).status_code, 201)
        self.assertEqual(self.ids().count("site-drain"), 1)
        self.assertEqual(self.client.delete("/api/families/site-drain").status_code, 204)
        self.assertNotIn("site-drain", self.ids())
        self.assertEqual(self.client.delete("/api/families/site-drain").status_code, 404)
        self.assertEqual(self.client.get("/api/families/site-drain/file").status_code, 422)

    def test_what_is_wrong_is_named_and_nothing_is_lost(self) -> None:
        self.client.post("/api/families/import", data=OWN)
        for wrong, path in (
            (OWN.replace("trap =", "trapp ="), "/families/0/trap"),
            (OWN + 'colour = "red"\n', "/families/0/colour"),
            (OWN.replace('"100 mm"', '"100"'), "/families/0/trap"),
            (OWN.replace('"100 mm"', "100"), "/families/0/trap"),
            (OWN.replace('"5 1/2 in"', '"5 furlongs"'), "/families/0/hole_width"),
            (OWN.replace('"point"', '"spiral"'), "/families/0/drain"),
            (OWN.replace("site-drain", "narrow-channel"), "/families/0/id"),
            (OWN + OWN, "/families/1/id"),
            ("not toml at all", ""),
            ("[families]", "/families"),
            ("x = 1", "/x"),
            ("", "/families"),
        ):
            with self.subTest(path=path, wrong=wrong[:30]):
                answer = self.client.post("/api/families/import", data=wrong)
                self.assertEqual(answer.status_code, 422)
                problem = answer.get_json()
                self.assertEqual(problem["title"], "These are no drain families")
                self.assertIn(path, [error["path"] for error in problem["errors"]])
        self.assertEqual(self.ids()[-1], "site-drain")

    def test_no_more_than_are_kept(self) -> None:
        for i in range(40):
            own = OWN.replace("site-drain", f"site-{i}")
            self.assertEqual(self.client.post("/api/families/import", data=own).status_code, 201)
        answer = self.client.post("/api/families/import", data=OWN)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Remove one first", answer.text)

    def test_every_family_that_ships_is_written_and_read_back(self) -> None:
        families = list(drain_families().values())
        self.assertEqual(read_families(written_families(families)), families)


class ScrewsTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.client = create_app(Store(Path(folder.name) / "jobs.sqlite3")).test_client()
        made = self.client.post(
            "/api/jobs", json={"name": "x", "length": "mm", "rule_set": "uk"}
        ).get_json()
        self.plan = made["plan"]

    def edit(self, **more: object) -> object:
        return self.client.post("/api/edit", json={"plan": self.plan, "act": "screws"} | more)

    def test_two_screws_lay_the_joists(self) -> None:
        answer = self.edit(first=[130, 0], last=[130, 1000])
        self.assertEqual(answer.status_code, 200)  # type: ignore[attr-defined]
        floor = answer.get_json()["plan"]["floor"]  # type: ignore[attr-defined]
        self.assertEqual((floor["direction"], floor["first_offset"]), (90, -130))
        assumed = answer.get_json()["plan"]["assumed"]  # type: ignore[attr-defined]
        self.assertNotIn("/floor/direction", assumed)
        self.assertIn("/floor/centres", assumed)

    def test_screws_that_tell_nothing_are_refused(self) -> None:
        for first, last, path in (
            ([0, 0], [10, 10], "/last"),
            ([0, 0], "there", "/last"),
            ([0], [0, 500], "/first"),
        ):
            answer = self.edit(first=first, last=last)
            self.assertEqual(answer.status_code, 422)  # type: ignore[attr-defined]
            errors = answer.get_json()["errors"]  # type: ignore[attr-defined]
            self.assertEqual(errors[0]["path"], path)
