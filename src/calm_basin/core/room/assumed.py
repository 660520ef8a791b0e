"""What the figures rest on that nobody has measured."""

from __future__ import annotations

import re

from calm_basin.core.room.result import Assumed
from calm_basin.plan import Plan
from calm_basin.plan.assumed import CHOICES, assumable


def assumed(plan: Plan) -> Assumed:
    """The measures and choices of a plan that are only assumed.

    The corners of an outline that share a width or a depth are one measure of it.
    """
    there = {path for path, _ in assumable(plan)} if plan.assumed else set()
    paths = tuple(path for path in plan.assumed if path in there)
    choices = sum(CHOICES.fullmatch(path) is not None for path in paths)
    count = len({re.sub(r"/outline/\d+/", "/outline/", path) for path in paths})
    measures = count - choices
    named = [
        f"{n} {'assumed ' if first else ''}{name}{'' if n == 1 else 's'}"
        for n, name, first in ((measures, "measure", True), (choices, "choice", not measures))
        if n
    ]
    return Assumed(
        paths=paths, count=count, text=f"rests on {' and '.join(named)}" if named else ""
    )
