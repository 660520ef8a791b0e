"""Where the depth goes and can come from: every figure is that of the plan that is offered."""

from __future__ import annotations

import random
import unittest
from math import ceil
from typing import Any

from shapely.geometry import Point

from calm_basin.core.answer.case import key_of
from calm_basin.core.answer.changes import changed
from calm_basin.core.depth.thresholds import door_edges
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.geometry.levels import depth_available, levels
from calm_basin.core.systems.fitting import fitted
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.job import DisplayChoice
from calm_basin.rules import TRADE, build_systems, drain_families
from calm_basin.units import parse_length
from tests.core.test_offers import documents
from tests.plans import (
    Document,
    answered,
    channel,
    cured,
    document,
    layers,
    moved,
    offering,
    point,
    tray,
    ways_of,
    wet_room,
)
from tests.sweeps import some, sweep


def chance_plan(seed: int) -> Plan:
    """A plan by chance: bed in one lift or two, tray, panels; pours, set-downs, wet rooms; turned,
    mirrored, in mm or inches."""
    chance = random.Random(seed)
    linear = chance.random() < 0.4
    # Now and then at the very edge: the rim touches the wall's clearance, the channel the wall.
    x, y = chance.choice([(750 + chance.uniform(-200, 200), 1350), (62.1, 1350), (1437.9, 1737.9)])
    drain = channel(0, 1765, 1500, 1765) if linear else point(x, y)
    bed: Document = {"kind": "bed", "least_thickness": chance.uniform(6, 40)}
    if chance.random() < 0.4:
        bed["lower"] = {
            "least_thickness": chance.uniform(8, 25),
            "membrane": 1,
            "fall": chance.choice([1 / 48, 1 / 60, 1 / 40]),
        }
    formers = [bed, tray(chance.uniform(25, 60), raised=chance.choice([0, 6]))]
    if linear:
        formers.append(
            {
                "kind": "panels",
                "thin_edge": chance.uniform(5, 15),
                "thick_edge": chance.uniform(30, 45),
                "length": 1200,
                "width": 400,
            }
        )
    parts: dict[str, Any] = {
        "drain": drain,
        "former": chance.choice(formers),
        "fall": {
            "asked": 1 / chance.choice([40, 48, 60, 80]),
            "edge": chance.choice(["level", "level", "even"]) if not linear else "level",
        },
        "set_down": chance.choice([0, 0, 5, 12, -15]),
        "layers": [
            {"name": "tile", "thickness": chance.uniform(5, 14), "least": 5, "most": 12},
            {"name": "adhesive", "thickness": 4, "least": 3, "most": 6},
            {"name": "membrane", "thickness": 1},
        ],
    }
    if linear and chance.random() < 0.3:
        parts["drain"] = channel(200, 1765, 1300, 1765) | {"strips": 1 / chance.choice([40, 80])}
    if not linear and parts["fall"]["edge"] == "level" and chance.random() < 0.2:
        parts["drain"], parts["second_drain"] = point(400, 1350), point(1100, 1350)
    wet = not linear and chance.random() < 0.2
    doc = wet_room() if wet else document(**parts)
    if chance.random() < 0.4:
        area = chance.choice(["room", "shower", "both"])
        doc["survey"] = {"correction": {"kind": "pour", "cover": 6, "area": area}}
    if chance.random() < 0.3 and not wet:
        doc["room"]["laid"] = chance.uniform(10, 60)
    if chance.random() < 0.3:
        doc["floor"] = {"kind": "slab", "thickness": 120}
    else:
        doc["floor"]["deck_thickness"] = chance.choice([18, 19.05, 25])
    doc["display"] = {"length": chance.choice(["mm", "in"])}
    doc["version"] = 9
    if doc["floor"]["kind"] == "joists":
        doc = moved(doc, turn=chance.uniform(0, 360), mirror=chance.random() < 0.5)
    return plan_from(doc)


