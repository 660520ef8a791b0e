"""Build systems: read, put into plans, compared; every value of every file is used."""

from __future__ import annotations

import copy
import random
import tomllib
import unittest
from importlib import resources
from typing import Any

import numpy as np
import tomli_w
from shapely.geometry import Polygon

from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Part
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.falls.step import step_of
from calm_basin.core.falls.stock import cut_widths
from calm_basin.core.geometry.levels import depth_left, levels
from calm_basin.core.structure.footing import standing
from calm_basin.core.subjects import CHECKS
from calm_basin.core.systems.cards import cards
from calm_basin.core.systems.comparing import compared_systems
from calm_basin.core.systems.fitting import fitted, written
from calm_basin.core.systems.trims import side_of
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, PlanError, plan_from, read_plan
from calm_basin.plan.shower import Tray
from calm_basin.plan.system import BuildSystem
from calm_basin.rules import (
    SystemFileError,
    build_systems,
    chosen_rules,
    drain_families,
    layer_kinds,
    read_layers,
    read_system,
    written_layers,
    written_system,
)
from tests.plans import answered, document, moved, offering, point, wholly
from tests.sweeps import some, sweep

WHY = {
    "fall_over_most": "round a point drain the short planes fall more than the tray's longest run",
    "fold_under_least": "along its folds a level-edge floor is flatter than its planes",
    "tray_entry_cut": "the riser is measured, and from it the tray reaches over the entry",
    "channel_short": "the room's own channel ends short of the wall",
    "slab_to_be_cut": "a slab gives nothing without a scan",
    "edge_too_upright": "a channel along the back of a shower whose entry is slanted",
    "cable_not_in_build_up": "a tray holds no cable, and this room has one",
    "membrane_low_at_door": "the room's floor lies too low at its door for its rules",
    "zone_edge_step": "a channel in the zone of a wet room that has an entry at two sides",
    "recess_over_available": "the deck is thinner than the tray with its tile",
    "drain_on_timber": "the joists lie where the drain is",
}

LEFT = {
    "foam-tray-poured-deck": (
        "birch",
        "cable_not_in_build_up membrane_low_at_door tray_entry_cut zone_edge_step",
    ),
    "tray-slab-recess": (
        "birch",
        "cable_not_in_build_up membrane_low_at_door tray_entry_cut zone_edge_step",
    ),
    "board-tray-steel-plate": ("fennel", "fall_over_most fold_under_least tray_entry_cut"),
    "rigid-pan-framed-pocket": ("wren", "drain_on_timber fall_over_most"),
    "back-channel-slope-panels": ("quay", "channel_short"),
    "rigid-pan-between-joists": ("fennel", "fall_over_most"),
    "channel-two-lift-clamped": ("low-weir", "edge_too_upright slab_to_be_cut"),
    "channel-bed-bonded": ("low-weir", "edge_too_upright slab_to_be_cut"),
    "heated-channel-foam-trays": ("birch", "membrane_low_at_door zone_edge_step"),
    "level-access-former-overboard": ("quay", "fall_over_most"),
    "cast-floor-two-zones": ("birch", "membrane_low_at_door"),
    "raised-zone-extension": ("quay", "fall_over_most"),
    "board-base-lifted-deck": ("quay", "fall_over_most"),
    "linear-base-extension": ("quay", "fall_over_most recess_over_available"),
    "one-piece-unit": ("fennel", "fall_over_most"),
    "drop-in-foam-tray": ("quay", "fall_over_most"),
    "single-slope-linear-base": ("juniper", ""),
    "point-bed-bonded": ("old-ferry", "fall_over_most"),
    "tray-slab-glued-ring": ("low-weir", "fall_over_most slab_to_be_cut tray_entry_cut"),
}
"""In which demo room each is built, and what is then found."""


def demo(name: str) -> Plan:
    folder = resources.files("calm_basin.demo")
    file = next(one for one in folder.iterdir() if name in one.name)
    return read_plan(file.read_text("utf-8"))


