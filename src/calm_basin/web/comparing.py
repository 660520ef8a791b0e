"""One plan under several rule sets, and built by several systems."""

from __future__ import annotations

from flask import Blueprint, Response, current_app, jsonify

from calm_basin.store.shelves import FAMILIES, SYSTEMS
from calm_basin.web import heavy
from calm_basin.web.asked import RuleSetNames
from calm_basin.web.requests import (
    answered,
    database,
    own_rules,
    plan_and,
    plan_of,
    waits_no_more,
)
from calm_basin.web.work import Work, until_stopped

blueprint = Blueprint("comparing", __name__)


@blueprint.post("/compare")
def compare() -> Response:
    """What each of the ``rule_sets``, named by id, finds of ``plan``."""
    plan, said = plan_and(RuleSetNames)
    return jsonify({"compared": answered(heavy.comparison, plan, own_rules(), said.rule_sets)})


@blueprint.post("/compare/systems")
def compare_systems() -> Response:
    """``plan`` built by each system, those that ship and those of one's own, as JSON lines: one a
    system, so that they can be watched."""
    plan = plan_of()
    known = list(SYSTEMS.known(database()).values())
    families = FAMILIES.known(database())
    rules = own_rules()
    work: Work = current_app.config["LONG"]
    lines = work.stream(heavy.systems, plan, rules, known, families, gone=waits_no_more())
    # The first is worked out before the answer begins, so that errors are told as errors.
    return Response(until_stopped(next(lines), lines), mimetype="application/x-ndjson")
