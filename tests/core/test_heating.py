"""The heating cable: as long as it is, runs no nearer than said, off all that is kept free, over
random rooms; and told where it does not fit."""

import math
import random
import unittest
from functools import cache
from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.changes import changed
from calm_basin.core.heating.answer import heating
from calm_basin.core.heating.area import along_longest, free_floor, kept_free
from calm_basin.core.heating.fitting import span
from calm_basin.core.heating.result import HeatingResult
from calm_basin.core.heating.route import cover, way
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.backs import footprint
from tests.core.test_tile import case_of
from tests.plans import (
    L_SHAPE,
    Document,
    answered,
    channel,
    document,
    layers,
    moved,
    offering,
    point,
    tray,
    wet_room,
)
from tests.sweeps import each, some

ROUNDED = 0.2
"""What places that are sent are rounded by, mm."""


def heated(doc: Document, **heating: Any) -> Plan:
    whole = plan_from(doc).model_dump(mode="json")
    whole["heating"] = heating
    return plan_from(whole)


def result(plan: Plan) -> HeatingResult:
    found = heating(case_of(plan))
    assert found is not None
    return found


def figure(found: HeatingResult, label: str) -> float:
    (value,) = (one.value for one in found.figures if one.label == label)
    assert value is not None
    return value


@cache
def rooms(count: int) -> tuple[Plan, ...]:
    """Rooms of each kind with what stands in them, at any angle, either way round, in mm and in
    inches, each with a cable that its floor takes."""
    chance, found = random.Random(41), []
    while len(found) < count:
        i = len(found)
        kinds = (
            lambda: document(drain=channel(0, 1765, 1500, 1765)),
            lambda: document(drain=point(chance.uniform(500, 1000), 1350, 120)),
            lambda: document(outline=L_SHAPE, entries=[5], drain=point(1200, 300)),
            wet_room,
            lambda: document(drain=point(200, 1000, 100, turn=chance.uniform(0, 90))),
        )
        doc = kinds[i % len(kinds)]()
        if i % len(kinds) == 2:
            doc["room"]["outline"] = [
                [0, 0],
                [2600, 0],
                [2600, 1800],
                [900, 1800],
                [900, 900],
                [0, 900],
            ]
            doc["room"]["doors"] = []
        doc["room"]["fixtures"] = [
            {
                "name": f"fixture {n}",
                "kind": "cabinet",
                "centre": [chance.uniform(200, 1600), chance.uniform(100, 850)],
                "width": chance.uniform(200, 700),
                "length": chance.uniform(200, 500),
                "turn": chance.choice((0, 90, chance.uniform(0, 90))),
            }
            for n in range(chance.randrange(3))
        ]
        doc = moved(doc, turn=chance.uniform(0, 360), mirror=chance.random() < 0.5)
        if chance.random() < 0.5:
            doc["display"] = {"length": "in"}
        where = chance.choice(("room", "both", "both"))
        least, most = chance.uniform(50, 80), chance.uniform(90, 140)
        plan = heated(doc, where=where, length=1000, least=least, most=most)
        takes = span(free_floor(plan), along_longest(plan.room.outline), least, most, None)
        if takes is None or takes[1] < 4000:
            continue
        assert plan.heating is not None
        cable = plan.heating.model_copy(update={"length": chance.uniform(*takes)})
        found.append(plan.model_copy(update={"heating": cable}))
    return tuple(found)


