"""Parts put at their places in a plan: what they measure is assumed until it is typed."""

from __future__ import annotations

from calm_basin.plan.assumed import with_assumed
from calm_basin.plan.base import Part, Point
from calm_basin.plan.document import Plan
from calm_basin.plan.pointers import at
from calm_basin.plan.reading import PlanError, Problem, plan_from


def need(there: bool, path: str, cure: str) -> None:
    if not there:
        raise PlanError([Problem(path, cure)])


def put(
    plan: Plan,
    path: str,
    part: Part | float | Point | tuple[Point, ...] | tuple[Part, ...],
    chosen: str = "",
) -> Plan:
    """The plan with a part at a pointer, what it measures assumed but for what was ``chosen``."""
    document = plan.model_dump(mode="json")
    way, _, last = path.rpartition("/")
    there = at(document, way) if way else document
    parts = [one.model_dump(mode="json") if isinstance(one, Part) else one for one in _each(part)]
    there[last] = parts if isinstance(part, tuple) else parts[0]
    document["assumed"] = [p for p in plan.assumed if p != path and not p.startswith(f"{path}/")]
    put = with_assumed(plan_from(document), path)
    return put.model_copy(update={"assumed": tuple(p for p in put.assumed if p != chosen)})


def _each(part: object) -> tuple[object, ...]:
    return part if isinstance(part, tuple) else (part,)


def appended(plan: Plan, path: str, part: Part) -> Plan:
    document = plan.model_dump(mode="json")
    there = at(document, path)
    need(isinstance(there, list), path, "There is nothing yet to add this to.")
    there.append(part.model_dump(mode="json"))
    return with_assumed(plan_from(document), f"{path}/{len(there) - 1}")
