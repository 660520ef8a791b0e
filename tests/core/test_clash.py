"""The drain against floors of every kind, by looking at places inside it one by one."""

from __future__ import annotations

import json
import math
import random
import unittest
from itertools import pairwise
from typing import Any

import numpy as np
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from calm_basin.cli import main
from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Change
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.kinds import drain_kind
from calm_basin.core.structure.footing import standing
from calm_basin.core.structure.joists import timbers_of
from calm_basin.core.structure.meeting import met
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.rules import drain_families
from tests.core.test_structure import codes, under
from tests.plans import Document, answered, channel, document, moved, offering, point, tray
from tests.sweeps import examples, some, sweep

Array = np.ndarray[Any, np.dtype[np.float64]]

FAMILIES = list(drain_families().values())

CLOSE = 1.5
"""Samples that lie so near to a side, mm, decide nothing: it is drawn and rounded."""


def rotated(points: Array, degrees: float) -> Array:
    angle = math.radians(degrees)
    turn = np.array([[math.cos(angle), math.sin(angle)], [-math.sin(angle), math.cos(angle)]])
    return points @ turn


def rectangle(wide: float, long: float, turn: float, at: Array) -> Array:
    """Places all over a rectangle, its sides too, no farther apart than some 6 mm."""
    xs = np.linspace(-wide / 2, wide / 2, max(3, int(wide / 6) + 2))
    ys = np.linspace(-long / 2, long / 2, max(3, int(long / 6) + 2))
    grid = np.stack(np.meshgrid(xs, ys), axis=-1).reshape(-1, 2)
    return rotated(grid, turn) + at


def disc(across: float, at: Array) -> Array:
    """Places all over a disc and on its edge."""
    radii = np.linspace(0, across / 2, max(4, int(across / 12) + 2))
    angles = np.linspace(0, 2 * math.pi, 72, endpoint=False)
    r, a = np.meshgrid(radii, angles)
    return np.stack([r * np.cos(a), r * np.sin(a)], axis=-1).reshape(-1, 2) + at


def deep_in(places: Array, start: Array, end: Array, wide: float) -> float:
    """How far inside a bar from ``start`` to ``end`` the deepest of some places lies, mm; below 0:
    how far outside the nearest one is along one of its directions."""
    way = (end - start) / np.hypot(*(end - start))
    local = places - start
    along, aside = local @ way, np.abs(local @ np.array([-way[1], way[0]]))
    inside = np.minimum(np.minimum(along, np.hypot(*(end - start)) - along), wide / 2 - aside)
    return float(inside.max())


@st.composite
def floors(draw: st.DrawFn) -> Document:
    """Joists of any kind, some cut short, with timbers at any angle and lines that were found."""
    number, families = st.floats, [f for f in FAMILIES if f.drain == "point"]
    linear = draw(st.booleans())
    place = st.tuples(number(-200, 2500), number(700, 1900)).map(list)
    if linear:
        doc = document(drain=channel(0, 1600, 1500, 1600) | {"outlet": draw(number(60, 1440))})
        family = drain_families()["narrow-channel"]
    else:
        doc = document(
            drain=point(
                draw(number(300, 1200)), draw(number(1150, 1550)), 100, draw(number(-90, 90))
            ),
            former=draw(st.sampled_from([tray(30), {"kind": "bed", "least_thickness": 12}])),
        )
        family = draw(st.sampled_from(families))
    doc = under(
        doc,
        family.id,
        direction=draw(st.sampled_from([0.0, 90.0]) | number(-180, 180)),
        centres=draw(number(320, 700)),
        width=draw(number(38, 75)),
        depth=draw(number(120, 300)),
        first_offset=draw(number(-500, 500)),
        deck_thickness=draw(number(12, 50)),
        others=[
            {"number": k, "end": draw(number(-200, 2000))}
            for k in draw(st.lists(st.integers(-4, 4), max_size=3, unique=True))
        ],
        members=draw(
            st.lists(
                st.fixed_dictionaries(
                    {
                        "kind": st.sampled_from(["trimmer", "joist", "blocking"]),
                        "start": place,
                        "end": place,
                        "width": number(40, 90),
                    }
                ),
                max_size=2,
            )
        ),
        beams=draw(
            st.lists(
                st.fixed_dictionaries(
                    {
                        "kind": st.just("girder"),
                        "start": place,
                        "end": place,
                        "width": number(60, 200),
                        "flush": st.booleans(),
                    }
                ),
                max_size=1,
            )
        ),
    )
    doc["services"] = draw(
        st.lists(
            st.fixed_dictionaries(
                {
                    "name": st.just("a line"),
                    "points": st.lists(place, min_size=2, max_size=3),
                    "clearance": st.just(0.0),
                    "depth": st.none() | number(0, 400),
                }
            ),
            max_size=1,
        )
    )
    return doc


