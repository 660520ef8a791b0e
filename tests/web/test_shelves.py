"""Drain families, build systems and kinds of layer over HTTP: what ships, and one's own."""

from __future__ import annotations

import json
import tempfile
import unittest
from pathlib import Path

from calm_basin.rules import (
    build_systems,
    drain_families,
    read_families,
    read_system,
    written_families,
    written_system,
)
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
        self.assertEqual(self.client.get("/api/families/site-drain/file").status_code, 404)

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


class SystemsTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.client = create_app(Store(Path(folder.name) / "jobs.sqlite3")).test_client()
        made = self.client.post(
            "/api/jobs", json={"name": "x", "length": "in", "rule_set": "us-dwelling"}
        )
        self.plan = made.get_json()["plan"]
        self.text = written_system(build_systems()["foam-tray-poured-deck"]).replace(
            'id = "foam-tray-poured-deck"', 'id = "van-tray"'
        )

    def names(self) -> list[str]:
        listed = self.client.get("/api/systems").get_json()["systems"]
        return [one["system"]["id"] for one in listed]

    def test_one_of_ones_own_is_kept_used_taken_along_and_removed(self) -> None:
        self.assertEqual(self.names(), list(build_systems()))
        answer = self.client.post("/api/systems/import", data=self.text)
        self.assertEqual(answer.status_code, 201, answer.text)
        self.assertEqual(self.names()[-1], "van-tray")
        edit = {"plan": self.plan, "act": "system", "system": "van-tray"}
        plan = self.client.post("/api/edit", json=edit).get_json()["plan"]
        self.assertEqual(plan["system"]["id"], "van-tray")
        self.assertEqual(plan["shower"]["former"]["kind"], "tray")
        file = self.client.get("/api/systems/van-tray/file")
        self.assertEqual(read_system(file.text), read_system(self.text))
        self.assertEqual(self.client.delete("/api/systems/van-tray").status_code, 204)
        # The plan holds its copy.
        solution = self.client.post("/api/solve", json={"plan": plan}).get_json()
        self.assertEqual(solution["system"]["id"], "van-tray")
        gone = self.client.post("/api/edit", json=edit)
        self.assertEqual(gone.get_json()["errors"][0]["path"], "/system")

    def test_what_is_wrong_is_named_and_nothing_is_lost(self) -> None:
        self.client.post("/api/systems/import", data=self.text)
        for wrong, path in (
            ('colour = "red"\n' + self.text, "/colour"),
            (
                self.text.replace('edge_thickness = "25.4 mm"', 'edge_thickness = "0 mm"'),
                "/former/edge_thickness",
            ),
            (self.text.replace('"gasket-hub-foam-tray"', '"no-such-drain"'), "/family"),
            (self.text.replace('"gasket-hub-foam-tray"', '"narrow-channel"'), "/family"),
            (self.text.replace('"van-tray"', '"one-piece-unit"'), "/id"),
        ):
            answer = self.client.post("/api/systems/import", data=wrong)
            self.assertEqual(answer.status_code, 422, path)
            problem = answer.get_json()
            self.assertEqual(problem["title"], "This is no build system")
            self.assertIn(path, [error["path"] for error in problem["errors"]])
        self.assertEqual(self.names()[-1], "van-tray")

    def test_a_system_may_name_a_drain_of_ones_own(self) -> None:
        own = self.text.replace('"gasket-hub-foam-tray"', '"site-drain"')
        self.assertEqual(self.client.post("/api/systems/import", data=own).status_code, 422)
        self.client.post("/api/families/import", data=OWN)
        self.assertEqual(self.client.post("/api/systems/import", data=own).status_code, 201)
        # Without the drain it is still told, and what is missing is named where it is used.
        self.client.delete("/api/families/site-drain")
        self.assertIn("van-tray", self.names())
        edit = {"plan": self.plan, "act": "system", "system": "van-tray"}
        refused = self.client.post("/api/edit", json=edit).get_json()
        self.assertIn("site-drain", refused["detail"])

    def test_all_are_compared_line_by_line(self) -> None:
        self.client.post("/api/systems/import", data=self.text)
        answer = self.client.post("/api/compare/systems", json={"plan": self.plan})
        lines = [json.loads(line) for line in answer.text.splitlines()]
        self.assertEqual([line["id"] for line in lines], self.names())
        for line in lines:
            self.assertTrue(line["against"] or line["verdict"] == "fits", line["id"])
        self.assertEqual(self.client.post("/api/compare/systems", json={}).status_code, 422)

    def test_a_kind_of_layer_is_added_with_its_range(self) -> None:
        edit = {"plan": self.plan, "act": "add", "what": "shower layer", "kind": "tile"}
        plan = self.client.post("/api/edit", json=edit).get_json()["plan"]
        layer = plan["shower"]["layers"][-1]
        self.assertEqual((layer["name"], layer["most"]), ("tile", 12.7))
        kind = """
[[layers]]
id = "van-mat"
name = "Mat from the van"
least = "2 mm"
usual = "3 mm"
most = "4 mm"
places = ["shower"]
document = "Its own text"
"""
        self.assertEqual(self.client.post("/api/layers/import", data=kind).status_code, 201)
        plan = self.client.post("/api/edit", json=edit | {"kind": "van-mat"}).get_json()["plan"]
        self.assertEqual(plan["shower"]["layers"][-1]["thickness"], 3)
        wrong = self.client.post("/api/layers/import", data=kind.replace('"3 mm"', '"9 mm"'))
        self.assertEqual(wrong.status_code, 422)
        unknown = self.client.post("/api/edit", json=edit | {"kind": "no-such"})
        self.assertEqual(unknown.get_json()["errors"][0]["path"], "/kind")


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
            ([0], [0, 500], "/first/1"),
        ):
            answer = self.edit(first=first, last=last)
            self.assertEqual(answer.status_code, 422)  # type: ignore[attr-defined]
            errors = answer.get_json()["errors"]  # type: ignore[attr-defined]
            self.assertEqual(errors[0]["path"], path)