def built(plan: Plan, system: BuildSystem) -> Plan:
    return fitted(plan, system, drain_families()[system.family])


def file_of(system: BuildSystem) -> str:
    folder = resources.files("calm_basin.rules") / "systems"
    texts = (file.read_text("utf-8") for file in folder.iterdir())
    return next(text for text in texts if f'id = "{system.id}"' in text)


def leaves(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[tuple[Any, ...], Any]]:
    items = value.items() if isinstance(value, dict) else enumerate(value)
    found = []
    for name, item in items:
        deeper = isinstance(item, dict | list)
        found += leaves(item, (*path, name)) if deeper else [((*path, name), item)]
    return found


def other(path: tuple[Any, ...], value: Any) -> Any:
    """Another value that a file may have there."""
    name = path[-1]
    if isinstance(value, bool):
        return not value
    swaps = {
        "point": "linear",
        "joists": "slab",
        "slab": "joists",
        "back": "left",
        "left": "right",
        "right": "left",
        "entry": "back",
    }
    if isinstance(value, float):
        return value + 1
    if value in swaps:
        return swaps[value]
    if name == "family":
        return "narrow-channel" if value != "narrow-channel" else "clamping-channel-mortar"
    if name == "base" and len(path) == 1:
        return "tile-alone" if value != "tile-alone" else "mortar-bed"
    if value.startswith("1:"):
        return "1:47"
    if name in ("thickness", "least", "most"):
        return {"thickness": "7.5 mm", "least": "0.1 mm", "most": "99 mm"}[name]
    if value[0].isdigit() and value.split()[-1] in ("mm", "m", "in", "ft"):
        return "45.5 mm" if name not in ("length", "width") else "1777 mm"
    return f"{value}x"


