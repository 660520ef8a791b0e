"""Older plan files are brought up to date."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from calm_basin.plan.backs import turned_to_wall
from calm_basin.plan.layers import role_by_name


def _with_survey(document: dict[str, Any]) -> dict[str, Any]:
    """Version 2 adds the survey: taped walls, spot levels and how the floor is made true."""
    return {**document, "version": 2}


def _with_water(document: dict[str, Any]) -> dict[str, Any]:
    """Version 3 adds even falls, two drains, two zones, cut trays, panels and the water."""
    return {**document, "version": 3}


def _with_assumed(document: dict[str, Any]) -> dict[str, Any]:
    """Version 4 tells what is only assumed, and calls the staff's reading what it is."""
    upgraded = {name: value for name, value in document.items() if name != "laser"}
    if "laser" in document:
        upgraded["staff_on_high_spot"] = document["laser"]
    return {**upgraded, "version": 4}


def _with_users(document: dict[str, Any]) -> dict[str, Any]:
    """Version 5 tells who will use the room."""
    return {**document, "version": 5}


def _with_kinds(document: dict[str, Any]) -> dict[str, Any]:
    """Version 6 tells what each fixture is and which way it looks: its back was at the wall."""
    room = document.get("room")
    if not isinstance(room, dict) or not isinstance(room.get("fixtures"), list | tuple):
        return {**document, "version": 6}
    fixtures = [_with_kind(fixture, room.get("outline")) for fixture in room["fixtures"]]
    return {**document, "room": {**room, "fixtures": fixtures}, "version": 6}


def _with_kind(fixture: Any, outline: Any) -> Any:
    if not isinstance(fixture, dict) or fixture.get("name") not in ("WC", "basin", "cabinet"):
        return fixture
    try:
        turned = turned_to_wall(
            outline,
            fixture["centre"],
            (fixture["width"], fixture["length"]),
            fixture.get("turn") or 0.0,
        )
    except (KeyError, TypeError, ValueError, IndexError):
        # What is wrong with it is told when the document is read.
        return fixture
    width, length, turn = turned
    return {**fixture, "kind": fixture["name"], "width": width, "length": length, "turn": turn}


def _with_waste(document: dict[str, Any]) -> dict[str, Any]:
    """Version 7 tells what carries the floor, what lies in it, and where the waste goes."""
    return {**document, "version": 7}


def _with_stock(document: dict[str, Any]) -> dict[str, Any]:
    """Version 8 tells how large a tray is as it is delivered, and where its own drain lies."""
    return {**document, "version": 8}


def _with_system(document: dict[str, Any]) -> dict[str, Any]:
    """Version 9 tells by which build system the shower is built, how thick a layer usually is, a
    bed's lower lift, a tray's extension and what goes on the walls."""
    return {**document, "version": 9}


def _with_order(document: dict[str, Any]) -> dict[str, Any]:
    """Version 10 tells what was typed and ticked of what is bought, and when the work is done."""
    return {**document, "version": 10}


def _with_marks(document: dict[str, Any]) -> dict[str, Any]:
    """Version 11 tells what was marked on the floor, and keeps pins and level line beside it."""
    moved = ("pin_spacing", "staff_on_high_spot")
    upgraded = {name: value for name, value in document.items() if name not in moved}
    kept = {name: document[name] for name in moved if name in document}
    if kept:
        upgraded["setting_out"] = kept
    assumed = document.get("assumed")
    if isinstance(assumed, list | tuple):
        upgraded["assumed"] = [
            f"/setting_out{pointer}"
            if isinstance(pointer, str) and pointer[1:] in moved
            else pointer
            for pointer in assumed
        ]
    return {**upgraded, "version": 11}


def _with_tiling(document: dict[str, Any]) -> dict[str, Any]:
    """Version 12 tells how the floor's tile is laid out, of a heating cable and
    of the membrane."""
    return {**document, "version": 12}


def _with_walls(document: dict[str, Any]) -> dict[str, Any]:
    """Version 13 tells what is on the studs. What still went on a shower's walls, inside its
    outline, is on them: the room was then measured at the studs, and its finished walls have to be
    moved in by it."""
    shower = document.get("shower")
    if not isinstance(shower, dict) or "wall_layers" not in shower:
        return {**document, "version": 13}
    kept = {name: value for name, value in shower.items() if name != "wall_layers"}
    walls: dict[str, Any] = {}
    if shower["wall_layers"]:
        room = document.get("room")
        walls["shower"] = shower["wall_layers"]
        walls["studs"] = room.get("outline") if isinstance(room, dict) else None
    upgraded = {**document, "shower": kept, "version": 13} | ({"walls": walls} if walls else {})
    assumed = document.get("assumed")
    if isinstance(assumed, list | tuple):
        upgraded["assumed"] = [
            pointer.replace("/shower/wall_layers", "/walls/shower", 1)
            if isinstance(pointer, str)
            else pointer
            for pointer in assumed
        ]
    return upgraded


LAYERS = (
    ("room", "layers"),
    ("shower", "layers"),
    ("walls", "shower"),
    ("walls", "rest"),
    ("system", "layers", "shower"),
    ("system", "layers", "room"),
)
"""Where layers are listed."""


def _with_roles(document: dict[str, Any]) -> dict[str, Any]:
    """Version 14 tells what each layer is, whatever it is called: it was known by its name."""
    upgraded = {**document, "version": 14}
    for place in LAYERS:
        upgraded = with_roles(upgraded, place)
    return upgraded


def with_roles(part: Any, place: tuple[str, ...]) -> Any:
    """A part of a document with a role for each layer of the list at a place in it; what is no
    list of layers is left to whoever reads it."""
    if not place:
        return [_with_role(layer) for layer in part] if isinstance(part, list | tuple) else part
    name, *rest = place
    if not isinstance(part, dict) or name not in part:
        return part
    return {**part, name: with_roles(part[name], tuple(rest))}


def _with_role(layer: Any) -> Any:
    if not isinstance(layer, dict) or "role" in layer or not isinstance(layer.get("name"), str):
        return layer
    return {"role": role_by_name(layer["name"]), **layer}


UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _with_survey,
    2: _with_water,
    3: _with_assumed,
    4: _with_users,
    5: _with_kinds,
    6: _with_waste,
    7: _with_stock,
    8: _with_system,
    9: _with_order,
    10: _with_marks,
    11: _with_tiling,
    12: _with_walls,
    13: _with_roles,
}
"""Per version, the function that turns a document of that version into one of the next."""
