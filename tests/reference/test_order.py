"""What is bought, against sums by hand for three demo jobs and against what the levels enclose."""

import math
import unittest
from fractions import Fraction

import numpy as np
from shapely.affinity import rotate
from shapely.geometry import LineString, Point, Polygon, box

from calm_basin.core.membrane.pieces import AT_WALL, bands, sealed
from calm_basin.core.order.result import OrderLine, OrderResult
from calm_basin.core.solution import Solution
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.shower import MortarBed
from calm_basin.rules import TRADE
from tests.extremes import extreme
from tests.plans import L_SHAPE, answered, channel, document, moved, point
from tests.sweeps import some, sweep

FOOT, SQUARE_FOOT = 304.8, 304.8**2


def ordered(plan: Plan) -> OrderResult:
    result = answered(plan, parts=("order",)).order
    assert result is not None
    return result


def lines_of(plan: Plan) -> dict[str, OrderLine]:
    return {line.item: line for line in ordered(plan).lines}


def job(name: str) -> Plan:
    return next(plan for plan in demo_plans() if plan.job.name.startswith(name))


class ByHandTest(unittest.TestCase):
    """Geometry of the demo's own numbers; packs and waste are common practice, no source."""

    def holds(self, line: OrderLine, needed: float, packs: int, share: float = 0.005) -> None:
        self.assertAlmostEqual(line.needed, needed, delta=share * max(needed, 1), msg=line.item)
        self.assertEqual(line.packs, packs, line.item)

    def test_a_bed_with_a_channel_on_joists(self) -> None:
        lines = lines_of(job("Heron Terrace"))
        # 1500 wide, one plane from the entry at y 1060 to the rim at 2045 - 35 = 2010, by 1:60 and
        # 10 thick at the rim; beside the channel's ends 70 and 10 by 70, about 10 thick.
        run = 2010 - 1060
        # Needed are 15 of layers, 10 of bed and the fall, less the 24 by which the room is higher;
        # the refitted deck lies 18 lower, and the bed fills the rest.
        bed = 10 + 18 - (15 + 10 + run / 60 - 24)
        plane = 1500 * run * (bed + run / 60 / 2)
        ends = (70 + 10) * 70 * bed
        self.holds(lines["mud"], (plane + ends) / 1e6, math.ceil(27.2 * 1.1 / 13))
        # 900 mm into the room from a shower at the left wall and the back: to x 2400, y 160.
        kept = 2400 * (2080 - 160) / 1e6
        self.holds(lines["membrane"], kept, 1)
        # At the walls: left from 160 to 2080, back from 0 to 2400; the joint: entry and right side;
        # each of the four laps 50 at both ends.
        self.holds(lines["band"], (1920 + 2400 + 1500 + 1020 + 4 * 2 * 50) / 1e3, 1)
        self.holds(lines["inside_corner"], 1, 1)
        self.assertNotIn("outside_corner", lines)
        room = Polygon([(0, 0), (2620, 0), (2605, 2080), (0, 2080)]).area / 1e6
        shower = 1.5 * 1.02
        self.holds(lines["tile"], shower, math.ceil(shower * 1.1))
        self.holds(lines["room_tile"], room - shower, math.ceil((room - shower) * 1.1))
        self.holds(lines["tile_adhesive"], room, math.ceil(room * 1.1 / 5))
        self.holds(lines["board"], room - shower, math.ceil((room - shower) * 1.1 / 0.72))
        self.holds(lines["pipe"], 1.9, 1, share=0.05)

    def test_a_bed_in_two_zones_on_a_slab(self) -> None:
        plan = job("Birch Landing")
        lines = lines_of(plan)
        # Four planes from level edges of 1000 to a rim of 150, 25 thick there; by 2 % along the
        # corners' run: 425 √2. Their mean rise is (150/2 + 850/3) / (150 + 850/2) of the whole.
        drop = 0.02 * 425 * math.sqrt(2)
        mean = (75 + 850 / 3) / (150 + 425)
        # The rest falls 1 % by the farthest of its ways to the zone's edge, to 75 less that at the
        # zone; what the bed does not need it is cast down by, to the slab.
        solution = answered(plan)
        entry, base = solution.figures.entry_level.value, solution.figures.base_level.value
        assert entry is not None and base is not None
        self.assertAlmostEqual(base, entry - drop - 9 - 25, places=6)
        zone = (1e6 - 150**2) * (25 + base + drop * mean) / 1e6
        mud = lines["mud"]
        inside = next(one.text for one in mud.why.inputs if one.name == "in the shower")
        self.assertAlmostEqual(float(inside.split()[0]), zone, delta=0.06)
        # The whole wet room is sealed: 1700 × 2400; every wall and every corner of it.
        self.holds(lines["membrane"], 1.7 * 2.4, 1)
        self.holds(lines["inside_corner"], 4, 2)
        walls, joint = 2 * (1700 + 2400), 2 * 1000
        self.holds(lines["band"], (walls + joint + 6 * 2 * 50) / 1e3, 2)
        self.assertNotIn("cleat", lines)
        self.assertNotIn("deck", lines)

    def test_a_tray_in_inches_on_joists(self) -> None:
        lines = lines_of(job("Fennel Hill"))
        # Half a bag goes under 36 × 40 in: under 48 × 48 in 0.8. A tube of 10 oz gives 6 ft.
        self.holds(lines["bedding"], 16 * SQUARE_FOOT / 1e6, 1)
        self.assertAlmostEqual(lines["bedding"].needed / lines["bedding"].pack, 0.8, places=3)
        self.holds(lines["sealant"], 16 * FOOT / 1e3, math.ceil(16 * 1.1 / 6))
        # A gallon at 0.15 L a square metre covers 3.785 / 0.15 = 25.2 m².
        self.holds(lines["primer"], 16 * SQUARE_FOOT / 1e6, 1)
        self.assertAlmostEqual(lines["primer"].pack, 3.785 / 0.15, places=1)
        kept = (1219.2 + 900) * 1981.2
        self.holds(lines["membrane"], kept / 1e6, 1)
        self.holds(lines["band"], (2 * 2119.2 + 1981.2 + 2 * 1219.2 + 5 * 100) / 1e3, 1)
        self.holds(lines["tile"], 16 * SQUARE_FOOT / 1e6, 2)
        self.holds(lines["room_tile"], 36 * SQUARE_FOOT / 1e6, 4)
        # Six cleats of 4 ft lie two a length of 8 ft once each is a saw's cut short; three of deck.
        self.assertEqual(lines["cleat"].packs, 4)
        self.assertEqual(lines["deck"].packs, 1)
        self.assertIn("half a tube", " ".join(lines["sealant"].held).lower())