def by_hand(plan: Plan) -> float:
    """The recess, summed independently: from the room's floor down."""
    surface, shower = surface_of(plan), plan.shower
    correction = plan.survey.correction
    cover = correction.cover if correction is not None and correction.kind == "pour" else 0.0
    area = correction.area if cover and correction is not None else ""  # type: ignore[union-attr]
    room = sum(layer.thickness for layer in plan.room.layers)
    room += cover if area in ("room", "both") else 0.0
    if plan.room.laid is not None:
        room = plan.room.laid
    at = room - (0 if shower.rest else shower.set_down)
    depth = sum(layer.thickness for layer in shower.layers)
    former = shower.former
    if former.kind == "tray":
        depth += former.edge_thickness - former.raised - surface.edge
    else:
        depth += surface.drop
        depth += former.least_thickness if former.kind == "bed" else former.thin_edge
        if former.kind == "bed" and former.lower is not None:
            depth += former.lower.least_thickness + former.lower.membrane
            worst = 0.0
            for facet in surface.zone("shower"):
                for x, y, z in facet.corners:
                    drain = shower.drain
                    if drain.kind == "linear":
                        bx, by = ((a + b) / 2 for a, b in zip(drain.start, drain.end, strict=True))
                        away = ((x - bx) ** 2 + (y - by) ** 2) ** 0.5
                        worst = max(worst, former.lower.fall * away - (z + surface.drop))
                    else:
                        # With two drains the nearer one is fallen to.
                        away = min(rim.distance(Point(x, y)) for rim in surface.rims)
                        worst = max(worst, former.lower.fall * away - (z + surface.drop))
            depth += worst
    depth += cover if area in ("shower", "both") else 0.0
    return depth - at


class StackTest(unittest.TestCase):
    def test_recess_and_bar_are_those_of_an_independent_sum(self) -> None:
        seen = 0
        for seed in range(some(50)):
            plan = chance_plan(seed)
            try:
                surface = surface_of(plan)
            except NoSurfaceError:
                continue
            seen += 1
            stack = levels(plan, surface)
            self.assertAlmostEqual(stack.recess, by_hand(plan), places=5, msg=str(seed))
            bar = answered(plan).depth
            assert bar is not None
            self.assertAlmostEqual(sum(p.value for p in bar.segments), bar.total, places=6)
            self.assertAlmostEqual(bar.total, stack.room - stack.base, places=6)
            self.assertAlmostEqual(bar.above + bar.below, bar.total, places=6)
        self.assertGreater(seen, 0.75 * some(50))

    def test_what_fits_a_recess_fits_when_it_is_put_in(self) -> None:
        """Solved for the bed, the edge or the fall, the plan with it needs just what there is."""
        names = {"bed": "least_thickness", "tray": "edge_thickness", "panels": "thin_edge"}
        tried = 0
        for seed in range(some(50)):
            plan = chance_plan(seed)
            try:
                bar = answered(plan).depth
            except PlanError:
                continue
            if bar is None:
                continue
            for one in bar.flush:
                former = plan.shower.former
                if one.value is None or one.code not in ("former", "fall"):
                    continue
                if one.code == "former":
                    update: dict[str, Any] = {names[former.kind]: one.value}
                    if former.kind == "panels":
                        update["thick_edge"] = one.value + former.thick_edge - former.thin_edge
                    shower = plan.shower.model_copy(
                        update={"former": former.model_copy(update=update)}
                    )
                else:
                    shower = plan.shower.falling(one.value)
                now = plan.model_copy(update={"shower": shower})
                recess = levels(now, surface_of(now)).recess
                self.assertAlmostEqual(
                    recess, depth_available(plan), delta=2e-3, msg=f"{seed} {one}"
                )
                tried += 1
        self.assertGreater(tried, 0.7 * some(50))

    def test_a_pour_counts_where_it_is_poured(self) -> None:
        def recess(area: str | None) -> float:
            doc = document(former=tray(30)) | {"version": 9}
            if area:
                doc["survey"] = {"correction": {"kind": "pour", "cover": 6, "area": area}}
            plan = plan_from(doc)
            return levels(plan, surface_of(plan)).recess

        bare = recess(None)
        self.assertAlmostEqual(recess("shower"), bare + 6)
        self.assertAlmostEqual(recess("room"), bare - 6)
        self.assertAlmostEqual(recess("both"), bare)

    def test_a_floor_that_is_down_is_met(self) -> None:
        doc = document() | {"version": 9}
        doc["room"]["laid"] = 31.0
        solution = offering(plan_from(doc))
        self.assertEqual(solution.figures.room_level.value, 31)
        finding = next(f for f in solution.findings if f.code == "laid_otherwise")
        self.assertIn("7 mm higher", finding.title)
        (cure,) = finding.cures
        mended = answered(changed(plan_from(doc), cure.changes))
        self.assertNotIn("laid_otherwise", [f.code for f in mended.findings])
        self.assertEqual(mended.figures.recess_needed.value, solution.figures.recess_needed.value)

    def test_layers_beyond_their_kind_are_told_and_mended(self) -> None:
        doc = document() | {"version": 9}
        doc["shower"]["layers"][0] |= {"least": 6, "most": 7}
        solution = offering(plan_from(doc))
        finding = next(f for f in solution.findings if f.code == "layer_unusual")
        self.assertIn("6 mm to 7 mm", finding.detail)
        mended = answered(changed(plan_from(doc), finding.cures[0].changes))
        self.assertNotIn("layer_unusual", [f.code for f in mended.findings])


