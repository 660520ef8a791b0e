"""The API: resources, errors as problem+json, and what keeps strangers out."""

import io
import json
import tempfile
import unittest
import zipfile
from pathlib import Path
from unittest import mock

from calm_basin.plan import plan_from
from calm_basin.rules import rule_sets
from calm_basin.store.database import connect
from calm_basin.store.opening import Store
from calm_basin.web.app import create_app
from calm_basin.web.schema import schemas
from tests.plans import Document, document, point

ROOT = Path(__file__).parents[2]


class ApiCase(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "jobs.sqlite3"
        self.client = create_app(Store(self.path)).test_client()

    def problem(self, response: object, status: int) -> Document:
        self.assertEqual(response.status_code, status)  # type: ignore[attr-defined]
        self.assertEqual(response.mimetype, "application/problem+json")  # type: ignore[attr-defined]
        answer: Document = response.get_json()  # type: ignore[attr-defined]
        self.assertEqual(answer["status"], status)
        self.assertTrue(answer["title"] and answer["detail"])
        return answer

    def made(self, doc: Document | None = None) -> Document:
        response = self.client.post("/api/jobs", json={"plan": doc or document()})
        self.assertEqual(response.status_code, 201)
        return response.get_json()


class JobsTest(ApiCase):
    def test_from_a_new_job_to_the_same_figures_tomorrow(self) -> None:
        asked = {"name": "Attic", "length": "in", "rule_set": "us-dwelling"}
        head = self.client.post("/api/jobs", json=asked).get_json()
        plan = head["plan"]
        plan["shower"]["fall"]["asked"] = 0.025
        url = f"/api/jobs/{head['job_id']}"
        saved = self.client.put(f"{url}/plan", json={"base": head["revision"], "plan": plan})
        self.assertEqual(saved.status_code, 200)
        first = self.client.post("/api/solve", json={"plan": plan}).get_json()
        tomorrow = create_app(Store(self.path)).test_client()
        listed = tomorrow.get("/api/jobs").get_json()["jobs"]
        self.assertEqual([job["name"] for job in listed], ["Attic"])
        again = tomorrow.get(url).get_json()["plan"]
        second = tomorrow.post("/api/solve", json={"plan": again}).get_json()
        self.assertEqual(second["figures"], first["figures"])

    def test_undo_redo_and_delete(self) -> None:
        head = self.made()
        url = f"/api/jobs/{head['job_id']}"
        plan = document(set_down=3)
        head = self.client.put(
            f"{url}/plan", json={"base": head["revision"], "plan": plan}
        ).get_json()
        self.assertTrue(head["can_undo"])
        back = self.client.post(f"{url}/undo", json={"base": head["revision"]}).get_json()
        self.assertEqual(back["plan"]["shower"]["set_down"], 0)
        on = self.client.post(f"{url}/redo", json={"base": back["revision"]}).get_json()
        self.assertEqual(on["plan"]["shower"]["set_down"], 3)
        self.assertEqual(self.client.delete(url).status_code, 204)
        self.problem(self.client.get(url), 404)
        again = self.client.post(f"{url}/restore").get_json()
        self.assertEqual(again["plan"], on["plan"])
        self.problem(self.client.post("/api/jobs/nowhere/restore"), 404)

    def test_the_sheet_of_a_job(self) -> None:
        url = f"/api/jobs/{self.made()['job_id']}/sheet.pdf"
        response = self.client.get(f"{url}?paper=letter&pages=plan,findings")
        self.assertEqual((response.status_code, response.mimetype), (200, "application/pdf"))
        self.assertTrue(response.data.startswith(b"%PDF"))
        for wrong in ("paper=napkin", "pages=poster"):
            answer = self.problem(self.client.get(f"{url}?{wrong}"), 422)
            self.assertIn("Choose", answer["errors"][0]["message"])
        listed = self.client.get("/api/sheet-pages").get_json()
        self.assertIn("plan", [page["name"] for page in listed["pages"]])

    def test_the_second_writer_is_told_what_stands(self) -> None:
        head = self.made()
        url = f"/api/jobs/{head['job_id']}/plan"
        base = head["revision"]
        self.client.put(url, json={"base": base, "plan": document(set_down=3)})
        late = self.client.put(url, json={"base": base, "plan": document(set_down=5)})
        answer = self.problem(late, 409)
        self.assertEqual(answer["head"]["plan"]["shower"]["set_down"], 3)

    def test_a_plan_file_goes_out_and_comes_back(self) -> None:
        head = self.made()
        file = self.client.get(f"/api/jobs/{head['job_id']}/plan-file")
        self.assertIn('filename="test.calm-basin.json"', file.headers["Content-Disposition"])
        back = self.client.post("/api/jobs/import", data=file.data)
        self.assertEqual(back.status_code, 201)
        self.assertEqual(plan_from(back.get_json()["plan"]), plan_from(head["plan"]))

    def test_a_database_that_cannot_write_is_an_error_with_a_way_out(self) -> None:
        head = self.made()
        with connect(self.path) as other, mock.patch("calm_basin.store.opening.connect") as opened:
            slow = connect(self.path)
            slow.execute("PRAGMA busy_timeout = 10")
            opened.return_value = slow
            other.execute("BEGIN EXCLUSIVE")
            with self.assertLogs("calm_basin.web.errors", "WARNING"):
                late = self.client.put(
                    f"/api/jobs/{head['job_id']}/plan",
                    json={"base": head["revision"], "plan": document(set_down=3)},
                )
            self.assertIn("kept in this window", self.problem(late, 503)["detail"])


class NonsenseTest(ApiCase):
    def test_every_refusal_names_the_field(self) -> None:
        crossed = document()
        crossed["room"]["outline"] = [[0, 0], [2400, 1800], [2400, 0], [0, 1800]]
        outside = document(outline=[[0, 900], [2500, 900], [2500, 1800], [0, 1800]])
        negative = document()
        negative["room"]["layers"][0]["thickness"] = -1
        for plan, path in [
            (crossed, "/room/outline"),
            (outside, "/shower/outline/1"),
            (negative, "/room/layers/0/thickness"),
            (document() | {"colour": "blue"}, "/colour"),
            (document() | {"version": 99}, "/version"),
            (document() | {"rule_set": "atlantis"}, "/rule_set"),
            (None, ""),
        ]:
            with self.subTest(path=path):
                answer = self.problem(self.client.post("/api/solve", json={"plan": plan}), 422)
                self.assertEqual(answer["errors"][0]["path"], path)

    def test_a_drain_in_the_wall_is_a_finding_with_a_cure(self) -> None:
        answer = self.client.post("/api/solve", json={"plan": document(drain=point(0, 1350))})
        solution = answer.get_json()
        self.assertFalse(solution["complete"])
        self.assertEqual(solution["findings"][0]["code"], "drain_outside")
        self.assertTrue(solution["findings"][0]["cures"])

    def test_bodies_that_are_none(self) -> None:
        for body in (b"", b"{", b"[]", b"[" * 50_000, b"\xff\xfe", b'"text"'):
            with self.subTest(body=body[:9]):
                self.problem(self.client.post("/api/solve", data=body), 422)
        for url in ("/api/solve", "/api/jobs", "/api/drafts/read"):
            large = self.client.post(url, data=io.BytesIO(b"x" * 10_000_000))
            self.assertIn("6 MB", self.problem(large, 413)["detail"])

    def test_what_is_said_of_a_new_job_is_read_in_its_unit_and_refused_by_field(self) -> None:
        asked = {"name": "Attic", "length": "in", "rule_set": "us-dwelling"}
        said = {"wide": "62 3/8", "deep": "7' 2\"", "where": "back", "drain": "point", "out": ""}
        said |= {"users": ["chair"], "accessible": True, "ground": "slab"}
        plan = self.client.post("/api/jobs", json=asked | {"said": said}).get_json()["plan"]
        self.assertAlmostEqual(plan["room"]["outline"][2][0], 62.375 * 25.4)
        self.assertAlmostEqual(plan["room"]["outline"][2][1], 86 * 25.4)
        self.assertEqual(plan["shower"]["outline"][1][0], plan["room"]["outline"][1][0])
        self.assertEqual((plan["floor"]["kind"], plan["users"]), ("slab", ["chair"]))
        self.assertEqual(plan["waste"]["family"]["id"], "bonded-flange")
        for wrong, path in (
            ({"wide": "wide"}, "/wide"),
            ({"wide": 3}, "/wide"),
            ({"wide": "60", "across": "61", "where": "back left"}, "/across"),
            ({"deep": "12"}, "/deep"),
            ({"wide": "0"}, "/wide"),
            ({"where": "back left", "across": "0"}, "/across"),
            ({"ground": "sand"}, "/ground"),
            ({"accessible": "false"}, "/accessible"),
            ({"users": ["cat"]}, "/users/0"),
            ({"users": "chair"}, "/users"),
            (["wide"], "/said"),
        ):
            with self.subTest(said=wrong):
                answer = self.problem(
                    self.client.post("/api/jobs", json=asked | {"said": wrong}), 422
                )
                self.assertEqual(answer["errors"][0]["path"], path)

    def test_fields_of_requests(self) -> None:
        for url, body, path in [
            ("/api/jobs", {"name": " ", "length": "mm", "rule_set": "uk"}, "/name"),
            ("/api/jobs", {"name": "x", "length": "ell", "rule_set": "uk"}, "/length"),
            ("/api/jobs", {"name": "x", "length": "mm", "rule_set": "moon"}, "/rule_set"),
            ("/api/solve", {"plan": document(), "at": [[1]]}, "/at/0/1"),
            ("/api/solve", {"plan": document(), "at": [["x", 1]]}, "/at/0/0"),
            ("/api/solve", {"plan": document(), "cut": [[1, 1], [1, 1]]}, "/cut"),
            ("/api/solve", {"plan": document(), "parts": ["roof"]}, "/parts/0"),
            ("/api/print", {"values": [1e9], "display": {}}, "/values/0"),
            ("/api/edit", {"plan": document(), "act": "dance"}, "/act"),
            ("/api/edit", {"plan": document(), "act": "mirror", "way": "up"}, "/way"),
            (
                "/api/read",
                {"text": "1", "kind": "length", "display": {"length": "ell"}},
                "/display/length",
            ),
            ("/api/read", {"text": "1", "kind": "colour", "display": {}}, "/kind"),
        ]:
            with self.subTest(url=url, path=path):
                answer = self.problem(self.client.post(url, json=body), 422)
                self.assertEqual(answer["errors"][0]["path"], path)
                self.assertEqual(answer["title"], "Not understood")

    def test_the_committed_schemas_are_those_of_the_models(self) -> None:
        for name, text in schemas().items():
            committed = (ROOT / "docs" / "schema" / name).read_text("utf-8")
            self.assertEqual(committed, text, f"run script/format to renew docs/schema/{name}")

    def test_what_is_not_there_is_not_found(self) -> None:
        for address in (
            "/api/jobs/none",
            "/api/jobs/none/sheet.pdf",
            "/api/rules/moon/file",
            "/api/families/none/file",
            "/api/systems/none/file",
            "/api/layers/none/file",
            "/api/store/copies/none",
            "/api/nothing",
        ):
            with self.subTest(address=address):
                self.problem(self.client.get(address), 404)
        self.problem(self.client.post("/api/store/copies/none/restore"), 404)
        for shelf in ("rules", "families", "systems", "layers"):
            self.problem(self.client.delete(f"/api/{shelf}/none"), 404)

    def test_reads_what_is_typed(self) -> None:
        ask = {"text": "5' 2 3/8\"", "kind": "length", "display": {"length": "in"}}
        answer = self.client.post("/api/read", json=ask).get_json()
        self.assertAlmostEqual(answer["value"], 62.375 * 25.4)
        self.assertEqual(answer["text"], '62 3/8"')
        self.problem(self.client.post("/api/read", json=ask | {"text": "5'' 3"}), 422)

    def test_a_number_that_is_none_is_refused_at_every_door(self) -> None:
        text = json.dumps({"plan": document(), "name": "x"})
        for number in ("1e400", "-1e400", "NaN", "Infinity"):
            wrong = text.replace("2400", number, 1)
            self.assertNotEqual(wrong, text)
            for url in ("/api/solve", "/api/jobs", "/api/drafts/read", "/api/edit"):
                answer = self.client.post(url, data=wrong)
                self.assertEqual(answer.status_code, 422, (url, number))

    def test_a_fault_of_the_program_shows_no_trace(self) -> None:
        broken = mock.patch("calm_basin.core.worked.Worked", side_effect=RuntimeError("secret"))
        with broken, self.assertLogs("calm_basin.web.problems", "ERROR"):
            answer = self.problem(self.client.post("/api/solve", json={"plan": document()}), 500)
        self.assertNotIn("secret", json.dumps(answer))


class SurveyApiTest(ApiCase):
    def test_what_a_bag_says_is_said_for_the_next_job_in_the_same_units(self) -> None:
        asked = {"name": "one", "length": "mm", "rule_set": "uk"}
        first = self.client.post("/api/jobs", json=asked).get_json()
        plan = first["plan"]
        plan["order"]["items"] = [
            {"item": "mud", "pack": 11.5, "price": 6, "bought": True},
            {"item": "tile", "bought": True},
        ]
        url = f"/api/jobs/{first['job_id']}/plan"
        self.client.put(url, json={"base": first["revision"], "plan": plan})
        made = self.client.post("/api/jobs", json=asked).get_json()["plan"]["order"]["items"]
        kept = [(one["item"], one["pack"], one["price"], one["bought"]) for one in made]
        self.assertEqual(kept, [("mud", 11.5, 6, False)])
        inches = self.client.post("/api/jobs", json=asked | {"length": "in"}).get_json()
        self.assertEqual(inches["plan"]["order"]["items"], [])
        order = self.client.get(f"/api/jobs/{first['job_id']}/order.csv")
        self.assertEqual(order.mimetype, "text/csv")
        self.assertIn("11.5", order.get_data(as_text=True))
        cuts = self.client.get(f"/api/jobs/{first['job_id']}/cuts.csv").get_data(as_text=True)
        self.assertIn("cut list,number", cuts)

    def test_the_days_go_out_as_a_calendar_once_there_is_a_first_one(self) -> None:
        head = self.client.post("/api/jobs", json={"plan": document()}).get_json()
        url = f"/api/jobs/{head['job_id']}"
        answer = self.client.get(f"{url}/days.ics")
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(answer.get_json()["errors"][0]["path"], "/days/start")
        self.assertIn("Lay the bed", self.client.get(f"{url}/days.csv").get_data(as_text=True))
        plan = head["plan"] | {"days": head["plan"]["days"] | {"start": "2026-12-07"}}
        self.client.put(f"{url}/plan", json={"base": head["revision"], "plan": plan})
        answer = self.client.get(f"{url}/days.ics")
        self.assertEqual(answer.mimetype, "text/calendar")
        self.assertIn("DTSTART:20261207T080000", answer.get_data(as_text=True))

    def test_all_files_of_a_job_in_one(self) -> None:
        head = self.client.post("/api/jobs", json={"plan": document()}).get_json()
        answer = self.client.get(f"/api/jobs/{head['job_id']}/files.zip")
        self.assertEqual(answer.mimetype, "application/zip")
        with zipfile.ZipFile(io.BytesIO(answer.data)) as packed:
            self.assertIsNone(packed.testzip())
            self.assertIn("floor.dxf", packed.namelist())
            self.assertEqual(json.loads(packed.read("plan.json")), head["plan"])

    def test_readings_go_in_and_out_as_csv(self) -> None:
        text = "x,y,reading,kind\n0,0,0,height\n1000,0,-4,height\nten,0,1,height\n"
        answer = self.client.post("/api/levels/read", json={"csv": text}).get_json()
        self.assertEqual(len(answer["levels"]), 2)
        self.assertEqual(answer["errors"][0]["row"], 4)
        doc = document() | {"version": 2, "survey": {"levels": answer["levels"]}}
        head = self.made(doc)
        out = self.client.get(f"/api/jobs/{head['job_id']}/levels.csv")
        again = self.client.post("/api/levels/read", json={"csv": out.get_data(as_text=True)})
        self.assertEqual(again.get_json()["levels"], answer["levels"])

    def test_a_table_in_inches_is_read_by_the_screen_or_its_heading(self) -> None:
        for heading, display, height in (
            ("x,y,reading", {"length": "in"}, 25.4),
            ("x,y,reading", {"length": "mm"}, 1.0),
            ("x,y,reading (cm)", {"length": "in"}, 10.0),
        ):
            asked = {"csv": f"{heading}\n0,0,1\n5,5,-3,5\n", "display": display}
            answer = self.client.post("/api/levels/read", json=asked).get_json()
            self.assertAlmostEqual(answer["levels"][0]["height"], height)
            self.assertEqual([error["row"] for error in answer["errors"]], [3])

    def test_corners_are_added_and_removed(self) -> None:
        plan = document(entries=[1])
        asked = {"plan": plan, "which": "shower", "act": "split", "at": 0}
        more = self.client.post("/api/edit", json=asked).get_json()["plan"]
        self.assertEqual(more["shower"]["outline"][1], [750, 900])
        self.assertEqual(more["shower"]["entries"], [2])
        asked = {"plan": more, "which": "shower", "act": "join", "at": 1}
        less = self.client.post("/api/edit", json=asked).get_json()["plan"]
        self.assertEqual(less["shower"]["outline"], plan["shower"]["outline"])
        self.assertEqual(less["shower"]["entries"], [1])
        for wrong in ({"at": 99}, {"at": -1}, {"at": "1"}, {"act": "bend"}, {"which": "hall"}):
            self.problem(self.client.post("/api/edit", json=asked | wrong), 422)

    def test_the_room_takes_another_outline_or_says_why_not(self) -> None:
        points = [[0, 0], [3000, 0], [3000, 1900], [0, 1900]]
        asked = {"plan": document(), "act": "outline", "points": points}
        answer = self.client.post("/api/edit", json=asked).get_json()
        self.assertEqual(answer["plan"]["room"]["outline"], points)
        for wrong in (points[:2], points * 11, [[0, 0], [1, 2], "x"], None, [[0, 0]] * 3):
            self.problem(self.client.post("/api/edit", json=asked | {"points": wrong}), 422)

    def test_outlines_are_stretched(self) -> None:
        asked = {"plan": document(), "act": "stretch", "which": "room", "axis": 0, "size": 3000}
        wide = self.client.post("/api/edit", json=asked).get_json()["plan"]
        self.assertEqual(wide["room"]["outline"][1], [3000, 0])
        deep = self.client.post("/api/edit", json=asked | {"axis": 1}).get_json()["plan"]
        self.assertEqual(deep["room"]["outline"][2], [2400, 3000])
        for wrong in ({"axis": 2}, {"size": 0}, {"size": True}, {"size": "wide"}, {"size": 900}):
            self.problem(self.client.post("/api/edit", json=asked | wrong), 422)

    def test_parts_are_added_and_removed(self) -> None:
        asked = {"plan": document(), "act": "add", "what": "WC"}
        more = self.client.post("/api/edit", json=asked).get_json()["plan"]
        self.assertEqual(more["room"]["fixtures"][0]["name"], "WC")
        self.assertIn("/room/fixtures/0/width", more["assumed"])
        remove = {"plan": more, "act": "remove", "path": "/room/fixtures/0"}
        less = self.client.post("/api/edit", json=remove).get_json()["plan"]
        self.assertEqual((less["room"]["fixtures"], less["assumed"]), ([], []))
        asked["plan"] = document() | {"rule_set": "norway"}
        for walls in ("rising", "level"):
            rest = self.client.post("/api/edit", json=asked | {"what": f"rest {walls}"}).get_json()
            self.assertEqual(rest["plan"]["shower"]["rest"], {"asked": 0.01, "walls": walls})
            self.assertEqual(rest["plan"]["assumed"], [])
        for wrong in ({"what": "bath"}, {"what": 3}, {"what": "cut"}, {"what": "diagonal"}):
            self.problem(self.client.post("/api/edit", json=asked | wrong), 422)
        for path in ("/room/fixtures/1", "/job/name/0", "/room/outline/0", "x", "/room/doors/-1"):
            self.problem(self.client.post("/api/edit", json=remove | {"path": path}), 422)

    def test_a_straightedge_is_laid_on_the_floor(self) -> None:
        levels = [
            {"kind": "height", "x": x, "y": y, "height": 0} for x in (0, 2400) for y in (0, 1800)
        ]
        levels.append({"kind": "height", "x": 1200, "y": 900, "height": -8})
        plan = document() | {"version": 2, "survey": {"levels": levels}}
        ask = {"plan": plan, "start": [200, 900], "end": [2200, 900]}
        answer = self.client.post("/api/straightedge", json=ask).get_json()
        self.assertAlmostEqual(answer["gap"], 8 * 1000 / 1200, delta=0.05)
        self.assertAlmostEqual(answer["at"][0], 1200, delta=40)
        for wrong, path in (
            ({"start": [1]}, "/start/1"),
            ({"end": "here"}, "/end"),
            ({"start": [True, 1]}, "/start/0"),
        ):
            refused = self.problem(self.client.post("/api/straightedge", json=ask | wrong), 422)
            self.assertEqual(refused["errors"][0]["path"], path)
        empty = self.client.post("/api/straightedge", json=ask | {"plan": document()})
        self.assertEqual(self.problem(empty, 422)["errors"][0]["path"], "/survey/levels")

    def test_the_laser_reads_where_the_staff_stands(self) -> None:
        shots = [
            self.client.post("/api/devices/laser/read", json={"at": [x, 500]}).get_json()
            for x in (0, 2000)
        ]
        self.assertNotEqual(shots[0]["reading"], shots[1]["reading"])
        self.assertEqual(shots[0]["instrument"], shots[1]["instrument"])
        self.assertTrue(shots[0]["simulated"])
        self.problem(self.client.post("/api/devices/laser/read", json={"at": "x"}), 422)


class StrangersTest(ApiCase):
    def test_writes_from_other_pages_are_refused(self) -> None:
        for headers in (
            {"Origin": "http://evil.example"},
            {"Origin": "null"},
            {"Sec-Fetch-Site": "cross-site"},
            {"Origin": "http://localhost:9"},
        ):
            with self.subTest(**headers):
                answer = self.client.post("/api/jobs", json={"plan": document()}, headers=headers)
                self.problem(answer, 403)
        own = {"Origin": "http://localhost", "Sec-Fetch-Site": "same-origin"}
        answer = self.client.post("/api/jobs", json={"plan": document()}, headers=own)
        self.assertEqual(answer.status_code, 201)

    def test_other_names_are_not_answered(self) -> None:
        self.problem(self.client.get("/api/jobs", headers={"Host": "evil.example"}), 421)

    def test_every_answer_is_hardened(self) -> None:
        for url in ("/api/jobs", "/api/nothing", "/"):
            with self.client.get(url) as response:
                headers = response.headers
            self.assertIn("default-src 'self'", headers["Content-Security-Policy"])
            self.assertNotIn("unsafe", headers["Content-Security-Policy"])
            self.assertEqual(headers["X-Content-Type-Options"], "nosniff")

    def test_files_outside_the_front_end_are_not_served(self) -> None:
        for url in ("/assets/../app.py", "/assets/%2e%2e/app.py", "/assets//etc/passwd"):
            with self.client.get(url) as response:
                self.assertNotIn(b"Flask", response.data)

    def test_unknown_addresses(self) -> None:
        self.problem(self.client.get("/api/nothing"), 404)
        self.problem(self.client.put("/api/rules"), 405)

    def test_rules_are_listed_with_their_sources(self) -> None:
        sets = self.client.get("/api/rules").get_json()["rule_sets"]
        self.assertEqual({rules["id"] for rules in sets}, set(rule_sets()))
        for rules in sets:
            for item in rules["entries"]:
                self.assertTrue(item["source"] and item["title"] and item["printed"])
