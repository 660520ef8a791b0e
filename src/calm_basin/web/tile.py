"""Where the tile is best begun, while somebody waits."""

from __future__ import annotations

from flask import Blueprint, Response, jsonify

from calm_basin.plan import plan_from
from calm_basin.web import heavy
from calm_basin.web.requests import answered, body, own_rules

blueprint = Blueprint("tile", __name__)


@blueprint.post("/tile/best")
def best() -> Response:
    """What moves the tile of ``plan`` to where its cuts come out best, as ``changes``, with what
    was weighed in words."""
    plan = plan_from(body().get("plan"))
    return jsonify(answered(heavy.best_tile, plan, own_rules()))