class FilesTest(unittest.TestCase):
    def test_all_that_are_asked_for_ship(self) -> None:
        self.assertEqual(len(build_systems()), 19)
        kinds = {(s.former.kind, s.drain) for s in build_systems().values()}
        trays = {("tray", "point"), ("tray", "linear")}
        self.assertEqual(kinds, {*trays, ("bed", "point"), ("bed", "linear"), ("panels", "linear")})

    def test_written_and_read_back_they_are_the_same(self) -> None:
        for system in build_systems().values():
            self.assertEqual(read_system(written_system(system)), system, system.id)
        kinds = list(layer_kinds().values())
        self.assertEqual(read_layers(written_layers(kinds)), kinds)

    @sweep
    def test_every_value_of_every_file_is_used(self) -> None:
        """Another value anywhere makes another plan, other cards or another finding."""
        # Layers of its own names, so that the system's are all put in.
        plan = plan_from(document(layers=[{"name": "finish", "thickness": 9}]))
        for system in build_systems().values():
            document_of = tomllib.loads(file_of(system))
            before = self.shown(plan, system)
            values = dict(leaves(document_of))
            others = {path: other(path, value) for path, value in values.items()}
            # Words that are said are told by a mark of their own, all at once.
            marks = {
                path: f"{value}x{i}x"
                for i, (path, value) in enumerate(values.items())
                if others[path] == f"{value}x" and " " in value
            }
            told = self.shown_of(plan, document_of, marks)
            said = {path for path, mark in marks.items() if told and mark in told}
            self.assertGreater(len(said), 10, system.id)
            for path in values.keys() - said:
                with self.subTest(system.id, path=path):
                    after = self.shown_of(plan, document_of, {path: others[path]})
                    self.assertTrue(after != before, f"{path} is not used")

    def shown_of(
        self, plan: Plan, document_of: dict[str, Any], values: dict[tuple[Any, ...], Any]
    ) -> str | None:
        """What a file with other values makes; nothing where it is refused with them."""
        changed_file = copy.deepcopy(document_of)
        for path, value in values.items():
            place = changed_file
            for name in path[:-1]:
                place = place[name]
            place[path[-1]] = value
        try:
            return self.shown(plan, read_system(tomli_w.dumps(changed_file)))
        except SystemFileError:
            return None

    def shown(self, plan: Plan, system: BuildSystem) -> str:
        """All that a system makes: the plan without its copy of it, and its cards."""
        try:
            made = built(plan, system)
        except PlanError as error:
            return str(error)
        told = cards(made, Words.of(made))
        bare = made.model_copy(update={"system": None})
        return f"{bare!r} {told!r} {system.channel}"

    def test_what_is_wrong_in_a_file_is_named(self) -> None:
        text = file_of(build_systems()["foam-tray-poured-deck"])
        panels = file_of(build_systems()["back-channel-slope-panels"])
        for wrong, path in (
            (
                text.replace('edge_thickness = "1 in"', 'edge_thickness = "0 in"'),
                "/former/edge_thickness",
            ),
            (
                text.replace('edge_thickness = "1 in"', 'edge_thickness = "1"'),
                "/former/edge_thickness",
            ),
            (text.replace('fall = "1:48"', 'fall = "steep"'), "/former/fall"),
            (text.replace("most_cut", "most_cutt"), "/former/most_cutt"),
            (text.replace('base = "foam-tray"', 'base = "sand"'), "/base"),
            (
                text.replace('drain_left = "18 in"', 'drain_left = "40 in"', 1),
                "/former/sizes/0/drain_left",
            ),
            (text.replace('kind = "tray"', 'kind = "cake"'), "/former"),
            ('colour = "red"\n' + text, "/colour"),
            (text.replace('drain = "point"', 'drain = "linear"'), "/channel"),
            (panels.replace('thick_edge = "1 in"', 'thick_edge = "1/4 in"'), "/former/thick_edge"),
            ("not toml", ""),
        ):
            with self.subTest(path), self.assertRaises(SystemFileError) as caught:
                read_system(wrong)
            self.assertIn(path, [problem.path for problem in caught.exception.problems])

    def test_layers_out_of_order_are_refused(self) -> None:
        kind = written_layers([layer_kinds()["tile"]])
        with self.assertRaises(ValueError) as caught:
            read_layers(kind.replace("12.7 mm", "1 mm"))
        self.assertIn("least", str(caught.exception))


