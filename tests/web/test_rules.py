"""Rule sets of one's own over the API: made, changed, taken along, refused."""

from calm_basin.rules import read_rules, rule_sets, written_rules
from calm_basin.store.opening import Store
from calm_basin.web.app import create_app
from tests.plans import document
from tests.reference.test_access_limits import roomy
from tests.web.test_api import ApiCase


class OwnRulesTest(ApiCase):
    def own(self, name: str = "ours") -> None:
        asked = {"of": "uk", "id": name, "name": "Ours"}
        self.assertEqual(self.client.post("/api/rules", json=asked).status_code, 201)

    def listed(self) -> list[str]:
        return [one["id"] for one in self.client.get("/api/rules").get_json()["rule_sets"]]

    def test_made_from_one_that_ships_changed_used_and_removed(self) -> None:
        self.own()
        self.assertEqual(self.listed(), [*rule_sets(), "ours"])
        with self.client.get("/api/rules/ours/file") as answer:
            text = answer.get_data(as_text=True)
        own = read_rules(text)
        self.assertEqual(own.limits, rule_sets()["uk"].limits)
        changed = text.replace('given = "15mm"', 'given = "8mm"')
        self.assertEqual(self.client.post("/api/rules/import", data=changed).status_code, 201)
        self.assertEqual(self.listed(), [*rule_sets(), "ours"])
        plan = roomy("ours", set_down=10, bevel={"height": 9, "run": 30})
        head = self.made(plan)
        codes = self.codes(plan)
        self.assertIn("step_over_limit", codes)
        for url in ("sheet.pdf?pages=findings", "marks.csv"):
            with self.client.get(f"/api/jobs/{head['job_id']}/{url}") as answer:
                self.assertEqual(answer.status_code, 200, answer.data)
        self.assertEqual(self.client.delete("/api/rules/ours").status_code, 204)
        self.problem(self.client.delete("/api/rules/ours"), 404)
        # The job is kept and opens; what it lacks is named.
        answer = self.client.get(f"/api/jobs/{head['job_id']}")
        self.assertEqual(answer.get_json()["plan"]["rule_set"], "ours")
        told = self.problem(self.client.post("/api/solve", json={"plan": plan}), 422)
        self.assertEqual(told["errors"][0]["path"], "/rule_set")

    def codes(self, plan: object) -> list[str]:
        answer = self.client.post("/api/solve", json={"plan": plan}).get_json()
        return [finding["code"] for finding in answer["findings"]]

    def test_it_survives_a_restart(self) -> None:
        self.own()
        self.client = create_app(Store(self.path)).test_client()
        self.assertIn("ours", self.listed())

    def test_what_cannot_be_kept_is_refused_by_its_field(self) -> None:
        uk = written_rules(rule_sets()["uk"])
        mine = uk.replace('id = "uk"', 'id = "x"')
        for body, path in (
            (uk, "/id"),
            (mine.replace("entered", 'layer = "y"\nentered'), "/layer"),
            (mine.replace('"15mm"', '"15in"'), "/limits/3"),
            ("not = = toml", ""),
            ("", "/id"),
        ):
            told = self.problem(self.client.post("/api/rules/import", data=body), 422)
            self.assertIn(path, [error["path"] for error in told["errors"]])
        self.own()
        for asked, path in (
            ({"of": "nowhere", "id": "a", "name": "A"}, "/of"),
            ({"of": "uk", "id": "ours", "name": "A"}, "/id"),
            ({"of": "uk", "id": "A b", "name": "A"}, "/id"),
            ({"of": "uk", "id": "b", "name": " "}, "/name"),
            ({"of": "uk", "id": 7, "name": "A"}, "/id"),
        ):
            told = self.problem(self.client.post("/api/rules", json=asked), 422)
            self.assertEqual(told["errors"][0]["path"], path, asked)
        self.assertEqual(self.listed(), [*rule_sets(), "ours"])

    def test_so_many_and_no_more(self) -> None:
        for number in range(40):
            self.own(f"ours-{number}")
        asked = {"of": "uk", "id": "one-more", "name": "One more"}
        self.problem(self.client.post("/api/rules", json=asked), 422)

    def test_compared(self) -> None:
        self.own()
        plan = roomy("ours")
        asked = {"plan": plan, "rule_sets": ["ours", "germany"]}
        told = self.client.post("/api/compare", json=asked).get_json()["compared"]
        self.assertEqual([one["id"] for one in told], ["ours", "germany"])
        for wrong in (None, [], ["ours"] * 9, [7], "uk"):
            body = asked | {"rule_sets": wrong}
            told = self.problem(self.client.post("/api/compare", json=body), 422)
            self.assertTrue(told["errors"][0]["path"].startswith("/rule_sets"))
        self.problem(
            self.client.post("/api/compare", json=asked | {"rule_sets": ["atlantis"]}), 422
        )
        hidden = document(drain={"kind": "point", "centre": [9000, 0], "width": 1, "length": 1})
        self.problem(self.client.post("/api/compare", json=asked | {"plan": hidden}), 422)
