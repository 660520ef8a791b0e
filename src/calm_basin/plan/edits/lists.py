"""Items taken from the plan's lists, with all that names them by number following."""

from __future__ import annotations

import re
from functools import partial
from typing import Any

from calm_basin.plan.assumed import renumbered
from calm_basin.plan.document import Plan
from calm_basin.plan.pointers import at
from calm_basin.plan.reading import PlanError, Problem, plan_from

LISTS = (
    "/room/doors",
    "/room/fixtures",
    "/room/layers",
    "/floor/others",
    "/floor/members",
    "/floor/beams",
    "/services",
    "/waste/run",
    "/shower/layers",
    "/walls/shower",
    "/walls/rest",
    "/walls/niches",
    "/walls/faces",
    "/shower/former/cuts",
    "/survey/tape/walls",
    "/survey/tape/diagonals",
    "/water/heads",
)
"""The lists whose items may be taken out one by one."""


LAYERS = ("/room/layers", "/shower/layers", "/walls/shower", "/walls/rest")
"""The lists whose items lie on one another, in their order."""


def raise_item(plan: Plan, path: str) -> Plan:
    """The plan with one layer, which ``path`` points at, and the one above it changed about.

    Raises
    ------
    PlanError
        There is no such layer, or none lies above it.
    """
    document, items, there, number = _found(plan, path, LAYERS, "raised")
    if number == 0:
        raise PlanError([Problem(path, "No layer lies above this one.")])
    there[number - 1], there[number] = there[number], there[number - 1]
    about = {number: number - 1, number - 1: number}
    assumed = renumbered(plan.assumed, items, lambda i: about.get(i, i))
    return plan_from(document | {"assumed": assumed})


def _found(
    plan: Plan, path: str, lists: tuple[str, ...], done: str
) -> tuple[dict[str, Any], str, list[Any], int]:
    """The plan as a document, with the list of it that an item is in and the item's number."""
    match = re.fullmatch(r"(.*)/(\d{1,4})", path)
    items = match[1] if match else ""
    document = plan.model_dump(mode="json")
    there = at(document, items)
    number = int(match[2]) if match else 0
    if items not in lists or not isinstance(there, list) or number >= len(there):
        raise PlanError([Problem(path, f"There is nothing at {path} that could be {done}.")])
    return document, items, there, number


def remove_item(plan: Plan, path: str) -> Plan:
    """The plan without one item of a list, which ``path`` points at.

    Of a taped wall the diagonals that end at it go too: their corners are no longer there.

    Raises
    ------
    PlanError
        There is no such item, or the plan cannot be without it.
    """
    document, items, there, number = _found(plan, path, LISTS, "removed")
    del there[number]
    gone = {(items, number)}
    if items == "/survey/tape/walls":
        tape = document["survey"]["tape"]
        lost = {number, (number + 1) % (len(there) + 1)}
        for i, diagonal in enumerate(tape["diagonals"]):
            if lost & {diagonal["first"], diagonal["last"]}:
                gone.add(("/survey/tape/diagonals", i))
        tape["diagonals"] = [
            {**d, **{end: d[end] - (d[end] > number) for end in ("first", "last")}}
            for d in tape["diagonals"]
            if not lost & {d["first"], d["last"]}
        ]
    assumed = plan.assumed
    for listed in {name for name, _ in gone}:
        out = {i for name, i in gone if name == listed}
        assumed = renumbered(assumed, listed, partial(_without, out))
    return plan_from(document | {"assumed": assumed})


def _without(out: set[int], i: int) -> int | None:
    """The number of an item when those that are out have been taken away."""
    return None if i in out else i - sum(other < i for other in out)
