"""What the figures rest on that nobody has measured."""

from __future__ import annotations

import re

from calm_basin.core.room.result import Assumed
from calm_basin.plan import Plan, quantities


def assumed(plan: Plan) -> Assumed:
    """The measures of a plan that are only assumed.

    The corners of an outline that share a width or a depth are one measure of it.
    """
    there = {path for path, _, _ in quantities(plan)} if plan.assumed else set()
    paths = tuple(path for path in plan.assumed if path in there)
    count = len({re.sub(r"/outline/\d+/", "/outline/", path) for path in paths})
    return Assumed(
        paths=paths,
        count=count,
        text=f"rests on {count} assumed {'measure' if count == 1 else 'measures'}" if count else "",
    )
