"""The rule sets that ship, and those of one's own."""

from __future__ import annotations

from datetime import date
from typing import Any

from flask import Blueprint, Response, jsonify, request

from calm_basin.formats.rules_page import entries, weight_of
from calm_basin.plan import PlanError, Problem
from calm_basin.rules import TITLES, RuleSet, read_rules, rule_sets, written_rules
from calm_basin.store.rule_sets import keep, known_rules, remove
from calm_basin.web.requests import body, database, field

blueprint = Blueprint("rules", __name__)


@blueprint.get("/rules")
def list_rules() -> Response:
    """Every rule set with what it asks and tells, each with its topic's title and its source."""
    known = known_rules(database())
    return jsonify({"rule_sets": [_shown(rules) for rules in known.values()]})


def _shown(rules: RuleSet) -> dict[str, Any]:
    return {
        "id": rules.id,
        "name": rules.name,
        "entered": rules.entered.isoformat(),
        "deference": rules.deference,
        "layer": rules.layer,
        "ships": rules.id in rule_sets(),
        "entries": [
            item.model_dump(mode="json", exclude_defaults=True)
            | {
                "title": TITLES[item.topic],
                "applies_to": item.applies_to,
                "printed": item.printed,
                "weighs": weight_of(item),
                "source": item.source,
                "note": item.note,
            }
            for item in entries(rules)
        ],
    }


@blueprint.post("/rules")
def copy() -> tuple[Response, int]:
    """Make a rule set of one's own: the copy of one (``of``) under another ``id`` and ``name``."""
    document = body()
    known, of = known_rules(database()), field(document, "of", str)
    if of not in known:
        raise PlanError([Problem("/of", f"Choose one of {', '.join(known)}.")])
    name = field(document, "id", str)
    if name in known:
        raise PlanError([Problem("/id", f"There is a rule set “{name}”. Choose another id.")])
    own = known[of].model_dump() | {
        "id": name,
        "name": field(document, "name", str).strip(),
        "entered": date.today(),
    }
    rules = RuleSet.model_validate(own)
    keep(database(), rules)
    return jsonify(_shown(rules)), 201


@blueprint.post("/rules/import")
def import_file() -> tuple[Response, int]:
    """Keep a rule set of one's own: the body is the TOML file as it is."""
    rules = read_rules(request.get_data())
    keep(database(), rules)
    return jsonify(_shown(rules)), 201


@blueprint.get("/rules/<name>/file")
def export(name: str) -> Response:
    """A rule set as a TOML file that any machine can read back."""
    known = known_rules(database())
    if name not in known:
        raise PlanError([Problem("", f"There is no rule set “{name}”.")])
    return Response(
        written_rules(known[name]),
        mimetype="application/toml",
        headers={"Content-Disposition": f'attachment; filename="{name}.toml"'},
    )


@blueprint.delete("/rules/<name>")
def delete(name: str) -> tuple[str, int]:
    """Remove a rule set of one's own."""
    remove(database(), name)
    return "", 204
