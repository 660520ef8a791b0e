"""Whatever the program offers can be put into the plan and does what it says."""

import copy
import unittest
from typing import Any

from calm_basin.core.answer.result import Change
from calm_basin.core.solution import Solution
from calm_basin.demo import demo_plans
from calm_basin.plan import plan_from
from tests.plans import L_SHAPE, Document, channel, document, point, solved, tray, wet_room
from tests.sweeps import sweep


def with_changes(doc: Document, changes: tuple[Change, ...]) -> Document:
    """The document with values set at JSON pointers, as the screen does it."""
    new: Any = copy.deepcopy(doc)
    for change in changes:
        *way, last = change.path[1:].split("/")
        place = new
        for step in way:
            place = place[int(step)] if isinstance(place, list) else place[step]
        place[int(last) if isinstance(place, list) else last] = change.value
    return new


def whole(doc: Document) -> Document:
    """The document with every field written out."""
    dumped: Document = plan_from(doc).model_dump(mode="json")
    return dumped


STOCK = {"width": 1500, "length": 700, "drain_left": 750, "drain_back": 450}
"""A tray that reaches the shower's walls, with 200 mm before it."""


def documents() -> list[Document]:
    back = channel(0, 1765, 1500, 1765)
    made = [
        document(),
        document(outline=L_SHAPE, drain=point(1200, 1450)),
        document(outline=L_SHAPE, drain=point(1200, 450)),
        document(drain=point(-500, 1350)),
        document(drain=point(750), second_drain=point(760)),
        document(drain=back | {"strips": 0.02}, former={"kind": "bed", "least_thickness": 40}),
        document(drain=channel(300, 1765, 1400, 1765), set_down=40),
        document(former=tray(8)),
        document(former=tray(30, cuts=[{"edge": 0, "width": 200}]), drain=back),
        document(former=tray(90, stock=STOCK, extension={"length": 200, "rise": 8}))
        | {"version": 9},
        document(former={"kind": "panels", "thin_edge": 6, "thick_edge": 25, "length": 600}),
        document(fall={"asked": 1 / 30, "measured": "plane_run"}),
        wet_room(),
        wet_room(rest={"asked": 0.005, "walls": "level"}),
        wet_room(drain=channel(0, 2365, 900, 2365), entries=[0]),
        wet_room(second_drain=point(200, 1700, 60), drain=point(700, 2200, 60)),
    ]
    return [whole(doc) for doc in made] + [p.model_dump(mode="json") for p in demo_plans()]


class OffersTest(unittest.TestCase):
    def put(self, doc: Document, changes: tuple[Change, ...], what: str) -> Solution:
        with self.subTest(job=doc["job"]["name"], what=what):
            return solved(with_changes(doc, changes))
        raise AssertionError("unreachable")

    @sweep
    def test_every_arrangement_can_be_chosen(self) -> None:
        tried = 0
        for doc in documents():
            for choice in solved(doc).arrangements:
                if choice.changes:
                    after = self.put(doc, choice.changes, choice.code)
                    chosen = [c.code for c in after.arrangements if c.chosen]
                    self.assertIn(choice.code, chosen)
                    tried += 1
        self.assertGreater(tried, 100)