class RouteTest(unittest.TestCase):
    def test_it_is_as_long_as_the_cable_and_keeps_from_all_it_has_to(self) -> None:
        fits = 0
        for plan in each(rooms(some(50)), 2):
            found, cable = result(plan), plan.heating
            assert cable is not None
            line, apart = LineString(found.route), figure(found, "Spacing")
            self.assertTrue(free_floor(plan).buffer(ROUNDED).covers(line))
            for fixture in plan.room.fixtures:
                self.assertGreater(line.distance(footprint(fixture)), 50 - ROUNDED)
            self.assertGreater(line.distance(Polygon(plan.room.outline).exterior), 50 - ROUNDED)
            # No run is nearer to another than said, and none crosses: a band as wide as that about
            # the line overlaps itself nowhere, so that it is as large as it is long and wide.
            self.assertTrue(line.is_simple)
            wide = apart - 2 * ROUNDED
            band = line.buffer(wide / 2, quad_segs=10)
            self.assertAlmostEqual(
                band.area / (line.length * wide + math.pi * wide**2 / 4), 1, delta=0.006
            )
            self.assertGreaterEqual(apart, max(cable.least, 50) - 1e-6)
            self.assertLessEqual(apart, cable.most + 1e-6)
            if found.state == "fits":
                fits += 1
                self.assertAlmostEqual(line.length / cable.length, 1, delta=0.005)
            # The sensor's tube crosses no run, and lies midway between two.
            if len(found.sensor) > 1:
                tube = LineString(found.sensor)
                self.assertFalse(tube.crosses(line))
                self.assertAlmostEqual(line.distance(tube), apart / 2, delta=1)
        self.assertGreater(fits, some(50) * 0.9)

    def test_what_is_left_of_the_floor_is_little(self) -> None:
        """A bare room of 2400 × 1800, 50 mm kept from the walls: the runs reach within one distance
        of every place of it."""
        square = shapely.box(50, 50, 2350, 1750)
        for apart in (60.0, 83.0, 110.0):
            over = cover(square, apart, 0.0)
            assert over is not None
            line = way(over, math.inf, (0, 0), 300).line
            left = square.difference(LineString(line).buffer(apart))
            self.assertLess(left.area / square.area, 0.13)
            self.assertAlmostEqual(LineString(line).length / over.length, 1, delta=0.003)

    def test_a_square_by_hand(self) -> None:
        """Two by two squares of 200, runs 100 apart: sixteen quarters, round a tree that is a U.
        The way round turns at four corners outside, two at the open end of the U and two at its
        closed one; one side is left open."""
        over = cover(shapely.box(0, 0, 300, 300), 100, 0.0)
        assert over is not None
        self.assertEqual(len(over.cells), 4)
        self.assertEqual(len(over.loop), 16)
        self.assertAlmostEqual(over.length, 100 * (15 - 8 * (1 - math.pi / 4)))

    def test_turned_mirrored_and_in_inches_it_is_the_same(self) -> None:
        doc = wet_room()
        doc["room"]["fixtures"] = [
            {"name": "WC", "kind": "WC", "centre": [1500, 1900], "width": 380, "length": 700}
        ]
        first = None
        for turn, mirror, length in ((0, False, "mm"), (37.3, False, "in"), (217, True, "mm")):
            changed = moved(doc, turn=turn, mirror=mirror) | {"display": {"length": length}}
            found = result(heated(changed, where="both", length=30_000))
            told = [one.value for one in found.figures]
            first = first or told
            np.testing.assert_allclose(told, first, rtol=0.01)

    def test_a_fixture_that_moves_takes_the_cable_with_it(self) -> None:
        doc = document()
        doc["room"]["fixtures"] = [
            {"name": "WC", "kind": "WC", "centre": [2000, 400], "width": 380, "length": 700}
        ]
        before = result(heated(doc, length=20_000))
        doc["room"]["fixtures"][0]["centre"] = [700, 400]
        plan = heated(doc, length=20_000)
        after = result(plan)
        self.assertNotEqual(before.route, after.route)
        self.assertGreater(LineString(after.route).distance(footprint(plan.room.fixtures[0])), 49)

    def test_what_hangs_takes_no_floor_and_drains_are_kept_free(self) -> None:
        doc = document()
        doc["room"]["fixtures"] = [
            {"name": "bar", "kind": "bar", "centre": [2000, 400], "width": 600, "length": 40}
        ]
        plan = heated(doc, where="both", length=30_000)
        (drain,) = kept_free(plan)
        # A rim of 120 × 120 with 50 mm round it, or 100 mm round its middle.
        self.assertAlmostEqual(drain.bounds[2] - drain.bounds[0], 220, delta=0.5)
        doc = document(drain=channel(0, 1765, 1500, 1765, 30))
        (drain,) = kept_free(heated(doc, where="both", length=30_000))
        self.assertAlmostEqual(drain.bounds[3], 1865, delta=0.5)


