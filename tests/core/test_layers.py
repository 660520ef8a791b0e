"""What a layer is hangs on its role, not on what it is called."""

import random
import tomllib
import unittest
from collections import Counter
from contextlib import suppress
from itertools import count
from typing import Any, get_args

import tomli_w

from calm_basin.core.answer.result import Part
from calm_basin.core.solve import solve
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.layers import Layer, LayerRole, first, has, role_by_name, thick
from calm_basin.plan.upgrades import LAYERS
from calm_basin.rules import (
    build_systems,
    layer_kinds,
    read_layers,
    read_system,
    written_layers,
    written_system,
)
from tests.extremes import extreme
from tests.plans import Document, document
from tests.sweeps import each, some

PARTS: tuple[Part, ...] = ("order", "days", "walls", "membrane", "heating", "tile")


def layer_lists(doc: Document) -> list[list[Document]]:
    """The lists of layers of a plan's document; its system's are a copy of that one's file."""
    found = []
    for place in (place for place in LAYERS if place[0] != "system"):
        at: Any = doc
        for name in place:
            at = at.get(name) if isinstance(at, dict) else None
        if at:
            found.append(at)
    return found


def named(plan: Plan, names: list[str]) -> Plan:
    """The plan with other names for its layers; a layer of several lists keeps one name."""
    doc, said = plan.model_dump(mode="json"), {}
    for layers in layer_lists(doc):
        for layer in layers:
            layer["name"] = said.setdefault(layer["name"], names[len(said) % len(names)])
    return plan_from(doc)


def numbers(value: Any) -> Counter[str]:
    """All numbers and marks of an answer, told apart from its words."""
    if isinstance(value, dict):
        return sum((numbers(item) for item in value.values()), Counter())
    if isinstance(value, list):
        return sum((numbers(item) for item in value), Counter())
    if isinstance(value, float):
        return Counter([f"{value:.6g}"])
    return Counter([repr(value)]) if isinstance(value, int) or value is None else Counter()


class RoleTest(unittest.TestCase):
    def test_whatever_layers_are_called_all_figures_stay(self) -> None:
        plans, seeds = demo_plans()[: some(99)], count(700)
        while len(plans) < some(18):
            with suppress(PlanError):
                plans.append(plan_from(extreme(next(seeds))))
        # Names that say something else, too.
        strange = ["Travertin", "tile", "board", "membrane", "Estrich", "adhesive", "x", "screed"]
        looked = 0
        for number, plan in enumerate(plans):
            names = list(strange)
            random.Random(number).shuffle(names)
            one, other = (solve(p, parts=PARTS) for p in (plan, named(plan, names)))
            kept, again = (
                Counter((f.code, f.severity, f.measured, f.limit, len(f.cures)) for f in s.findings)
                for s in (one, other)
            )
            self.assertEqual(kept, again, plan.job.name)
            for part in ("figures", *PARTS):
                mine, theirs = (getattr(s, part) for s in (one, other))
                self.assertEqual(mine is None, theirs is None)
                if mine is not None:
                    before, now = (numbers(p.model_dump(mode="json")) for p in (mine, theirs))
                    self.assertEqual(before, now, (plan.job.name, part))
                    looked += 1
        self.assertGreater(looked, some(18) * 2)

    def test_stone_of_any_name_is_bought_and_laid_as_tile(self) -> None:
        doc = document() | {"version": 14}
        for layers in layer_lists(doc):
            layers[:] = [
                {"role": role_by_name(layer["name"]), **layer, "name": f"slab {i}"}
                for i, layer in enumerate(layers)
            ]
        answer = solve(plan_from(doc), parts=("order", "days"))
        assert answer.order is not None and answer.days is not None
        self.assertIn("tile", {line.item for line in answer.order.lines})
        self.assertIn("tile_shower", {task.task for task in answer.days.tasks})
        for layer in doc["shower"]["layers"]:
            layer["role"] = "other"
        answer = solve(plan_from(doc), parts=("order", "days"))
        assert answer.order is not None and answer.days is not None
        self.assertNotIn("tile", {line.item for line in answer.order.lines})
        self.assertNotIn("tile_shower", {task.task for task in answer.days.tasks})

    def test_first_thick_and_has_agree_with_a_plain_walk(self) -> None:
        chance, roles = random.Random(4), get_args(LayerRole)
        for _ in range(200):
            layers = [
                Layer(role=chance.choice(roles), name="x", thickness=chance.uniform(0, 30))
                for _ in range(chance.randrange(6))
            ]
            for role in roles:
                places = [i for i in range(len(layers)) if layers[i].role == role]
                self.assertEqual(first(layers, role), places[0] if places else None)
                self.assertEqual(has(layers, role), bool(places))
            total = 0.0
            for layer in layers:
                total += layer.thickness
            self.assertAlmostEqual(thick(layers), total)


class OlderTest(unittest.TestCase):
    """Before roles were written a layer was known by words in its name."""

    KNOWN: tuple[tuple[str, LayerRole], ...] = (
        ("Porcelain tile", "tile"),
        ("tile backer board", "board"),
        ("Plywood over the deck", "plywood"),
        ("adhesive over the cable", "adhesive"),
        ("heating cable in adhesive", "cable"),
        ("Membrane, two coats", "membrane"),
        ("levelling screed", "cast"),
        ("cork", "other"),
    )

    def test_a_plan_of_version_13_gets_its_roles(self) -> None:
        doc = document() | {"version": 13}
        doc["room"]["layers"] = [{"name": name, "thickness": 5} for name, _ in self.KNOWN]
        plan = plan_from(doc)
        self.assertEqual([layer.role for layer in plan.room.layers], [r for _, r in self.KNOWN])

    def test_what_is_no_layer_is_refused_with_its_field(self) -> None:
        for wrong, at in (
            ({"name": "tile", "thickness": 5}, "/room/layers/0/role"),
            ({"role": "rug", "name": "rug", "thickness": 5}, "/room/layers/0/role"),
        ):
            doc = document()
            for layers in layer_lists(doc):
                layers[:] = [{"role": "tile", **layer} for layer in layers]
            doc["room"]["layers"] = [wrong]
            with self.assertRaises(PlanError) as caught:
                plan_from(doc | {"version": 14})
            self.assertEqual(caught.exception.problems[0].path, at)
        for layers in (None, 3, ["x"], [{"name": 7}]):
            doc = document() | {"version": 13}
            doc["room"]["layers"] = layers
            with self.assertRaises(PlanError) as caught:
                plan_from(doc)
            self.assertTrue(caught.exception.problems[0].path.startswith("/room/layers"))

    def test_files_without_roles_are_read_and_written_with_them(self) -> None:
        for system in each(build_systems().values(), 19):
            written = tomllib.loads(written_system(system))
            for layers in written["layers"].values():
                for layer in layers if isinstance(layers, list) else ():
                    del layer["role"]
            self.assertEqual(read_system(tomli_w.dumps(written)), system)
        kinds = list(layer_kinds().values())
        written = tomllib.loads(written_layers(kinds))
        for layer in written["layers"]:
            del layer["role"]
        read = read_layers(tomli_w.dumps(written))
        self.assertEqual([kind.role for kind in read], [kind.role for kind in kinds])


if __name__ == "__main__":
    unittest.main()