def standing(plan: Plan, field: str) -> float:
    """The number that stands at a pointer of a plan."""
    value: Any = plan.model_dump(mode="json")
    for key in field.split("/")[1:]:
        value = value[int(key) if key.isdigit() else key]
    return float(value)


class SumTest(unittest.TestCase):
    def test_the_recess_is_the_sum_that_its_working_shows(self) -> None:
        """By what is printed alone, in mm and in inches: the parts add up to the recess, and each
        that names a field is the value that stands there."""
        summed = 0
        plans = [*demo_plans(), *map(chance_plan, range(some(60)))]
        # Each is printed to a tenth of a millimetre, or to a sixteenth of an inch.
        for unit, finest in (("mm", 0.1), ("in", 25.4 / 16)):
            for plan in plans:
                shown = plan.model_copy(update={"display": DisplayChoice(length=unit)})  # type: ignore[arg-type]
                needed = answered(shown).figures.recess_needed
                if needed.value is None:
                    continue
                parts = needed.working.inputs
                display = shown.display.shown
                sizes = [
                    parse_length(part.text.removeprefix("−"), display)
                    * (-1 if part.text.startswith("−") else 1)
                    for part in parts
                ]
                within = finest / 2 * len(parts) + 1e-6
                self.assertAlmostEqual(sum(sizes), needed.value, delta=within)
                for part, size in zip(parts, sizes, strict=True):
                    if part.field and not part.name.startswith("fall"):
                        value = abs(standing(shown, part.field))
                        self.assertAlmostEqual(abs(size), value, delta=finest / 2 + 1e-3)
                        summed += 1
        self.assertGreater(summed, 12 * len(plans))


