"""Where the tile is best begun, while somebody waits."""

from __future__ import annotations

from flask import Blueprint, Response, jsonify

from calm_basin.web import heavy
from calm_basin.web.requests import answered, own_rules, plan_of

blueprint = Blueprint("tile", __name__)


@blueprint.post("/tile/best")
def best() -> Response:
    """What moves the tile of ``plan`` to where its cuts come out best, as ``changes``, with what
    was weighed in words."""
    return jsonify(answered(heavy.best_tile, plan_of(), own_rules()))