class FitTest(unittest.TestCase):
    def test_too_long_by_450_mm_says_so_with_its_cure(self) -> None:
        plan = heated(document(), length=1000)
        assert plan.heating is not None
        takes = span(free_floor(plan), 0.0, plan.heating.least, plan.heating.most, None)
        assert takes is not None
        found = result(heated(document(), length=takes[1] + 450))
        self.assertEqual(found.state, "too long")
        self.assertIn("450 mm too long", found.sentence)
        self.assertAlmostEqual(LineString(found.route).length, takes[1], delta=takes[1] * 0.005)
        cure = found.cures[0]
        self.assertIn("Use a ", cure.text)
        mended = result(heated(document(), length=cure.changes[0].value))
        self.assertEqual(mended.state, "fits")

    def test_every_cure_makes_it_fit(self) -> None:
        tried = 0
        for plan in each(rooms(some(15)), 2):
            cable = plan.heating
            assert cable is not None
            for length in (cable.length * 0.3, cable.length * 3):
                changed = cable.model_copy(update={"length": length})
                found = result(plan.model_copy(update={"heating": changed}))
                for cure in found.cures:
                    name = cure.changes[0].path.split("/")[-1]
                    mended = changed.model_copy(update={name: cure.changes[0].value})
                    after = result(plan.model_copy(update={"heating": mended}))
                    self.assertEqual(after.state, "fits", cure.text)
                    tried += 1
        self.assertGreater(tried, 0)

    def test_it_comes_with_the_answer_where_it_is_asked_for(self) -> None:
        plan = heated(document(), length=20_000)
        self.assertIsNone(answered(plan).heating)
        self.assertEqual(answered(plan, parts=("heating",)).heating, result(plan))
        self.assertIsNone(answered(plan_from(document()), parts=("heating",)).heating)

    def test_studs_are_whole_steps(self) -> None:
        for plan in each(rooms(some(15)), 2):
            cable = plan.heating
            assert cable is not None
            studded = cable.model_copy(update={"stud": 22.0})
            found = result(plan.model_copy(update={"heating": studded}))
            if found.figures:
                steps = figure(found, "Spacing") / 22
                self.assertAlmostEqual(steps, round(steps))

    def test_what_it_takes_by_hand(self) -> None:
        """25 m of 10 W a metre at 230 V: 250 W, 1.087 A, 211.6 Ω; 10 % off is 190.4 to 232.8 Ω."""
        found = result(heated(document(), where="both", length=25_000))
        self.assertAlmostEqual(figure(found, "Power"), 250)
        self.assertAlmostEqual(figure(found, "Current"), 250 / 230)
        (ohm,) = (one for one in found.figures if one.label.startswith("Resistance"))
        self.assertEqual(ohm.text, "190.4 to 232.8 Ω")
        apart = figure(found, "Spacing")
        self.assertAlmostEqual(figure(found, "Load per area"), 10 / apart * 1e3)

    def test_no_bend_is_tighter_than_the_cable_takes(self) -> None:
        """Runs that may be 30 mm apart by the plan: a bend of 25 mm keeps them 50 apart."""
        found = result(heated(document(), length=200_000, least=30, most=40))
        self.assertAlmostEqual(figure(found, "Spacing"), 50)
        self.assertIn("At the closest spacing, 50 mm", found.detail)

    def test_nonsense_is_named(self) -> None:
        found = result(heated(document(), length=1000))
        self.assertEqual(found.state, "too short")
        self.assertIn("the rest stays cold", found.detail)
        doc = document()
        doc["room"]["fixtures"] = [
            {"name": "all", "kind": "cabinet", "centre": [1200, 900], "width": 2400, "length": 1800}
        ]
        found = result(heated(doc, length=20_000))
        self.assertEqual((found.state, found.field), ("none", "/heating/where"))
        for cable, path in (
            ({"length": 0}, "/heating/length"),
            ({"length": 20_000, "least": 120, "most": 60}, "/heating/least"),
            ({"length": 20_000, "volts": 0}, "/heating/volts"),
        ):
            with self.assertRaises(PlanError) as refused:
                heated(document(), **cable)
            self.assertEqual(refused.exception.problems[0].path, path)

    def test_on_timber_a_board_comes_first(self) -> None:
        self.assertIn(
            "incombustible board", " ".join(result(heated(document(), length=20_000)).notes)
        )
        slab = document()
        slab["floor"] = {"kind": "slab", "thickness": 120}
        plan = heated(slab, length=20_000)
        self.assertNotIn("incombustible board", " ".join(result(plan).notes))


