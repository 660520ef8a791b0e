"""Drain families, build systems and kinds of layer: those that ship, and those of one's own."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from flask import Blueprint, Response, abort, request

from calm_basin.store.shelves import FAMILIES, LAYERS, SYSTEMS, Shelf
from calm_basin.web.requests import database
from calm_basin.web.sent import Families, Layers, Sent, Systems

blueprint = Blueprint("shelves", __name__)


def _served(name: str, all_of: type[Sent], one: str, shelf: Shelf[Any]) -> None:
    """The addresses of a shelf under its ``name``; each thing on it is sent as ``one``."""

    def shown(items: Iterable[Any], status: int = 200) -> Response:
        told = [{one: item, "ships": item.id in shelf.ships()} for item in items]
        return all_of.model_validate({name: told}).answer(status)

    def list_all() -> Response:
        """Every one as a plan takes it, and whether it ships."""
        return shown(shelf.known(database()).values())

    def import_file() -> Response:
        """Keep some of one's own: the body is the TOML file as it is."""
        items = shelf.read(request.get_data())
        shelf.keep(database(), items)
        return shown(items, 201)

    def export(item: str) -> Response:
        """One as a TOML file that any machine can read back."""
        known = shelf.known(database())
        if item not in known:
            abort(404, f"There is no {shelf.called} “{item[:80]}”.")
        return Response(
            shelf.write(known[item]),
            mimetype="application/toml",
            headers={"Content-Disposition": f'attachment; filename="{item}.toml"'},
        )

    def delete(item: str) -> tuple[str, int]:
        """Remove one of one's own."""
        shelf.remove(database(), item)
        return "", 204

    for rule, method, view in (
        (f"/{name}", "GET", list_all),
        (f"/{name}/import", "POST", import_file),
        (f"/{name}/<item>/file", "GET", export),
        (f"/{name}/<item>", "DELETE", delete),
    ):
        blueprint.add_url_rule(rule, f"{name}_{view.__name__}", view, methods=[method])


_served("families", Families, "family", FAMILIES)
_served("systems", Systems, "system", SYSTEMS)
_served("layers", Layers, "layer", LAYERS)
