"""What of a plan is only assumed: pointers of measures and choices that nobody has made yet."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable

from calm_basin.plan.document import Plan
from calm_basin.plan.floor import JoistFloor
from calm_basin.plan.quantities import quantities
from calm_basin.plan.room import WITH_HEIGHT

CHOICES = re.compile(r"/floor/kind|/room/doors/\d+/(hinge|swing)|/waste/family/id")
"""Choices that tell what is there, as a measure does."""


BOUND = re.compile(r"/\w*layers/\d+/(least|most)$")

OF_JOISTS = {"sawn": ("flange", "web"), "truss": ("web",), "i_joist": ()}
"""Sizes that joists of a kind do not have."""


def with_assumed(plan: Plan, *parts: str) -> Plan:
    """The plan with every measure under these pointers marked as assumed.

    Corners on the plan's axes are no measures: they follow from where the origin lies.
    """
    new = [
        path
        for path, value in assumable(plan, parts)
        if any(path == part or path.startswith(f"{part}/") for part in parts)
        and not (path.startswith("/room/outline/") and value == 0)
    ]
    kept = [path for path in plan.assumed if path not in new]
    return plan.model_copy(update={"assumed": (*kept, *new)})


def assumable(plan: Plan, within: tuple[str, ...] = ("",)) -> Iterable[tuple[str, object]]:
    """What may be assumed of a plan, as (JSON pointer, value), of the fields ``within``."""
    # What does not count as things are cannot be assumed; nor can the sizes of a drain's family,
    # which are its maker's: what is assumed is which one it is.
    built = ["/waste/family/", "/system/"]
    if isinstance(plan.floor, JoistFloor):
        built += [f"/floor/{name}" for name in OF_JOISTS[plan.floor.joist]]
    built += [f"/room/doors/{i}/ramp" for i, d in enumerate(plan.room.doors) if d.outside is None]
    built += [
        f"/room/fixtures/{i}/height"
        for i, fixture in enumerate(plan.room.fixtures)
        if fixture.kind not in WITH_HEIGHT
    ]
    measured = (
        (path, value) for path, _, value in quantities(plan, within) if not BOUND.search(path)
    )
    yield from ((path, value) for path, value in measured if not path.startswith(tuple(built)))
    if plan.waste.family is not None:
        yield "/waste/family/id", plan.waste.family.id
    yield "/floor/kind", plan.floor.kind
    for i, door in enumerate(plan.room.doors):
        if door.kind == "hinged":
            yield f"/room/doors/{i}/hinge", door.hinge
            yield f"/room/doors/{i}/swing", door.swing


def renumbered(
    assumed: Iterable[str], items: str, moved: Callable[[int], int | None]
) -> tuple[str, ...]:
    """Pointers into a list of the plan, with each item's new number; None: the item is gone."""
    found = []
    for path in assumed:
        match = re.match(rf"{re.escape(items)}/(\d+)(/.*)?$", path)
        if match is None:
            found.append(path)
        elif (number := moved(int(match[1]))) is not None:
            found.append(f"{items}/{number}{match[2] or ''}")
    return tuple(found)
