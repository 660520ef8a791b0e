"""One plan under several rule sets, and built by several systems."""

from __future__ import annotations

from flask import Blueprint, Response, current_app, jsonify

from calm_basin.plan import PlanError, Problem, plan_from
from calm_basin.store.shelves import FAMILIES, SYSTEMS
from calm_basin.web import heavy
from calm_basin.web.requests import answered, body, database, own_rules, waits_no_more
from calm_basin.web.work import Work, until_stopped

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


@blueprint.post("/compare/systems")
def compare_systems() -> Response:
    """``plan`` built by each system, those that ship and those of one's own, as JSON lines: one a
    system, so that they can be watched."""
    plan = plan_from(body().get("plan"))
    known = list(SYSTEMS.known(database()).values())
    families = FAMILIES.known(database())
    rules = own_rules()
    work: Work = current_app.config["LONG"]
    lines = work.stream(heavy.systems, plan, rules, known, families, gone=waits_no_more())
    # The first is worked out before the answer begins, so that errors are told as errors.
    return Response(until_stopped(next(lines), lines), mimetype="application/x-ndjson")