class MixedTest(unittest.TestCase):
    """How much is mixed at a time: by hand, from the usual hours and working times."""

    def test_a_bed_is_mixed_by_the_hour_and_adhesive_by_two(self) -> None:
        lines = lines_of(job("Heron Terrace"))
        # A bed takes three hours of hands and can be worked for one: a third of 27.2 litres is 9.1,
        # 0.7 of a bag of 13 litres, by quarters a half.
        self.assertEqual(
            lines["mud"].batch, "Mix at most 1/2 × 25 kg bag at a time: it can be worked for 60 min"
        )
        # Grout: an hour and a half, worked for half an hour; a third of 5.4 m² at 8 m² a bag.
        room = Polygon([(0, 0), (2620, 0), (2605, 2080), (0, 2080)]).area / 1e6
        self.assertEqual(math.floor(4 * room / 3 / 8), 0)
        self.assertIn("Mix at most 1/4 × 5 kg bag", lines["grout"].batch)
        # Adhesive: 5.4 m² in (5.4 / 0.7 + 5.4 / 0.35) / 2 = 11.6 h, worked for two: 0.93 m² of the
        # five that a bag covers.
        self.assertIn("Mix at most 1/4 × 20 kg bag", lines["tile_adhesive"].batch)
        self.assertEqual(lines["tile"].batch, "")

    @sweep
    def test_no_more_is_mixed_than_hands_lay(self) -> None:
        seen = 0
        for plan in demo_plans():
            for line in lines_of(plan).values():
                item = TRADE.order.items[line.item]
                if not line.batch or "at a time" not in line.batch:
                    continue
                seen += 1
                told = line.batch.removeprefix("Mix at most ").split(" × ")[0].split()
                mixed = sum(float(Fraction(part)) for part in told) * line.pack
                usual = TRADE.tasks.tasks[item.task]
                hours = sum(usual.hands) / 2
                if usual.rate:
                    hours = sum(line.needed / rate for rate in usual.rate) / 2
                laid = line.needed * item.works / 60 / hours
                self.assertLessEqual(mixed, max(laid, line.pack / 4) + 1e-6, line.item)
        self.assertGreater(seen, 10)


