"""What the figures rest on that nobody has measured."""

from __future__ import annotations

import re
from typing import Any

from calm_basin.core.answer.words import Words
from calm_basin.core.room.result import Assumed, Assumption
from calm_basin.plan import Plan, quantities
from calm_basin.plan.assumed import CHOICES, assumable
from calm_basin.plan.base import QuantityKind
from calm_basin.plan.edits.corners import box_of
from calm_basin.plan.pointers import steps

DECIDES = re.compile(r"/floor/first_offset|/waste/(stack/\d|branch)")
"""What decides between a hit and a miss is measured and confirmed by itself, not with all else."""


def assumed(plan: Plan, words: Words) -> Assumed:
    """The measures and choices of a plan that are only assumed.

    The corners of an outline that share a width or a depth are one measure of it.
    """
    there = dict(assumable(plan)) if plan.assumed else {}
    kinds = {path: kind for path, kind, _ in quantities(plan)} if there else {}
    document = plan.model_dump(mode="json") if there else {}
    paths = tuple(path for path in plan.assumed if path in there)
    named: dict[str, str] = {}
    fields: dict[str, list[str]] = {}
    for path in paths:
        name, value = _named(document, path), there[path]
        if match := re.fullmatch(r"/(room|shower)/outline/\d+/(\d)", path):
            box = box_of(plan.room.outline if match[1] == "room" else plan.shower.outline)
            axis = int(match[2])
            if box is not None:
                name = f"{match[1]}: {('width', 'depth')[axis]}"
                value = box[1][axis] - box[0][axis]
        if path == "/waste/family/id" and plan.waste.family is not None:
            name, value = "drain: kind", plan.waste.family.name
        fields.setdefault(name, []).append(path)
        if isinstance(value, str):
            named[name] = value
        elif isinstance(value, int | float):
            named[name] = _printed(words, kinds.get(path), value)
    choices = sum(CHOICES.fullmatch(path) is not None for path in paths)
    measures = len(named) - choices
    counts = [
        f"{n} {'assumed ' if first else ''}{name}{'' if n == 1 else 's'}"
        for n, name, first in ((measures, "measure", True), (choices, "choice", not measures))
        if n
    ]
    return Assumed(
        paths=paths,
        alone=tuple(path for path in paths if DECIDES.fullmatch(path)),
        listed=tuple(
            Assumption(name=name, text=text, fields=tuple(fields[name]))
            for name, text in named.items()
        ),
        count=len(named),
        text=f"rests on {' and '.join(counts)}" if counts else "",
    )


def _printed(words: Words, kind: QuantityKind | None, value: float) -> str:
    if kind == "flow":
        return words.flow(value)
    if kind == "length":
        return words.length(value)
    if kind == "fall":
        return words.fall(value)
    return f"{value:g}°" if kind == "angle" else f"{value:g}"


SAID = {
    "0": "right",
    "1": "up",
    "flow_l_min": "flow",
    "drain_l_min": "drain takes",
    "offset": "from the wall's first corner",
}
"""Steps of a pointer that are called otherwise than they are written."""


OF_FLOOR = {
    "direction": "joist direction",
    "centres": "joist centres",
    "width": "joist width",
    "depth": "joist depth",
    "first_offset": "first joist from origin",
}
"""The same under ``/floor``."""


def _named(document: dict[str, Any], path: str) -> str:
    """What a pointer of the plan is called: where it belongs, and what is measured."""
    words: list[str] = []
    value: Any = document
    for step in steps(path):
        value = value[int(step)] if isinstance(value, list) else value[step]
        if isinstance(value, dict) and "name" in value:
            words[-1] = value["name"]
        elif step.isdigit() and isinstance(value, dict | list):
            words[-1] = f"{words[-1].removesuffix('s')} {int(step) + 1}"
        else:
            said = SAID | OF_FLOOR if path.startswith("/floor/") else SAID
            words.append(said.get(step, step.replace("_", " ")))
    if path.startswith(("/survey/", "/water/heads/", "/room/doors/", "/room/fixtures/")):
        words = words[1:]
    return f"{words[0]}: {', '.join(words[1:])}" if len(words) > 1 else words[0]
