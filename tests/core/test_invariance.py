"""The same bathroom shifted, turned, mirrored, named the other way round or in other units has the
same figures and the same findings."""

import unittest

import numpy as np

from calm_basin.core.falls import surface_of
from calm_basin.core.solution import Solution
from calm_basin.demo import demo_plans
from calm_basin.plan import plan_from
from calm_basin.rules import drain_families
from tests.plans import (
    L_SHAPE,
    Document,
    answered,
    channel,
    document,
    moved,
    offering,
    point,
    tray,
    wet_room,
)
from tests.sweeps import sweep

DRAINED, GRID = 0.02, 0.15
"""How far shares that were measured on drops, and sizes of puddles, may differ."""


def readings(doc: Document) -> Document:
    """The plan with its floor read on a grid, lower on one side, with a dip."""
    places = [(x, y) for x in (60, 820, 1600, 2340) for y in (60, 640, 1200, 1740)]
    levels = [
        {"kind": "height", "x": x, "y": y, "height": -0.0015 * x - (6 if i == 5 else 0)}
        for i, (x, y) in enumerate(places)
    ]
    return doc | {"version": 3, "survey": {"levels": levels}}


def reversed_(doc: Document) -> Document:
    """The same outlines named the other way round."""
    new = moved(doc)
    shower, room = new["shower"], new["room"]
    count = len(shower["outline"])
    shower["outline"] = shower["outline"][::-1]
    shower["entries"] = [(count - 2 - e) % count for e in shower["entries"]]
    for cut in shower["former"].get("cuts", []):
        cut["edge"] = (count - 2 - cut["edge"]) % count
    walls = room["outline"]
    for door in room["doors"]:
        start, end = walls[door["wall"]], walls[(door["wall"] + 1) % len(walls)]
        length = float(np.hypot(end[0] - start[0], end[1] - start[1]))
        door["wall"] = (len(walls) - 2 - door["wall"]) % len(walls)
        door["offset"] = max(length - door["offset"] - door["width"], 0.0)
    room["outline"] = walls[::-1]
    return new


def split(doc: Document, edge: int, off: float, share: float = 0.37) -> Document:
    """The plan with a corner more on an edge of its shower, ``off`` mm beside the line."""
    new = moved(doc)
    shower = new["shower"]
    outline = [np.array(point) for point in shower["outline"]]
    start, end = outline[edge], outline[(edge + 1) % len(outline)]
    square = np.array([start[1] - end[1], end[0] - start[0]]) / np.hypot(*(end - start))
    shower["outline"].insert(edge + 1, list(start + share * (end - start) + off * square))
    shower["entries"] = [
        number
        for entry in shower["entries"]
        for number in ((entry + (entry > edge)), *([edge + 1] if entry == edge else []))
    ]
    for cut in shower["former"].get("cuts", []):
        cut["edge"] += cut["edge"] > edge
    return new


def documents() -> list[Document]:
    back = channel(0, 1765, 1500, 1765)
    cut = tray(30, cuts=[{"edge": 0, "width": 60}], raised=4)
    return [
        document(),
        document(drain=point(400, 1500, 90, 20), fall={"asked": 1 / 48, "measured": "plane_run"}),
        document(outline=L_SHAPE, drain=point(1200, 450)),
        document(drain=channel(200, 1765, 1500, 1765)),
        document(drain=channel(300, 1400, 1100, 1600, 60) | {"strips": 0.02}),
        document(former=cut, drain=back),
        document(former=cut),
        document(fall={"asked": 1 / 60, "edge": "even"}),
        document(
            former={"kind": "panels", "thin_edge": 6, "thick_edge": 25, "length": 1200}, drain=back
        ),
        readings(document(former=tray(30))),
        wet_room(),
        wet_room(rest={"asked": 1 / 80, "walls": "level"}),
        wet_room(former=tray(40, raised=6)),
        wet_room(drain=channel(0, 2365, 900, 2365), entries=[0], set_down=4),
        extended(),
        under_floor(),
    ]


def extended() -> Document:
    """A stock tray that an extension lengthens towards the entry."""
    stock = {"width": 1500, "length": 700, "drain_left": 750, "drain_back": 350}
    more = {"stock": stock, "extension": {"length": 400, "rise": 4}, "most_cut": 300}
    return document(former=tray(40, **more), drain=point(750, 1450))


def under_floor() -> Document:
    """A ramp at the door, joists moved, doubled and cut, a run that is laid by a gas pipe."""
    doc = document(former=tray(30)) | {"version": 9}
    doc["room"]["doors"][0] |= {"outside": 4.0, "ramp": 300}
    doc["floor"] |= {"depth": 300, "span": 3000, "bearing": -300, "ceiling": False}
    doc["floor"]["others"] = [
        {"number": 2, "moved": 35.0, "plies": 2},
        {"number": 4, "end": 500.0, "planned": True},
    ]
    family = drain_families()["gasket-hub-foam-tray"].model_dump(mode="json")
    doc["waste"] = {"family": family, "stack": [2250, 1500], "branch": -900}
    doc["waste"]["run"] = [[750, 1000], [2250, 1000]]
    doc["services"] = [{"name": "gas", "kind": "gas", "points": [[1500, 300], [1500, 1750]]}]
    doc["services"][0] |= {"clearance": 40, "depth": 190}
    return doc