class FittingTest(unittest.TestCase):
    def test_every_system_makes_a_whole_plan_in_a_demo_room(self) -> None:
        """Just these findings are left, each for a reason that lies in the room."""
        self.assertEqual(set(LEFT), set(build_systems()))
        for name, (room, left) in LEFT.items():
            with self.subTest(name):
                solution = wholly(built(demo(room), build_systems()[name]), cures=False)
                self.assertTrue(solution.complete)
                self.assertIsNotNone(solution.system)
                self.assertEqual({f.code for f in solution.findings}, set(left.split()))
                self.assertLessEqual(set(left.split()), set(WHY))

    def test_room_survey_rules_and_what_still_fits_stay(self) -> None:
        plan = demo("heron")
        for system in build_systems().values():
            now = built(plan, system)
            for name in ("job", "rule_set", "floor", "users", "overrides", "services", "water"):
                self.assertEqual(getattr(now, name), getattr(plan, name), name)
            self.assertEqual(now.room.outline, plan.room.outline)
            self.assertEqual(now.survey.levels, plan.survey.levels)
            self.assertEqual(now.survey.base, system.base)
            self.assertEqual(now.shower.outline, plan.shower.outline)
            self.assertEqual(now.waste.stack, plan.waste.stack)
            if system.drain == plan.shower.drain.kind:
                self.assertEqual(now.shower.drain, plan.shower.drain)

    def test_a_zone_on_the_deck_asks_for_no_recess_and_the_room_comes_up_to_it(self) -> None:
        """Its base stands on the deck or slab as it is, 80 mm high (common practice, no source)."""
        system = build_systems()["raised-zone-extension"]
        for seed in range(some(30)):
            chance = random.Random(seed)
            doc = document(former={"kind": "tray", "edge_thickness": 25})
            if chance.random() < 0.3:
                doc["floor"] = {"kind": "slab", "thickness": 120}
            doc["room"]["layers"][-1]["thickness"] = chance.choice([0.5, 6, 10, 25])
            doc["display"] = {"length": chance.choice(["mm", "in"])}
            doc = moved(doc, turn=chance.choice([0, 23]), mirror=chance.random() < 0.5)
            now = built(plan_from(doc | {"version": 9}), system)
            found = answered(now)
            with self.subTest(plan=seed):
                self.assertNotIn("recess_over_available", {f.code for f in found.findings})
                self.assertNotIn("slab_to_be_cut", {f.code for f in found.findings})
                base = found.figures.base_level.value
                self.assertGreaterEqual(base, 80 - 1e-6)
                self.assertLess(base, 81)
                self.assertEqual(built(now, system), now)

    def test_usual_sizes_are_assumed_and_those_of_a_product_are_not(self) -> None:
        plan, system = demo("juniper"), build_systems()["foam-tray-poured-deck"]
        self.assertIn("/shower/former/edge_thickness", built(plan, system).assumed)
        said = system.former.model_copy(update={"document": "Its own text"})
        own = system.model_copy(update={"former": said})
        self.assertNotIn("/shower/former/edge_thickness", built(plan, own).assumed)

    def test_what_a_system_put_into_the_room_goes_with_it(self) -> None:
        plan = demo("juniper")
        over, other_one = (
            built(plan, build_systems()[name])
            for name in ("level-access-former-overboard", "foam-tray-poured-deck")
        )
        self.assertEqual(over.room.layers[-1].name, "floor board over the deck")
        again = built(over, build_systems()["foam-tray-poured-deck"])
        self.assertEqual(again.room.layers, plan.room.layers)
        self.assertEqual(again.room.layers, other_one.room.layers)
        cast = built(plan, build_systems()["cast-floor-two-zones"])
        self.assertIsNotNone(cast.shower.rest)
        self.assertIsNone(built(cast, build_systems()["foam-tray-poured-deck"]).shower.rest)

    def test_a_floor_that_is_cast_to_falls_has_no_board_over_it(self) -> None:
        system = build_systems()["cast-floor-two-zones"]
        for name in ("tile backer board", "Plywood over the deck", "cement board", "board"):
            doc = document()
            doc["room"]["layers"] = [
                {"name": "tile", "thickness": 10},
                {"name": "adhesive", "thickness": 4},
                {"name": name, "thickness": 10},
            ]
            now = built(plan_from(doc), system)
            kept = [layer.name for layer in now.room.layers]
            self.assertEqual(kept, ["tile", "adhesive", "cast floor"])
            self.assertEqual(built(now, system), now)
            # A floor that lies already is what it is.
            doc["room"]["laid"] = 30
            laid = built(plan_from(doc | {"version": 9}), system)
            self.assertIn(name, [layer.name for layer in laid.room.layers])

    def test_the_trap_of_a_raised_zone_hangs_in_its_base(self) -> None:
        """It hangs from the base's top, 80 mm over the deck or slab, not from the deck: common
        practice, no source."""
        systems = build_systems()
        for name in ("juniper", "heron", "wren"):
            raised = built(demo(name), systems["raised-zone-extension"])
            base = levels(raised, surface_of(raised)).base
            self.assertGreaterEqual(base, 80 - 1e-6)
            self.assertAlmostEqual(standing(raised, surface_of(raised)).deck, base)
            other = built(demo(name), systems["foam-tray-poured-deck"])
            self.assertLessEqual(standing(other, surface_of(other)).deck, 0)
        doc = document() | {"version": 9}
        doc["floor"] = {"kind": "slab", "thickness": 120}
        family = drain_families()[systems["raised-zone-extension"].family]
        doc["waste"] = {"stack": [2300, 1500], "branch": -60}
        now = fitted(plan_from(doc), systems["raised-zone-extension"], family)
        told = {figure.label: figure for figure in answered(now).waste.figures}
        base = levels(now, surface_of(now)).base
        self.assertAlmostEqual(told["Pipe's middle at the trap"].value, base - family.trap)

    def test_a_room_that_was_made_lower_is_told_and_raised_to_the_base_again(self) -> None:
        """The base of a raised zone is 80 mm high and stands on the deck as it is: common practice,
        no source."""
        looked = 0
        for seed in range(some(12)):
            chance = random.Random(seed)
            doc = document(former={"kind": "tray", "edge_thickness": 25})
            doc["display"] = {"length": chance.choice(["mm", "in"])}
            doc["floor"]["deck_thickness"] = chance.choice([18, 120])
            doc = moved(doc, turn=chance.choice([0, 23]), mirror=chance.random() < 0.5)
            now = built(plan_from(doc | {"version": 9}), build_systems()["raised-zone-extension"])
            self.assertNotIn("system_room_low", {f.code for f in answered(now).findings})
            *own, board = now.room.layers
            less = chance.uniform(2, board.thickness - 1)
            thin = board.model_copy(update={"thickness": board.thickness - less})
            low = now.model_copy(
                update={"room": now.room.model_copy(update={"layers": (*own, thin)})}
            )
            spare = levels(now, surface_of(now)).base - 80
            (told,) = (f for f in offering(low).findings if f.code == "system_room_low")
            self.assertAlmostEqual(told.limit - told.measured, less - spare, places=6)
            for cure in told.cures:
                looked += 1
                after = changed(low, cure.changes)
                base = levels(after, surface_of(after)).base
                self.assertGreaterEqual(base, 80 - 1e-6)
                self.assertLess(base, 81)
        self.assertGreater(looked, 0)

    def test_a_unit_stands_no_farther_over_the_room_than_its_maker_allows(self) -> None:
        """1/2 in for a one-piece unit: common practice, no source (handbook §9)."""
        now = built(demo("juniper"), build_systems()["one-piece-unit"])
        seen = set()
        for down in (-30.0, -14.0, -13.7, -13.0, -12.0, -11.0, -10.0, 0.0, 8.0):
            shower = now.shower.model_copy(update={"set_down": down})
            plan = now.model_copy(update={"shower": shower})
            over = -step_of(plan, surface_of(plan))
            one = [f for f in offering(plan).findings if f.code == "system_over_room"]
            self.assertEqual(bool(one), over > 12.7, over)
            seen.add(bool(one))
            for finding in one:
                self.assertAlmostEqual(finding.measured, over, places=6)
        self.assertEqual(seen, {True, False})

    @sweep
    def test_chosen_again_it_changes_nothing(self) -> None:
        chosen = 0
        for plan in demo_plans():
            for system in build_systems().values():
                family = drain_families()[system.family]
                try:
                    once = fitted(plan, system, family)
                except PlanError:
                    continue
                with self.subTest(system.id, job=plan.job.name):
                    self.assertEqual(written(once, fitted(once, system, family)), ())
                chosen += 1
        self.assertGreater(chosen, 50)

    def test_tile_that_was_chosen_stays_whatever_it_is_called(self) -> None:
        plan = demo("juniper")
        self.assertEqual(plan.shower.layers[0].name, "mosaic")
        for name in ("foam-tray-poured-deck", "channel-bed-bonded"):
            now = built(plan, build_systems()[name])
            self.assertEqual(now.shower.layers[0].name, "mosaic")
            self.assertEqual(now.shower.layers[0].thickness, plan.shower.layers[0].thickness)
            self.assertNotIn("/shower/layers/0/thickness", now.assumed)

    def test_the_changes_make_the_plan_that_was_built(self) -> None:
        plan = demo("mill")
        for system in build_systems().values():
            now = built(plan, system)
            self.assertEqual(changed(plan, written(plan, now)), now, system.id)

    def test_the_smallest_size_that_reaches_is_taken_turned_or_mirrored(self) -> None:
        """Of random showers turned any way the tray covers all where any stock size does."""
        chance = random.Random(5)
        system = build_systems()["foam-tray-poured-deck"]
        assert system.former.kind == "tray"
        found = 0
        for seed in range(40):
            wide, deep = chance.uniform(800, 1700), chance.uniform(700, 1400)
            doc = document(
                outline=[[0, 0], [wide, 0], [wide, deep], [0, deep]],
                drain={
                    "kind": "point",
                    "centre": [wide / 2, deep / 2],
                    "width": 110,
                    "length": 110,
                },
            )
            doc["room"]["outline"] = [[0, -2000], [2400, -2000], [2400, 1800], [0, 1800]]
            doc["room"]["doors"] = []
            turn = chance.uniform(0, 360)
            plan = plan_from(moved(doc, turn=turn, mirror=bool(seed % 2)))
            former = built(plan, system).shower.former
            assert isinstance(former, Tray) and former.stock is not None
            need = sorted((wide, deep))
            reach = [
                s
                for s in system.former.sizes
                if (s.width >= wide - 1 and s.length >= deep - 1)
                or (s.width >= deep - 1 and s.length >= wide - 1)
            ]
            if reach:
                found += 1
                have = sorted((former.stock.width, former.stock.length))
                self.assertTrue(all(h >= n - 1 for h, n in zip(have, need, strict=True)), seed)
                least = min(s.width * s.length for s in reach)
                # A larger one only where the smallest is cut at the entry, turned otherwise.
                self.assertGreaterEqual(have[0] * have[1], least - 1)
        self.assertGreater(found, 20)

    def test_sides_are_told_as_whoever_comes_in_sees_them(self) -> None:
        doc = document()
        plan = plan_from(doc)
        # Its entry is the lower side, edge 0; to the right of it lies edge 1.
        self.assertEqual(
            [side_of(plan.shower, i) for i in range(4)], ["entry", "right", "back", "left"]
        )
        mirrored = plan_from(moved(doc, mirror=True))
        named = {side_of(mirrored.shower, i) for i in range(4)}
        self.assertEqual(named, {"entry", "right", "back", "left"})