class WaysTest(unittest.TestCase):
    def checked(self, plan: Plan) -> int:
        """How many ways of a plan were held against the plans that they make."""
        solution = answered(plan, parts=("ways",))
        if solution.ways is None:
            return 0
        here = {key_of(finding) for finding in solution.findings}
        for way in solution.ways.listed:
            made = changed(plan, way.changes)
            now = answered(plan_from(made.model_dump(mode="json")))
            self.assertTrue(now.complete, way.code)
            if way.engineer:
                self.assertEqual((way.changes, way.enough, way.recess), ((), None, None))
                continue
            self.assertAlmostEqual(way.recess or 0, now.figures.recess_needed.value or 0, places=6)
            self.assertEqual(way.step_text, now.figures.step_at_entry.text, way.code)
            titles = sorted(finding.title for finding in now.findings)
            self.assertEqual(sorted(way.findings), titles, way.code)
            if way.enough is not None:
                left = now.figures.recess_left_to_find.value or 0
                # What is less than a twentieth of a millimetre is no depth.
                self.assertEqual(way.enough, left <= 0.05, way.code)
            new = {f.title for f in now.findings if key_of(f) not in here}
            self.assertLessEqual(new, set(way.opens), way.code)
            edges = door_edges(made, surface_of(made))
            if not edges:
                self.assertIn(way.door_text, ("not measured", "no door"))
        for step in solution.ways.cheapest:
            now = answered(changed(plan, step.changes))
            before, after = (
                s.figures.recess_available.value - (s.figures.recess_needed.value or 0)  # type: ignore[operator]
                for s in (solution, now)
            )
            self.assertAlmostEqual(step.gives, after - before, places=6)
            old = {f.code for f in solution.findings if f.severity == "stop"}
            new = {f.code for f in now.findings if f.severity == "stop"}
            self.assertLessEqual(new, old, step.text)
        return len(solution.ways.listed)

    @sweep
    def test_every_way_is_the_plan_that_it_offers(self) -> None:
        held = 0
        for i, plan in enumerate(map(plan_from, documents())):
            with self.subTest(plan.job.name, plan=i):
                found = self.checked(plan)
                # Of the demo there is a way for every job.
                self.assertGreaterEqual(found, int(plan.job.name != "test"))
                held += found
        self.assertGreater(held, 100)

    @sweep
    def test_and_of_plans_by_chance(self) -> None:
        seeds = range(200, 200 + some(8))
        held = sum(self.checked(chance_plan(seed)) for seed in seeds)
        self.assertGreater(held, 2 * len(seeds))

    @sweep
    def test_and_of_every_system(self) -> None:
        plan = demo_plans()[1]
        for system in build_systems().values():
            with self.subTest(system.id):
                self.checked(fitted(plan, system, drain_families()[system.family]))

    def test_all_that_apply_are_told(self) -> None:
        doc = document(former={"kind": "bed", "least_thickness": 20}, fall={"asked": 1 / 48})
        doc["shower"]["layers"][0] |= {"least": 5}
        codes = {way.code for way in ways_of(doc | {"version": 9})}
        self.assertEqual(
            codes,
            {
                "lift_deck",
                "raise_room",
                "on_top",
                "drain_at_entry",
                "flatter",
                "thinner",
                "another_system",
                "structure",
            },
        )
        doc["floor"] = {"kind": "slab", "thickness": 150}
        codes = {way.code for way in ways_of(doc | {"version": 9})}
        self.assertIn("cut_slab", codes)
        self.assertNotIn("structure", codes)

    def test_a_room_is_raised_by_boards_that_are_sold(self) -> None:
        """1/4 to 3/4 in by eighths, or 6 to 22 mm: common practice, no source."""
        boards = TRADE.practice.boards
        for by, inches, high in (
            (0.1, True, 6.35),
            (6.35, True, 6.35),
            (6.4, True, 9.525),
            (19.06, True, 19.05 + 6.35),
            (40.0, True, 2 * 19.05 + 6.35),
            (1.6, False, 6),
            (10, False, 12),
            (23, False, 28),
            (44, False, 44),
        ):
            got = boards.at_least(by, inches=inches)
            self.assertAlmostEqual(got, high, msg=str(by))
        raised = 0
        for unit, sold in (("in", boards.inch), ("mm", boards.metric)):
            for deck in (12, 14, 15):
                doc = document() | {"display": {"length": unit}}
                doc["floor"]["deck_thickness"] = deck
                for finding in cured(doc).findings:
                    for cure in finding.cures:
                        if not cure.text.startswith("Raise the room"):
                            continue
                        (change,) = cure.changes
                        thick = change.value[-1]["thickness"]
                        self.assertIn(thick, [float(given.removesuffix("mm")) for given in sold])
                        raised += 1
        self.assertGreater(raised, 0)

    def test_on_top_is_a_step_with_a_ramp(self) -> None:
        doc = document(former={"kind": "bed", "least_thickness": 20})
        way = next(way for way in ways_of(doc) if way.code == "on_top")
        plan = changed(plan_from(doc), way.changes)
        self.assertIn("up", way.step_text)
        bevel = plan.shower.bevel
        assert bevel is not None
        self.assertLessEqual(bevel.height / bevel.run, 1 / 12 + 1e-9)
        self.assertTrue(way.opens)

    def test_a_ramp_is_offered_only_where_the_floor_before_the_entry_is_as_long(self) -> None:
        for seed in range(some(12)):
            chance = random.Random(seed)
            before = chance.uniform(200, 900)
            doc = document(former={"kind": "bed", "least_thickness": chance.uniform(15, 45)})
            doc["room"]["outline"] = [
                [0, 900 - before],
                [2400, 900 - before],
                [2400, 1800],
                [0, 1800],
            ]
            plan = plan_from(moved(doc, turn=chance.uniform(0, 360), mirror=bool(seed % 2)))
            solution = answered(plan, parts=("ways",))
            assert solution.ways is not None
            short = solution.figures.recess_left_to_find.value or 0
            rise = solution.figures.recess_needed.value or 0
            # Whole millimetres at 1:12 (ADA 405.2, from memory), as long as the way is offered.
            fits = ceil(ceil(rise - 1e-6) * 12 - 1e-6) <= before
            told = [way for way in solution.ways.listed if way.code == "on_top"]
            with self.subTest(plan=seed):
                self.assertEqual(bool(told), short > 0 and fits)

    def test_raising_the_room_moves_it_to_the_door(self) -> None:
        doc = document(former={"kind": "bed", "least_thickness": 40})
        doc["room"]["doors"][0]["outside"] = 24
        doc["rule_set"] = "us-accessible"
        way = next(way for way in ways_of(doc) if way.code == "raise_room")
        self.assertIn("up", way.door_text)
        self.assertTrue(any("door" in title.lower() for title in way.opens), way.opens)

    def test_a_slab_says_what_comes_out_of_it(self) -> None:
        doc = document()
        doc["floor"] = {"kind": "slab", "thickness": 150}
        doc["room"]["layers"] = layers(("tile", 5))
        way = next(way for way in ways_of(doc) if way.code == "cut_slab")
        plan = plan_from(doc)
        litres = 1.5 * 0.9 * levels(plan, surface_of(plan)).recess
        self.assertIn(f"{litres:.0f} L", way.material)
        self.assertIn("scan", way.forbids)