def parts(plan: Plan) -> list[tuple[str, Array, float]]:
    """Places all over each part of the drain, and the level of its underside."""
    family, drain = plan.waste.family, plan.shower.drain
    assert family is not None
    stands, at = standing(plan, surface_of(plan)), drain_kind(drain).outlet
    turn = drain.orientation if drain.kind == "point" else 0.0
    hole = (
        disc(family.hole_width, at)
        if family.hole == "round"
        else rectangle(family.hole_width, family.hole_length, turn, at)
    )
    found = [("hole", hole, stands.deck - family.trap - family.pipe / 2)]
    for part in ("body", "flange"):
        wide, long = (getattr(family, f"{part}_{size}") for size in ("width", "length"))
        if wide <= 0:
            continue
        bottom = stands.rim - getattr(family, f"{part}_depth")
        if drain.kind == "linear":
            middle = (np.array(drain.start) + np.array(drain.end)) / 2
            length = float(np.hypot(*(np.array(drain.end) - np.array(drain.start))))
            name = "channel" if part == "body" else "flange"
            found.append((name, rectangle(length, wide, 0.0, middle), bottom))
        else:
            found.append((part, rectangle(wide, long or wide, turn, at), bottom))
    return found


def bars(plan: Plan) -> list[tuple[Array, Array, float, float]]:
    """Every timber as the plan's own words say it: ends of its middle, width, level of its top."""
    floor = plan.floor
    assert floor.kind == "joists"
    angle, top = math.radians(floor.direction), -floor.deck_thickness
    along = np.array([math.cos(angle), math.sin(angle)])
    across = np.array([-along[1], along[0]])
    cut = {other.number: other.end for other in floor.others}
    found = []
    for k in range(-30, 31):
        middle = floor.first_offset + k * floor.centres
        end = 9000.0 if cut.get(k) is None else cut[k]
        start = -9000.0
        assert end is not None
        found.append(
            (along * start + across * middle, along * end + across * middle, floor.width, top)
        )
    for member in floor.members:
        found.append((np.array(member.start), np.array(member.end), member.width, top))
    for beam in floor.beams:
        level = top if beam.flush else top - floor.depth
        found.append((np.array(beam.start), np.array(beam.end), beam.width, level))
    return found


class SampledTest(unittest.TestCase):
    @examples(100)
    @given(floors())
    def test_meets_what_a_place_inside_it_lies_in(self, doc: Document) -> None:
        try:
            plan = plan_from(doc)
            surface = surface_of(plan)
        except (NoSurfaceError, ValueError):
            return
        found = {
            (one.way.part, one.way.service): one.by
            for one in met(plan, surface, drain_kind(plan.shower.drain))
        }
        for part, places, bottom in parts(plan):
            depths = [
                (deep_in(places, start, end, wide), top - bottom)
                for start, end, wide, top in bars(plan)
            ]
            sure = any(inside > CLOSE and below > CLOSE for inside, below in depths)
            # A sample may stand up to some 6 mm from the deepest place of its part.
            never = all(inside < -7 or below < -CLOSE for inside, below in depths)
            if sure:
                self.assertIn((part, False), found)
            if never:
                self.assertNotIn((part, False), found)
        for service in plan.services:
            level = math.inf if service.depth is None else -service.depth
            line = [np.array(p) for p in service.points]
            for part, places, bottom in parts(plan):
                near = min(self.apart(places, a, b) for a, b in pairwise(line))
                if near > 7 or level < bottom - CLOSE:
                    self.assertNotIn((part, True), found)

    @staticmethod
    def apart(places: Array, start: Array, end: Array) -> float:
        way = end - start
        length2 = float(way @ way)
        share = np.zeros(len(places)) if length2 == 0 else ((places - start) @ way) / length2
        foot = start + np.clip(share, 0, 1)[:, None] * way
        return float(np.hypot(*(places - foot).T).min())


class AtAnyTurnTest(unittest.TestCase):
    """A clash made by hand is told in finding, section, chart and command line, however the room
    lies, in mm and in inches, at the very edge of the shower."""

    def told(self, doc: Document, *, met_here: bool) -> None:
        solution = answered(plan_from(doc))
        assert solution.structure is not None and solution.section is not None
        self.assertEqual("drain_on_timber" in codes(solution), met_here)
        self.assertEqual(any(body.meets for body in solution.structure.bodies), met_here)
        self.assertEqual("clash" in {band.kind for band in solution.section.bands}, met_here)
        result = CliRunner().invoke(main, ["solve", "-", "--text"], input=json.dumps(doc))
        self.assertEqual(result.exit_code, 0, result.output)
        self.assertEqual("sits on joist" in result.output, met_here)

    @sweep
    def test_in_the_middle_and_at_the_edge(self) -> None:
        # Joists stand at x 200, 600, 1000, 1400, 45 wide; the hole is 101.6 across.
        for x, met_here in ((600, True), (800, False), (62, False), (1424, True)):
            for turn, mirror in ((0, False), (23, False), (90, True), (-117.3, True)):
                for unit in ("mm", "in"):
                    with self.subTest(x=x, turn=turn, unit=unit):
                        doc = under(document(drain=point(x, 1350, 120)))
                        doc["display"] = {"length": unit}
                        doc["floor"]["deck_thickness"] = 120
                        self.told(moved(doc, turn=turn, mirror=mirror), met_here=met_here)