class AnyRoomTest(unittest.TestCase):
    @sweep
    def test_in_inches_at_odd_angles_with_the_drain_at_the_very_edge(self) -> None:
        """Systems in showers by chance, against the same shower not turned and in mm: the same
        recess, the same cuts and the same things against it."""
        chance, checked = random.Random(11), 0
        for seed in range(some(5)):
            wide, deep = chance.uniform(850, 1700), chance.uniform(850, 1500)
            x = chance.choice([62.1, wide - 62.1, wide / 2])
            y = chance.choice([62.1, deep - 62.1, deep / 2])
            doc = document(outline=[[0, 0], [wide, 0], [wide, deep], [0, deep]], drain=point(x, y))
            doc["room"]["outline"] = [[-1, -1500], [2500, -1500], [2500, 1800], [-1, 1800]]
            doc["room"]["doors"] = []
            turned = moved(doc, turn=chance.uniform(1, 359), dx=chance.uniform(-900, 900))
            turned["display"] = {"length": "in"}
            plans = (plan_from(doc), plan_from(turned))
            for nth, system in enumerate(chance.sample(list(build_systems().values()), 5)):
                here, there = (built(plan, system) for plan in plans)
                # Ways are made one by one and take longest: those of one system in each room.
                parts: tuple[Part, ...] = () if nth else ("ways",)
                solved = [answered(plan, parts=parts) for plan in (here, there)]
                with self.subTest(system.id, seed=seed):
                    one, other = ([f.code for f in solution.findings] for solution in solved)
                    self.assertEqual(sorted(one), sorted(other))
                    needed = [s.figures.recess_needed.value or 0 for s in solved]
                    self.assertAlmostEqual(*needed, places=4)
                    for left, right in zip(*(cut_of(plan) for plan in (here, there)), strict=True):
                        self.assertAlmostEqual(left, right, places=3)
                    codes = [{w.code for w in s.ways.listed} if s.ways else None for s in solved]
                    self.assertEqual(*codes)
                    checked += 1
        self.assertGreater(checked, 4 * some(5))


