"""The rule sets that ship."""

from __future__ import annotations

from flask import Blueprint, Response, jsonify

from calm_basin.rules import TITLES, rule_sets

blueprint = Blueprint("rules", __name__)


@blueprint.get("/rules")
def list_rules() -> Response:
    """Every rule set with its limits and facts, each with its topic's title and its source."""
    sets = [
        rules.model_dump(mode="json")
        | {
            "limits": [
                limit.model_dump(mode="json")
                | {
                    "title": TITLES[limit.topic],
                    "value": limit.value,
                    "printed": f"{limit.binds.replace('_', ' ')} {limit.printed}",
                    "source": limit.source,
                }
                for limit in rules.limits
            ],
            "facts": [
                fact.model_dump(mode="json")
                | {"title": TITLES[fact.topic], "printed": fact.given, "source": fact.source}
                for fact in rules.facts
            ],
        }
        for rules in rule_sets().values()
    ]
    return jsonify({"rule_sets": sets})