class TrimmedTest(unittest.TestCase):
    def test_a_joist_cut_short_is_out_of_the_way_and_its_trimmer_is_not(self) -> None:
        doc = under(document(drain=point(600, 1350)), others=[{"number": -1, "end": 1100}])
        self.assertNotIn("drain_on_timber", codes(answered(plan_from(doc))))
        doc["floor"]["members"] = [
            {"kind": "trimmer", "start": [200, 1300], "end": [1000, 1300], "width": 45}
        ]
        finding = next(f for f in answered(plan_from(doc)).findings if f.code == "drain_on_timber")
        self.assertIn("trimmer", finding.title)


class SignedTest(unittest.TestCase):
    def test_a_cut_joist_is_a_stop_until_an_engineer_has_signed(self) -> None:
        """Whatever the drain's place: the change for an engineer clears the drain, leaves the stop,
        and who signed for one plan did not sign for the next."""
        offered = 0
        for seed in range(some(12)):
            chance = random.Random(seed)
            doc = document()
            family = drain_families()["gasket-hub-foam-tray"]
            doc["waste"] = {"family": family.model_dump(mode="json")}
            doc["floor"] |= {"centres": 400, "first_offset": chance.uniform(-100, 100)}
            doc["shower"]["drain"] = point(round(chance.uniform(400, 1100)), 1350)
            doc["version"] = 9
            plan = plan_from(doc)
            signed = {"name": "A. Rowan", "on": "2026-11-30"}
            before = changed(plan, (Change(path="/floor/signed", value=signed),))
            for finding in offering(before).findings:
                cures = [cure for cure in finding.cures if "Have an engineer" in cure.text]
                for cure in cures:
                    offered += 1
                    self.assertTrue(any("has to sign" in text for text in cure.opens), cure)
                    cut = changed(before, cure.changes)
                    codes = {f.code: f for f in answered(cut).findings}
                    self.assertNotIn("drain_on_timber", codes)
                    self.assertEqual(codes["engineer_has_to_sign"].severity, "stop")
                    again = changed(cut, (Change(path="/floor/signed", value=signed),))
                    codes = {f.code: f for f in answered(again).findings}
                    self.assertNotIn("engineer_has_to_sign", codes)
                    sheet = answered(again).structure.sheet
                    if sheet is not None:
                        self.assertIn("A. Rowan signed on 2026-11-30", sheet.steps[0])
        self.assertTrue(offered > 0 or some(12) < 12)

    def test_a_day_that_is_none_is_refused_by_name(self) -> None:
        doc = document() | {"version": 9}
        for on, fine in (("2026-02-28", True), ("2026-02-30", False), ("30/11/26", False)):
            doc["floor"]["signed"] = {"name": "A. Rowan", "on": on}
            try:
                plan_from(doc)
            except PlanError as error:
                self.assertFalse(fine)
                self.assertEqual(error.problems[0].path, "/floor/signed/on")
            else:
                self.assertTrue(fine)


class BoughtTrayTest(unittest.TestCase):
    def test_the_shower_moves_with_its_tray_and_the_riser_never_alone(self) -> None:
        """A tray just as large as its shower, its drain on a joist, floor free all round it."""
        offered = 0
        for seed in range(some(16)):
            chance = random.Random(seed)
            wide, deep = (chance.choice([900, 1000, 1219.2, 1524]) for _ in range(2))
            left, back = (chance.uniform(0.35, 0.65) * size for size in (wide, deep))
            doc = document(
                outline=[
                    [800, 900],
                    [800 + wide, 900],
                    [800 + wide, 900 + deep],
                    [800, 900 + deep],
                ],
                drain=point(800 + left, 900 + deep - back, 100),
                former={
                    "kind": "tray",
                    "edge_thickness": 30,
                    "stock": {
                        "width": wide,
                        "length": deep,
                        "drain_left": left,
                        "drain_back": back,
                    },
                },
            )
            doc["room"]["outline"] = [[0, 0], [4000, 0], [4000, 3600], [0, 3600]]
            doc["room"]["doors"] = []
            # A joist right under the drain.
            doc = under(doc, first_offset=0, direction=90, centres=400)
            middles = [t.outline.centroid.x for t in timbers_of(plan_from(doc))]
            off = 800 + left - min(middles, key=lambda x: abs(x - 800 - left))
            # Counted from the right: they run up the plan.
            doc["floor"]["first_offset"] = -off
            plan = plan_from(moved(doc, turn=chance.choice([0.0, 41.0]), mirror=False))
            solution = offering(plan)
            clashes = [f for f in solution.findings if f.code == "drain_on_timber"]
            self.assertTrue(clashes, seed)
            for cure in clashes[0].cures:
                paths = {change.path for change in cure.changes}
                self.assertNotEqual(paths, {"/shower/drain/centre"}, cure.text)
                if "/shower/outline" not in paths:
                    continue
                offered += 1
                after = {f.code for f in answered(changed(plan, cure.changes)).findings}
                self.assertNotIn("drain_on_timber", after)
                self.assertNotIn("tray_too_small", after)
        self.assertGreater(offered, 0)
