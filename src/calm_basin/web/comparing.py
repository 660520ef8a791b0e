"""One plan under several rule sets."""

from __future__ import annotations

from flask import Blueprint, Response, jsonify

from calm_basin.plan import PlanError, Problem, plan_from
from calm_basin.web import heavy
from calm_basin.web.requests import answered, body, own_rules

blueprint = Blueprint("comparing", __name__)

MOST = 8
"""So many rule sets are compared at once."""


@blueprint.post("/compare")
def compare() -> Response:
    """What each of the ``rule_sets``, named by id, finds of ``plan``."""
    document = body()
    plan, names = plan_from(document.get("plan")), document.get("rule_sets")
    if (
        not isinstance(names, list)
        or not 1 <= len(names) <= MOST
        or not all(isinstance(name, str) for name in names)
    ):
        raise PlanError([Problem("/rule_sets", f"Name 1 to {MOST} rule sets by their ids.")])
    return jsonify({"compared": answered(heavy.comparison, plan, own_rules(), names)})