if __name__ == "__main__":
    unittest.main()


class HeightsTest(unittest.TestCase):
    def test_the_chain_of_heights_adds_up_or_says_that_it_does_not(self) -> None:
        """From the deck to the grate the parts' own figures make the grate's level; where the
        recess is short the part that is missing stands among them."""
        short = 0
        for seed in range(some(40)):
            chance = random.Random(seed)
            doc = document(former={"kind": "bed", "least_thickness": chance.uniform(5, 40)})
            doc["floor"]["deck_thickness"] = chance.choice([12, 18, 22])
            doc["room"]["layers"][-1]["thickness"] = chance.choice([0.5, 10, 30, 60])
            doc["display"] = {"length": "mm"}
            found = answered(plan_from(doc | {"version": 9}))
            chain = found.chains[0]
            sizes = [parse_length(part.text.replace("−", "-")) for part in chain.parts]
            with self.subTest(plan=seed):
                self.assertAlmostEqual(sum(sizes[:-1]), sizes[-1], delta=0.051 * len(sizes))
                left = found.figures.recess_left_to_find.value
                told = any("do not add up" in line for line in chain.said)
                if abs(left - 0.5) > 0.01:
                    self.assertEqual(told, left > 0.5)
                short += told
        self.assertTrue(short > 3 or some(40) < 40)
