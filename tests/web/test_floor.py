"""Water, marks, sections and trials over HTTP."""

import csv
import io
import json
from unittest import mock

from calm_basin.web import heavy
from calm_basin.web.answered import Answered
from tests.plans import channel, document, point, tray, wet_room
from tests.web.test_api import ApiCase


class SolvePartsTest(ApiCase):
    def solve(self, **more: object) -> dict:
        return self.client.post("/api/solve", json={"plan": document()} | more).get_json()

    def test_parts_come_when_they_are_asked_for(self) -> None:
        self.assertIsNone(self.solve()["water"])
        both = self.solve(parts=["water", "marks"])
        self.assertEqual(both["water"]["verdict"], "Every drop reaches the drain")
        self.assertTrue(both["marks"]["groups"])
        alone = self.solve(parts=["marks"])
        self.assertIsNone(alone["water"])
        self.assertEqual(alone["marks"], both["marks"])

    def test_the_section_follows_a_line(self) -> None:
        across = self.solve(cut=[[100, 1350], [1400, 1350]])["section"]
        self.assertEqual((across["start"], across["end"]), ([0, 1350], [2400, 1350]))
        beds = [b for b in across["bands"] if b["kind"] == "bed"]
        self.assertEqual(len(beds), 1)
        dry = self.solve(cut=[[100, 300], [1400, 300]])["section"]
        self.assertFalse([b for b in dry["bands"] if b["kind"] == "bed"])
        outside = self.solve(cut=[[5000, 5000], [6000, 5000]])["section"]
        self.assertEqual(outside["bands"], [])

    def test_nonsense_is_named(self) -> None:
        for name, value in (
            ("parts", ["ponds"]),
            ("parts", "water"),
            ("cut", [[0, 0]]),
            ("cut", [[0, 0], [0, 0]]),
            ("cut", "across"),
            ("cures", "later"),
        ):
            response = self.client.post("/api/solve", json={"plan": document(), name: value})
            self.problem(response, 422)

    def test_figures_come_first_and_changes_after_them(self) -> None:
        """Asked without, every figure, drawing and finding is the same but for what mends it; and
        asked again, the same findings come with it."""
        plan = document(fall={"asked": 1 / 90})
        first = self.client.post("/api/solve", json={"plan": plan, "cures": False}).get_json()
        whole = self.client.post("/api/solve", json={"plan": plan}).get_json()
        cures = [finding.pop("cures") for finding in whole["findings"]]
        self.assertTrue(any(cures))
        self.assertFalse(any(finding.pop("cures") for finding in first["findings"]))
        self.assertEqual(first, whole)

    def test_lengths_are_printed_for_the_display(self) -> None:
        body = {"values": [2, 152.4], "display": {"length": "in"}}
        texts = self.client.post("/api/print", json=body).get_json()["texts"]
        self.assertEqual(texts, ['1/16"', '6"'])
        for values in (["x"], list(range(2000)), [1e9]):
            self.problem(self.client.post("/api/print", json=body | {"values": values}), 422)


class AnsweredTest(ApiCase):
    """What was worked out before is answered at once, and nothing else is."""

    def asked(self, plan: dict, **more: object) -> tuple[dict, int]:
        """An answer, and how often the solver was asked for it."""
        with mock.patch("calm_basin.web.heavy.solution", side_effect=heavy.solution) as solver:
            answer = self.client.post("/api/solve", json={"plan": plan} | more)
            return answer.get_json(), solver.call_count

    def test_the_same_question_is_worked_out_once(self) -> None:
        first, times = self.asked(document())
        again, more = self.asked(document())
        self.assertEqual((times, more), (1, 0))
        self.assertEqual(first, again)

    def test_another_plan_part_or_line_is_another_question(self) -> None:
        self.asked(document())
        for plan, more in (
            (document(drain=point(700, 1350)), {}),
            (document(), {"parts": ["water"]}),
            (document(), {"cut": [[100, 1350], [1400, 1350]]}),
            (document(), {"at": [[100, 1350]]}),
        ):
            answer, times = self.asked(plan, **more)
            self.assertEqual(times, 1, more)
            plain, _ = self.asked(document())
            self.assertNotEqual(answer, plain)

    def test_a_rule_set_of_ones_own_that_changed_is_asked_anew(self) -> None:
        copied = {"of": "norway", "id": "mine", "name": "Mine"}
        self.assertEqual(self.client.post("/api/rules", json=copied).status_code, 201)
        plan = document() | {"rule_set": "mine"}
        first, _ = self.asked(plan)
        text = self.client.get("/api/rules/mine/file").get_data(as_text=True)
        self.client.delete("/api/rules/mine")
        self.client.post("/api/rules/import", data=text.replace('"Mine"', '"Mine, changed"'))
        second, times = self.asked(plan)
        self.assertEqual(times, 1)
        self.assertNotEqual(first["rule_set"], second["rule_set"])

    def test_what_is_refused_is_refused_again_and_not_kept(self) -> None:
        for _ in range(2):
            self.problem(self.client.post("/api/solve", json={"plan": {}}), 422)

    def test_old_answers_go_where_there_are_many(self) -> None:
        kept, asked = Answered(most=10), []

        def text(question: bytes) -> bytes:
            return kept.text(question, work=lambda: asked.append(question) or "1234")  # type: ignore[func-returns-value]

        for question in (b"a", b"b", b"a", b"c", b"a", b"b"):
            self.assertEqual(text(question), b"1234")
        # Two fit: b was asked for longest ago when c came, and c when b came again.
        self.assertEqual(asked, [b"a", b"b", b"c", b"b"])
        self.assertEqual(kept.text(b"long", work=lambda: "x" * 11), b"x" * 11)