def cut_of(plan: Plan) -> list[float]:
    """What is cut off a tray, side by side, from the least to the most."""
    return sorted(cut_widths(plan.shower).values())


class CardTest(unittest.TestCase):
    def test_what_goes_under_this_shower(self) -> None:
        """Half a bag for a tray of about 36 × 40 in; a full bag for 4 × 5 ft (common practice, no
        source)."""
        doc = document(
            outline=[[0, 0], [1219.2, 0], [1219.2, 1524], [0, 1524]], drain=point(600, 700)
        )
        doc["room"]["outline"] = [[0, -900], [2400, -900], [2400, 1800], [0, 1800]]
        doc["room"]["doors"] = []
        for name, told in (
            ("rigid-pan-between-joists", "1.0 bags, have 1 ready"),
            # 48 × 60 in is twice the area of 36 × 40 in.
            ("foam-tray-poured-deck", "1.0 bags, have 1 ready"),
        ):
            plan = built(plan_from(doc), build_systems()[name])
            system = answered(plan).system
            assert system is not None
            (text,) = [i.text for i in system.cards[0].named if i.name == "Under this shower"]
            self.assertIn(told, text)
            self.assertIn("1.86 m²", text)


class ComparingTest(unittest.TestCase):
    @sweep
    def test_its_figures_are_those_of_the_plan_that_it_makes(self) -> None:
        for name in ("juniper", "low-weir", "wren"):
            plan = demo(name)
            told = compared_systems(
                plan, chosen_rules(plan), CHECKS, build_systems().values(), drain_families()
            )
            for candidate in told:
                system = build_systems()[candidate.id]
                try:
                    now = built(plan, system)
                    surface = surface_of(now)
                except (PlanError, NoSurfaceError):
                    self.assertEqual(candidate.verdict, "none")
                    self.assertTrue(candidate.against)
                    continue
                solution = answered(now)
                self.assertEqual(candidate.recess, levels(now, surface).recess)
                self.assertEqual(candidate.left, depth_left(now, surface))
                # A slab has no depth of its own: what it lacks is cut.
                cut = now.floor.kind == "slab" and candidate.recess > 0
                self.assertEqual(candidate.left_text == "to cut", cut)
                self.assertEqual(candidate.step_text, solution.figures.step_at_entry.text)
                titles = [finding.title for finding in solution.findings]
                self.assertEqual(sorted(candidate.against), sorted(titles), candidate.id)

    def test_a_system_for_another_floor_says_so(self) -> None:
        plan = demo("juniper")
        slab = build_systems()["tray-slab-recess"]
        (told,) = compared_systems(plan, chosen_rules(plan), CHECKS, [slab], drain_families())
        self.assertIn("made for slab", " ".join(told.against))
        solution = offering(built(plan, slab))
        finding = next(f for f in solution.findings if f.code == "system_other_floor")
        (cure,) = finding.cures
        self.assertIsNone(changed(built(plan, slab), cure.changes).system)

    def test_joists_too_far_apart_for_the_deck(self) -> None:
        # Common practice, no source: 16 in for most trays, 19.2 in on a thicker deck for some.
        system = build_systems()["foam-tray-poured-deck"]
        plan = built(demo("juniper"), system)
        for deck, centres, told in (
            (19.05, 406.4, False),
            (18, 400, False),
            (19.05, 487.7, True),
            (25.4, 487.7, False),
            (25.4, 600, True),
            (12, 400, False),
        ):
            floor = plan.floor.model_copy(update={"deck_thickness": deck, "centres": centres})
            codes = {f.code for f in answered(plan.model_copy(update={"floor": floor})).findings}
            self.assertEqual("system_centres" in codes, told, (deck, centres))
            self.assertEqual("system_deck_thin" in codes, deck < 17, deck)


