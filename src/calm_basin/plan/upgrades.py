"""Older plan files are brought up to date."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any


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


UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _with_survey,
    2: _with_water,
    3: _with_assumed,
    4: _with_users,
}
"""Per version, the function that turns a document of that version into one of the next."""