class TileTest(ApiCase):
    def test_where_it_is_best_begun(self) -> None:
        tile = {"length": 300, "width": 300, "joint": 3}
        plan = document(tile=tile) | {"version": 3, "tiling": {"along": 60, "across": 70}}
        found = self.client.post("/api/tile/best", json={"plan": plan}).get_json()
        paths = [change["path"] for change in found["changes"]]
        self.assertEqual(paths, ["/tiling/along", "/tiling/across"])
        self.assertIn("Before:", found["said"])

    def test_what_cannot_be_laid_out_is_named(self) -> None:
        for tile, field in (
            (None, "/shower/tile"),
            ({"length": 300, "width": 300, "joint": 0}, "/shower/tile/joint"),
        ):
            plan = document(tile=tile)
            answer = self.client.post("/api/tile/best", json={"plan": plan})
            self.problem(answer, 422)
            self.assertEqual(answer.get_json()["errors"][0]["path"], field)
        plan = document(drain=point(5000, 5000))
        self.problem(self.client.post("/api/tile/best", json={"plan": plan}), 422)


class MarksFileTest(ApiCase):
    def test_the_list_in_the_order_of_work(self) -> None:
        job = self.made()["job_id"]
        response = self.client.get(f"/api/jobs/{job}/marks.csv")
        self.assertEqual(response.mimetype, "text/csv")
        rows = list(csv.DictReader(io.StringIO(response.get_data(as_text=True))))
        self.assertEqual(rows[0]["group"], "Level line")
        pins = [row for row in rows if row["group"] == "Screed pins"]
        self.assertEqual([r["mark"] for r in pins], [f"pin {i + 1}" for i in range(len(pins))])
        # At least 12 mm, and down to the deck that was lowered by 18: 15.8, in whole millimetres.
        self.assertEqual((pins[0]["what"], pins[0]["cut to"]), ("rim", "16"))
        self.assertEqual(pins[0]["height mm"], "16.00")

    def test_a_tray_has_its_lines_and_no_pins(self) -> None:
        job = self.made(document(former=tray()))["job_id"]
        told = self.client.get(f"/api/jobs/{job}/marks.csv").get_data(as_text=True)
        self.assertIn("Entry line", told)
        self.assertNotIn("Screed pins", told)
        hidden = self.made(document(drain=channel(0, 1800, 1500, 1800)))["job_id"]
        self.problem(self.client.get(f"/api/jobs/{hidden}/marks.csv"), 422)


class TrialsTest(ApiCase):
    def test_each_floor_is_told_as_it_is_made(self) -> None:
        body = {"plan": document(), "floors": 4, "seed": 3}
        response = self.client.post("/api/trials", json=body)
        self.assertEqual(response.mimetype, "application/x-ndjson")
        lines = [json.loads(line) for line in response.get_data(as_text=True).splitlines()]
        self.assertEqual([line["done"] for line in lines], [1, 2, 3, 4])
        again = self.client.post("/api/trials", json=body).get_data(as_text=True)
        self.assertEqual(json.loads(again.splitlines()[-1]), lines[-1])

    def test_it_can_be_left_half_way(self) -> None:
        body = {"plan": wet_room(), "floors": 500}
        response = self.client.post("/api/trials", json=body, buffered=False)
        first = next(response.iter_encoded())
        self.assertEqual(json.loads(first)["done"], 1)
        response.close()

    def test_nonsense_is_named(self) -> None:
        for name, value in (("floors", 0), ("tolerance", -1), ("seed", "x"), ("hands", 2)):
            body = {"plan": document(), name: value}
            self.problem(self.client.post("/api/trials", json=body), 422)
        hidden = document(drain=channel(0, 1800, 1500, 1800))
        answer = self.problem(self.client.post("/api/trials", json={"plan": hidden}), 422)
        self.assertIn("does not lie inside", answer["detail"])