class BandTest(unittest.TestCase):
    @sweep
    def test_bands_run_along_all_that_is_sealed_at_walls_and_across_the_joint(self) -> None:
        """Against the whole outline with shapely: what of it runs at walls, and what of the shower
        does not; pieces of less than 10 mm apart."""
        for seed in range(some(60)):
            try:
                plan = plan_from(extreme(seed))
            except PlanError:
                continue
            lines = bands(plan)
            at_walls = [band.length for band in lines if band.wall is not None]
            across = [band.length for band in lines if band.wall is None]
            room = Polygon(plan.room.outline).exterior.buffer(AT_WALL)
            near = sealed(plan).exterior.intersection(room).length
            joint = Polygon(plan.shower.outline).exterior.difference(room).length
            count = len(plan.room.outline) + len(plan.shower.outline) + 4
            self.assertAlmostEqual(sum(at_walls), near, delta=10 * count)
            self.assertAlmostEqual(sum(across), joint, delta=10 * count)

    def test_rolls_are_cut_with_no_piece_lost(self) -> None:
        for plan in demo_plans():
            result = ordered(plan)
            rolls = next(cuts for cuts in result.cuts if cuts.item == "band")
            runs = [band.length for band in bands(plan)]
            wanted = sum(runs) + 100 * len(runs)
            cut = sum(piece for bar in rolls.bars for piece in bar.pieces)
            self.assertAlmostEqual(cut, wanted, delta=0.1 * len(runs))
            line = next(line for line in result.lines if line.item == "band")
            self.assertEqual(line.packs, rolls.bought)
            self.assertAlmostEqual(line.needed * 1e3, wanted, delta=0.1)
            for bar in rolls.bars:
                self.assertLessEqual(sum(bar.pieces), line.pack * 1e3 + 0.1)