class ExtensionTest(unittest.TestCase):
    def tray(self, rise: float = 10, length: float = 950) -> Plan:
        doc = document(
            outline=[[0, 0], [900, 0], [900, 1600], [0, 1600]],
            drain={"kind": "point", "centre": [450, 1150], "width": 110, "length": 110},
            former={
                "kind": "tray",
                "edge_thickness": 40,
                "stock": {"width": 900, "length": 900, "drain_left": 450, "drain_back": 450},
                "extension": {"length": length, "rise": rise},
            },
        )
        doc["room"]["outline"] = [[0, -800], [2400, -800], [2400, 1800], [0, 1800]]
        doc["room"]["doors"] = []
        return plan_from(doc | {"version": 9})

    def test_it_rises_by_its_own_fall_and_says_so(self) -> None:
        # Common practice, no source: 10 mm over 950 mm, which is only 1:95.
        plan = self.tray()
        surface = surface_of(plan)
        (piece,) = [f for f in surface.facets if f.name == "extension"]
        self.assertAlmostEqual(piece.gradient, 10 / 950)
        # 700 mm of it are left in a shower 1,600 deep: it rises 7.37 mm.
        self.assertAlmostEqual(surface.extended, 10 / 950 * 700)
        heights = surface.heights(np.array([[450.0, 0.0], [450.0, 700.0], [10.0, 699.0]]))
        np.testing.assert_allclose(heights[:2], [0.0, -7.368], atol=1e-3)
        solution = answered(plan)
        self.assertEqual(solution.figures.step_at_entry.text, "flush")
        # Base = entry − rise − layers − edge: 24 − 7.37 − 13 − 40.
        self.assertAlmostEqual(
            solution.figures.base_level.value or 0, 24 - 7.368 - 13 - 40, places=2
        )
        self.assertIn("1:95", " ".join(p.text for f in solution.findings for p in f.places))

    def test_against_an_independent_sum_turned_and_mirrored(self) -> None:
        chance = random.Random(2)
        for seed in range(25):
            length, rise = chance.uniform(720, 1200), chance.uniform(0, 25)
            plan = self.tray(rise, length)
            doc = moved(
                plan.model_dump(mode="json"), turn=chance.uniform(0, 360), mirror=bool(seed % 2)
            )
            surface = surface_of(plan_from(doc))
            self.assertAlmostEqual(surface.extended, rise / length * 700, places=4)
            area = sum(f.polygon.area for f in surface.facets if f.name == "extension")
            self.assertAlmostEqual(area, 900 * 700, delta=5)
            whole = sum(f.polygon.area for f in surface.facets) + surface.rim.area
            self.assertAlmostEqual(whole, 900 * 1600, delta=10)
            self.assertAlmostEqual(float(Polygon(plan.shower.outline).area), 900 * 1600)

    def test_cut_at_its_plain_end_nothing_is_lost(self) -> None:
        codes = {finding.code for finding in answered(self.tray()).findings}
        self.assertNotIn("tray_entry_cut", codes)
        self.assertNotIn("tray_cut_too_far", codes)
        # Too short it is missed at the entry.
        short = answered(self.tray(length=500))
        finding = next(f for f in short.findings if f.code == "tray_too_small")
        self.assertAlmostEqual(finding.measured or 0, 200)

    def test_without_a_tray_of_a_known_size_it_is_refused(self) -> None:
        doc = self.tray().model_dump(mode="json")
        doc["shower"]["former"]["stock"] = None
        with self.assertRaises(PlanError) as caught:
            plan_from(doc)
        self.assertEqual(caught.exception.problems[0].path, "/shower/former/extension")


if __name__ == "__main__":
    unittest.main()