def told(solution: Solution) -> list[tuple[object, ...]]:
    """Findings with what they measured, without the places on plan."""
    return sorted(
        (f.severity, f.code, f.applies_to, f.source, round(f.measured or 0.0, 3), f.measured_text)
        for f in solution.findings
    )


class InvarianceTest(unittest.TestCase):
    def same(self, doc: Document, other: Document) -> None:
        first = offering(plan_from(doc), parts=("water", "marks"))
        second = offering(plan_from(other), parts=("water", "marks"))
        self.assertEqual(first.complete, second.complete)
        for (name, was), (_, now) in zip(first.figures, second.figures, strict=True):
            if was.value is None:
                self.assertIsNone(now.value)
            else:
                self.assertAlmostEqual(was.value, now.value, places=4, msg=name)
        self.assertEqual(told(first), told(second))
        if first.surface and second.surface:
            for name in ("gradient", "run"):
                was, now = (
                    sorted(getattr(p, name) for p in s.surface.planes) for s in (first, second)
                )
                np.testing.assert_allclose(was, now, rtol=1e-4, atol=1e-6)
            least = [min((f.tile for f in s.surface.folds), default=0.0) for s in (first, second)]
            self.assertAlmostEqual(*least, places=1)
        if first.water and second.water:
            self.assertAlmostEqual(
                first.water.drained.value, second.water.drained.value, delta=DRAINED
            )
            self.assertEqual(
                first.water.verdict.split(" stands")[0], second.water.verdict.split(" stands")[0]
            )
            self.assertAlmostEqual(first.water.level_area, second.water.level_area, delta=1)
            for was, now in zip(first.water.puddles[:1], second.water.puddles[:1], strict=True):
                self.assertAlmostEqual(was.litres / now.litres, 1, delta=GRID)
        if first.survey.floor and second.survey.floor:
            was, now = first.survey.floor, second.survey.floor
            for name in ("range", "under_shower", "tilt", "crown"):
                self.assertAlmostEqual(getattr(was, name).value, getattr(now, name).value, places=5)
            self.assertAlmostEqual(was.flatness.value / now.flatness.value, 1, delta=0.02)

    @sweep
    def test_named_the_other_way_round(self) -> None:
        for i, doc in enumerate(documents()):
            with self.subTest(plan=i):
                self.same(doc, reversed_(doc))

    @sweep
    def test_shifted_turned_and_mirrored(self) -> None:
        for i, doc in enumerate(documents()):
            for turn, mirror, dx, dy in ((63.2, False, 0, 0), (-137.9, True, 2400, -1350.5)):
                with self.subTest(plan=i, turn=turn):
                    self.same(doc, moved(doc, turn=turn, mirror=mirror, dx=dx, dy=dy))

    @sweep
    def test_a_corner_within_half_a_millimetre_of_a_line_is_on_it(self) -> None:
        for i, doc in enumerate(documents()):
            was = surface_of(plan_from(doc))
            inner = np.array(
                [facet.polygon.representative_point().coords[0] for facet in was.facets]
            )
            heights = was.heights(inner)
            cut = {cut["edge"] for cut in doc["shower"]["former"].get("cuts", [])}
            for edge in set(range(len(doc["shower"]["outline"]))) - cut:
                for off in (0, 1e-9, -1e-9, 1e-4, -1e-4, 0.01, -0.01, 0.49, -0.49):
                    with self.subTest(plan=i, edge=edge, off=off):
                        now = surface_of(plan_from(split(doc, edge, off)))
                        self.assertAlmostEqual(now.drop, was.drop, places=4)
                        self.assertAlmostEqual(now.edge, was.edge, places=4)
                        np.testing.assert_allclose(now.heights(inner), heights, atol=1e-3)

    @sweep
    def test_units_change_the_words_and_nothing_else(self) -> None:
        for plan in demo_plans():
            bare = plan.model_dump(mode="json")
            bare["survey"]["levels"] = []
            first = answered(plan_from(bare))
            for length in ("mm", "cm", "in", "ft"):
                if length == plan.display.length:
                    continue
                other = answered(plan_from(bare | {"display": {"length": length}}))
                for (name, was), (_, now) in zip(first.figures, other.figures, strict=True):
                    self.assertEqual(was.value, now.value, name)
                codes = [
                    [(f.severity, f.code, f.measured) for f in s.findings] for s in (first, other)
                ]
                self.assertEqual(*codes)
