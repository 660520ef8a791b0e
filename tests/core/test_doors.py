"""Doors of wet rooms stay level, wherever they lie and however the room is turned."""

import unittest

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from calm_basin.core.falls import NoSurfaceError, door_edges, surface_of
from calm_basin.core.geometry.drops import DRAIN, Net
from calm_basin.plan import PlanError, plan_from
from tests.plans import Document, document, moved, point, wet_room
from tests.sweeps import examples


@st.composite
def rooms_with_doors(draw: st.DrawFn) -> Document:
    """Wet rooms in two zones, square and L-shaped, with one or two doors anywhere, in mm and in
    inches, turned and mirrored."""
    unit = draw(st.sampled_from([10.0, 25.4]))
    wide, deep = (draw(st.integers(int(1700 / unit), int(3400 / unit))) * unit for _ in "xy")
    zone_wide, zone_deep = (
        draw(st.integers(int(750 / unit), int(1100 / unit))) * unit for _ in "xy"
    )
    left = draw(st.sampled_from([0.0, wide - zone_wide, (wide - zone_wide) / 3]))
    low = draw(st.sampled_from([0.0, (deep - zone_deep) / 2]))
    zone = [
        [left, low],
        [left + zone_wide, low],
        [left + zone_wide, low + zone_deep],
        [left, low + zone_deep],
    ]
    room = [[0, 0], [wide, 0], [wide, deep], [0, deep]]
    if draw(st.booleans()) and left == 0 and low == 0:
        room = [
            [0, 0],
            [wide, 0],
            [wide, 0.6 * deep],
            [0.7 * wide, 0.6 * deep],
            [0.7 * wide, deep],
            [0, deep],
        ]
    doors = []
    for _ in range(draw(st.integers(1, 2))):
        wall = draw(st.integers(0, len(room) - 1))
        length = float(np.hypot(*(np.array(room[wall]) - room[(wall + 1) % len(room)])))
        width = min(760.0, 0.6 * length)
        share = draw(st.integers(0, 20)) / 20
        doors.append({"wall": wall, "offset": share * (length - width), "width": width})
    doc = wet_room(
        outline=zone,
        entries=[draw(st.integers(0, 3))],
        drain=point(left + zone_wide / 2, low + zone_deep / 2, 100, draw(st.integers(0, 89))),
        set_down=draw(st.sampled_from([0.0, 5.0])),
    )
    doc["room"] |= {"outline": room, "doors": doors}
    return moved(doc, turn=draw(st.sampled_from([0, 22, -137])), mirror=draw(st.booleans()))


class LevelDoorTest(unittest.TestCase):
    @examples(60)
    @given(rooms_with_doors())
    def test_every_door_lies_at_the_rooms_level_and_all_water_gets_away(
        self, doc: Document
    ) -> None:
        try:
            plan = plan_from(doc)
            floor = surface_of(plan)
        except (NoSurfaceError, PlanError):
            assume(False)
        for start, end in door_edges(plan.room):
            along = start + np.linspace(0.002, 0.998, 25)[:, None] * (end - start)
            inward = np.array([-(end - start)[1], (end - start)[0]])
            just_in = along + inward / np.hypot(*inward) * 0.01
            np.testing.assert_allclose(floor.heights(just_in), 0, atol=0.02)
        rng = np.random.default_rng(3)
        left, bottom, right, top = floor.outline.bounds
        drops = rng.uniform((left, bottom), (right, top), (200, 2))
        ways = Net(floor, []).run(drops[floor.located(drops) >= 0])
        self.assertGreater((ways.ends == DRAIN).mean(), 0.97)

    def test_a_door_that_opens_into_the_zone_lifts_nothing(self) -> None:
        doc = wet_room(
            outline=[[0, 0], [900, 0], [900, 900], [0, 900]], entries=[1, 2], drain=point(450, 450)
        )
        doc["room"]["doors"] = [{"wall": 0, "offset": 70, "width": 760}]
        floor = surface_of(plan_from(doc))
        self.assertAlmostEqual(
            max(f.corners[:, 2].max() for f in floor.zone("shower")), 0, places=6
        )

    def test_entries_on_both_sides_of_an_inner_corner_keep_the_water_back(self) -> None:
        # An even floor in an L, level along both sides of its inner corner: the lines in which its
        # level planes meet the others do not fall, and 78 % of the water would stay in them.
        outline = [[0, 0], [1500, 0], [1500, 1800], [900, 1800], [900, 900], [0, 900]]
        fall = {"asked": 1 / 60, "edge": "even"}
        for turn in (0, 30):
            doc = document(outline=outline, entries=[3, 4], drain=point(1200, 450), fall=fall)
            with self.assertRaises(NoSurfaceError) as caught:
                surface_of(plan_from(moved(doc, turn=turn)))
            self.assertEqual(caught.exception.code, "water_trapped")
