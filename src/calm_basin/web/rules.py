"""The rule sets that ship, and those of one's own."""

from __future__ import annotations

from datetime import date

from flask import Blueprint, Response, abort, request

from calm_basin.formats.rules_page import entries, weight_of
from calm_basin.rules import (
    TITLES,
    Fact,
    Limit,
    RuleSet,
    Space,
    read_rules,
    rule_sets,
    written_rules,
)
from calm_basin.store.rule_sets import keep, known_rules, remove
from calm_basin.web import sent
from calm_basin.web.asked import RulesCopied
from calm_basin.web.requests import database, refused, said_of
from calm_basin.web.sent import RuleSets

blueprint = Blueprint("rules", __name__)


@blueprint.get("/rules")
def list_rules() -> Response:
    """Every rule set with what it asks and tells, each with its topic's title and its source."""
    known = known_rules(database())
    return RuleSets(rule_sets=tuple(_shown(rules) for rules in known.values())).answer()


def _shown(rules: RuleSet) -> sent.RuleSet:
    return sent.RuleSet(
        id=rules.id,
        name=rules.name,
        entered=rules.entered.isoformat(),
        deference=rules.deference,
        layer=rules.layer,
        ships=rules.id in rule_sets(),
        entries=tuple(_entry(item) for item in entries(rules)),
    )


def _entry(item: Limit | Space | Fact) -> sent.Rule:
    told = item.model_dump(mode="json")
    return sent.Rule(
        topic=item.topic,
        title=TITLES[item.topic],
        printed=item.printed,
        applies_to=item.applies_to,
        weight=told.get("weight"),
        weighs=weight_of(item),
        binds=told.get("binds"),
        given=told.get("given"),
        width=told.get("width"),
        depth=told.get("depth"),
        source=item.source,
        note=item.note,
    )


@blueprint.post("/rules")
def copy() -> Response:
    """Make a rule set of one's own: the copy of one (``of``) under another ``id`` and ``name``."""
    said, known = said_of(RulesCopied), known_rules(database())
    if said.of not in known:
        raise refused("/of", f"Choose one of {', '.join(known)}.")
    if said.id in known:
        raise refused("/id", f"There is a rule set “{said.id}”. Choose another id.")
    own = known[said.of].model_dump() | {
        "id": said.id,
        "name": said.name.strip(),
        "entered": date.today(),
    }
    rules = RuleSet.model_validate(own)
    keep(database(), rules)
    return _shown(rules).answer(201)


@blueprint.post("/rules/import")
def import_file() -> Response:
    """Keep a rule set of one's own: the body is the TOML file as it is."""
    rules = read_rules(request.get_data())
    keep(database(), rules)
    return _shown(rules).answer(201)


@blueprint.get("/rules/<name>/file")
def export(name: str) -> Response:
    """A rule set as a TOML file that any machine can read back."""
    known = known_rules(database())
    if name not in known:
        abort(404, f"There is no rule set “{name[:80]}”.")
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