class EnclosedTest(unittest.TestCase):
    """The bed is what lies between the finished floor, less its layers, and what it stands on."""

    def enclosed(self, plan: Plan) -> float:
        solution = answered(plan)
        former = plan.shower.former
        assert isinstance(former, MortarBed)
        shower = Polygon(plan.shower.outline)
        top = sum(layer.thickness for layer in plan.shower.layers)
        base = solution.figures.base_level.value
        assert base is not None
        # The bed is cast down to what carries it: a deck that stays, one that was refitted lower,
        # or a slab that is cut as far as it has to be.
        if plan.floor.kind == "slab":
            base = min(base, 0.0)
        else:
            base = min(base, 0.0 if base >= 0 else -plan.floor.deck_thickness)
        if former.lower is not None:
            base += former.lower.membrane
        left, bottom, right, up = shower.bounds
        count = 40
        xs = left + (np.arange(count) + 0.5) * (right - left) / count
        ys = bottom + (np.arange(count) + 0.5) * (up - bottom) / count
        inside = [(x, y) for x in xs for y in ys if shower.contains(Point(x, y))]
        spots = answered(plan, at=inside).asked
        # Nothing is cast where the drain is.
        rim = _rim(plan)
        heights = [
            spot.height
            for spot in spots
            if spot.height is not None and not rim.contains(Point(spot.x, spot.y))
        ]
        mean = float(np.mean(heights)) - top - base
        return mean * shower.area * len(heights) / len(inside) / 1e6

    @sweep
    def test_beds_of_any_room_hold_what_the_levels_enclose(self) -> None:
        looked = 0
        for seed in range(some(15)):
            turn, mirror = seed * 17.3 % 360, seed % 2 == 0
            kinds = (
                document(
                    outline=L_SHAPE,
                    drain=point(1200, 500 + seed),
                    fall={"asked": 1 / 50, "edge": "even"},
                ),
                document(drain=channel(0, 1765, 1500, 1765)),
                document(),
            )
            kind = kinds[seed % 3]
            if seed % 4 == 1:
                # The shower's base comes to lie above the deck.
                kind["room"]["layers"] = [{"name": "tile", "thickness": 10 + 9 * seed}]
            if seed % 5 == 2:
                kind["floor"] = {"kind": "slab", "thickness": 150}
            if seed % 6 == 5:
                lower = {"least_thickness": 20, "membrane": 1}
                kind["shower"]["former"] |= {"least_thickness": 30, "lower": lower}
            doc = moved(kind, turn=turn, mirror=mirror)
            doc["display"] = {"length": ("mm", "in")[seed // 2 % 2]}
            plan = plan_from(doc)
            found = answered(plan, parts=("order",)).order
            line = None if found is None else next(o for o in found.lines if o.item == "mud")
            if line is None:
                continue
            looked += 1
            self.assertAlmostEqual(line.needed, self.enclosed(plan), delta=0.02 * line.needed)
        self.assertGreater(looked, some(15) // 2)

    def test_what_lies_round_a_wall_is_not_sealed(self) -> None:
        """A room like a U, its arms 500 mm apart, with the shower at the end of one."""
        room = [[0, 0], [2900, 0], [2900, 3000], [1700, 3000], [1700, 600], [1200, 600]]
        doc = document(
            outline=[[0, 2000], [1200, 2000], [1200, 3000], [0, 3000]], drain=point(600, 2500)
        )
        doc["room"] |= {"outline": [*room, [1200, 3000], [0, 3000]], "doors": []}
        lines = lines_of(plan_from(doc))
        self.assertAlmostEqual(lines["membrane"].needed, 1.2 * (1.0 + 0.9), places=6)

    @sweep
    def test_amounts_are_the_same_turned_and_mirrored(self) -> None:
        looked = 0
        for seed in range(some(20)):
            try:
                doc = extreme(seed)
                doc["survey"] = {}
                one, other = plan_from(doc), plan_from(moved(doc, turn=90, mirror=True))
                first, second = (
                    _amounts(answered(one, parts=("order",))),
                    _amounts(answered(other, parts=("order",))),
                )
            except PlanError:
                continue
            for item in first:
                if item in ("pipe", "bend"):
                    continue
                self.assertAlmostEqual(
                    first[item], second.get(item, 0), delta=0.02 * first[item] + 2, msg=item
                )
                looked += 1
        self.assertGreater(looked, some(20))


def _amounts(solution: Solution) -> dict[str, float]:
    return {} if solution.order is None else {o.item: o.needed for o in solution.order.lines}


def _rim(plan: Plan) -> Polygon:
    drain = plan.shower.drain
    if drain.kind == "linear":
        return LineString([drain.start, drain.end]).buffer(drain.width / 2, cap_style="flat")
    (x, y), w, h = drain.centre, drain.width / 2, drain.length / 2
    return rotate(box(x - w, y - h, x + w, y + h), drain.orientation)