class BuildUpTest(unittest.TestCase):
    """Cable before the membrane or after: it changes the build-up and the days."""

    def deep(self) -> Document:
        """A floor with depth to spare for a layer more."""
        doc = document()
        doc["floor"]["deck_thickness"] = 40
        doc["room"]["doors"] = []
        return doc

    def test_a_cable_that_no_layer_has_in_it_is_told_and_its_cure_raises_the_floor(self) -> None:
        for where, parts in (
            ("room", ["room"]),
            ("shower", ["shower"]),
            ("both", ["room", "shower"]),
        ):
            lies = "over the membrane"
            plan = heated(self.deep(), where=where, length=8_000, lies=lies)
            found = [f for f in offering(plan).findings if f.code == "cable_not_in_build_up"]
            self.assertEqual(
                sorted(f.applies_to for f in found), [f"the {p}" for p in sorted(parts)]
            )
            for one in found:
                (cure,) = one.cures
                after = changed(plan, cure.changes)
                part = one.applies_to.removeprefix("the ")
                left = [f.applies_to for f in answered(after).findings if f.code == one.code]
                self.assertNotIn(one.applies_to, left)
                thick = [
                    sum(layer.thickness for layer in getattr(p, part).layers) for p in (plan, after)
                ]
                self.assertAlmostEqual(thick[1] - thick[0], 6)

    def test_it_goes_over_or_under_the_membrane_as_it_was_chosen(self) -> None:
        for lies, names in (
            ("under the membrane", ["tile", "adhesive", "membrane", "heating cable in adhesive"]),
            ("over the membrane", ["tile", "adhesive", "heating cable in adhesive", "membrane"]),
        ):
            doc = self.deep()
            doc["shower"]["former"] = tray(40)
            plan = heated(doc, where="shower", length=8_000, lies=lies)
            (found,) = [f for f in offering(plan).findings if f.code == "cable_not_in_build_up"]
            after = changed(plan, found.cures[0].changes)
            self.assertEqual([layer.name for layer in after.shower.layers], names)

    def test_what_is_cast_over_it_holds_it(self) -> None:
        """Under the membrane it lies in the shower's bed, and in the room in a screed."""
        doc = self.deep()
        for name, told in (("board", ["the room"]), ("screed", [])):
            doc["room"]["layers"] = layers(("tile", 10), ("adhesive", 4), (name, 30))
            plan = heated(doc, where="both", length=20_000)
            found = [f for f in answered(plan).findings if f.code == "cable_not_in_build_up"]
            self.assertEqual([f.applies_to for f in found], told)

    def test_on_bare_timber_a_board_comes_first(self) -> None:
        """6 mm under the cable (common practice, no source)."""
        doc = document()
        doc["room"]["layers"] = layers(("tile", 10), ("adhesive", 4))
        plan = heated(doc, where="room", length=8_000)
        (found,) = [f for f in offering(plan).findings if f.code == "cable_on_timber"]
        after = changed(plan, found.cures[0].changes)
        self.assertEqual(after.room.layers[-1].thickness, 6)
        self.assertFalse([f for f in answered(after).findings if f.code == "cable_on_timber"])
        # Plywood burns too: the board lies over it.
        doc["room"]["layers"] = layers(("tile", 10), ("adhesive", 4), ("plywood", 12))
        plan = heated(doc, where="room", length=8_000)
        (found,) = [f for f in offering(plan).findings if f.code == "cable_on_timber"]
        after = changed(plan, found.cures[0].changes)
        roles = [layer.role for layer in after.room.layers]
        self.assertEqual(roles, ["tile", "adhesive", "board", "plywood"])
        self.assertFalse([f for f in answered(after).findings if f.code == "cable_on_timber"])
        beneath = layers(("tile", 10), ("plywood", 12), ("cement board", 10))
        turned = heated(
            doc | {"room": doc["room"] | {"layers": beneath}}, where="room", length=8_000
        )
        self.assertIn("cable_on_timber", {f.code for f in answered(turned).findings})
        slab = doc | {"floor": {"kind": "slab", "thickness": 100}}
        for other in (
            heated(slab, where="room", length=8_000),
            heated(doc, where="shower", length=8_000),
        ):
            codes = {f.code for f in answered(other).findings}
            self.assertNotIn("cable_on_timber", codes)

    def test_the_days_lay_it_before_the_membrane_or_after(self) -> None:
        for lies, before in (("under the membrane", True), ("over the membrane", False)):
            days = answered(heated(document(), lies=lies, length=8_000), parts=("days",)).days
            assert days is not None
            tasks = [slot.task for slot in days.tasks]
            self.assertEqual(tasks.index("cable") < tasks.index("membrane_sheet"), before)
            self.assertLess(tasks.index("cable"), tasks.index("tile_shower"))
        bare = answered(plan_from(document()), parts=("days",)).days
        assert bare is not None
        self.assertNotIn("cable", [slot.task for slot in bare.tasks])
