"""Whatever is sent, the server answers with a named error or a result, never a fault."""

import copy
import tempfile
import unittest
from pathlib import Path
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from calm_basin.plan import PlanError, plan_from
from calm_basin.store.opening import Store
from calm_basin.web.app import create_app
from tests.core.test_survey import sloping, surveyed
from tests.plans import Document, channel, document
from tests.sweeps import examples

LEAVES = (
    st.none()
    | st.booleans()
    | st.integers(-(10**30), 10**30)
    | st.floats(allow_nan=False)
    | st.text(max_size=20)
)
JSON = st.recursive(
    LEAVES, lambda c: st.lists(c, max_size=4) | st.dictionaries(st.text(max_size=8), c, max_size=4)
)
URLS = (
    "/api/solve",
    "/api/edit",
    "/api/jobs",
    "/api/jobs/import",
    "/api/read",
    "/api/levels/read",
    "/api/straightedge",
    "/api/devices/laser/read",
)


def paths(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Paths to everything inside a document."""
    found = [path] if path else []
    if isinstance(value, dict):
        for key, item in value.items():
            found += paths(item, (*path, key))
    elif isinstance(value, list):
        for i, item in enumerate(value):
            found += paths(item, (*path, i))
    return found


WHOLE = surveyed(sloping(0.003), correction={"kind": "pour"})
WHOLE["survey"]["tape"] = {
    "walls": [{"length": 2400}, {"length": 1800}] * 2,
    "diagonals": [{"first": 0, "last": 2, "length": 3000}],
}
LINEAR = document(drain=channel(0, 1765, 1500, 1765))


@st.composite
def damaged(draw: st.DrawFn) -> Document:
    """A whole plan in which one thing is replaced, taken out or doubled."""
    doc = copy.deepcopy(draw(st.sampled_from([WHOLE, LINEAR])))
    *parents, last = draw(st.sampled_from(paths(doc)))
    place = doc
    for step in parents:
        place = place[step]
    deed = draw(st.sampled_from(["replace", "remove", "double"]))
    if deed == "remove":
        del place[last]
    elif deed == "double" and isinstance(place, list):
        place.insert(last, copy.deepcopy(place[last]))
    else:
        place[last] = draw(LEAVES | st.floats(-3000, 3000))
    return doc


class HostileTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.client = create_app(Store(Path(folder.name) / "jobs.sqlite3")).test_client()

    def answered(self, url: str, body: object) -> None:
        response = self.client.post(url, json=body)
        self.assertLess(response.status_code, 500, (url, body))
        answer = response.get_json()
        if response.status_code >= 400:
            self.assertEqual(response.mimetype, "application/problem+json")
            self.assertTrue(answer["detail"])
            for error in answer.get("errors", []):
                self.assertTrue(error["message"])

    @examples(80)
    @given(st.sampled_from(URLS), JSON)
    def test_any_json_at_any_address(self, url: str, body: object) -> None:
        self.answered(url, body)

    @examples(80)
    @given(st.sampled_from(URLS), JSON, st.sampled_from(["plan", "text", "csv", "at", "start"]))
    def test_any_json_in_any_field(self, url: str, value: object, name: str) -> None:
        body = {"plan": WHOLE, "text": "5", "kind": "length", "display": {}, "csv": "x,y,reading\n"}
        body |= {"start": [0, 0], "end": [900, 900], "name": "n", "length": "mm", "rule_set": "uk"}
        self.answered(url, body | {name: value})

    @examples(150)
    @given(damaged())
    def test_a_damaged_plan_is_solved_or_refused_with_its_field(self, doc: Document) -> None:
        try:
            plan_from(doc)
        except PlanError as refused:
            for problem in refused.problems:
                self.assertTrue(problem.message.rstrip().endswith((".", ")")), problem.message)
        self.answered("/api/solve", {"plan": doc})

    def test_odd_methods_and_addresses(self) -> None:
        for method in ("PUT", "DELETE", "PATCH"):
            response = self.client.open("/api/solve", method=method)
            self.assertEqual(response.status_code, 405)
        for url in ("/api/jobs/%00", "/api/jobs/" + "x" * 3000, "/api/jobs/..%2f..%2fetc"):
            self.assertIn(self.client.get(url).status_code, (404, 400))
