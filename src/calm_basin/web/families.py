"""The drain families that ship, and those of one's own."""

from __future__ import annotations

from typing import Any

from flask import Blueprint, Response, jsonify, request

from calm_basin.plan import PlanError, Problem
from calm_basin.plan.waste import DrainFamily
from calm_basin.rules import drain_families, read_families, written_families
from calm_basin.store.drain_families import keep, known_families, remove
from calm_basin.web.requests import database

blueprint = Blueprint("families", __name__)


@blueprint.get("/families")
def list_families() -> Response:
    """Every family as a plan takes it, and whether it ships."""
    return jsonify({"families": [_shown(f) for f in known_families(database()).values()]})


def _shown(family: DrainFamily) -> dict[str, Any]:
    return {"family": family.model_dump(mode="json"), "ships": family.id in drain_families()}


@blueprint.post("/families/import")
def import_file() -> tuple[Response, int]:
    """Keep families of one's own: the body is the TOML file as it is."""
    families = read_families(request.get_data())
    keep(database(), families)
    return jsonify({"families": [_shown(family) for family in families]}), 201


@blueprint.get("/families/<name>/file")
def export(name: str) -> Response:
    """A family as a TOML file that any machine can read back."""
    known = known_families(database())
    if name not in known:
        raise PlanError([Problem("", f"There is no drain family “{name}”.")])
    return Response(
        written_families([known[name]]),
        mimetype="application/toml",
        headers={"Content-Disposition": f'attachment; filename="{name}.toml"'},
    )


@blueprint.delete("/families/<name>")
def delete(name: str) -> tuple[str, int]:
    """Remove a family of one's own."""
    remove(database(), name)
    return "", 204
