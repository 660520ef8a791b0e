"""The rule sets that ship."""

from __future__ import annotations

from flask import Blueprint, Response, jsonify

from calm_basin.rules import rule_sets

blueprint = Blueprint("rules", __name__)


@blueprint.get("/rules")
def list_rules() -> Response:
    sets = [
        rules.model_dump(mode="json")
        | {
            "limits": [
                limit.model_dump(mode="json") | {"value": limit.value, "source": limit.source}
                for limit in rules.limits
            ]
        }
        for rules in rule_sets().values()
    ]
    return jsonify({"rule_sets": sets})
