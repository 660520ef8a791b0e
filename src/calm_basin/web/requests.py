"""What requests and answers of several blueprints share."""

from __future__ import annotations

import sqlite3
from typing import Any

from flask import current_app, g, request
from werkzeug.exceptions import BadRequest

from calm_basin.plan import PlanError, Problem
from calm_basin.rules import RuleSet
from calm_basin.store.database import connect
from calm_basin.store.jobs import Head
from calm_basin.store.rule_sets import known_rules

FARTHEST = 1e6
"""Places on plan lie nearer to its origin than this, mm."""


def database() -> sqlite3.Connection:
    """This request's connection; it is closed with the request."""
    if "database" not in g:
        g.database = connect(current_app.config["DATABASE"])
    connection: sqlite3.Connection = g.database
    return connection


def close_database(_error: BaseException | None = None) -> None:
    """Close this request's connection, if it has one."""
    connection = g.pop("database", None)
    if connection is not None:
        connection.close()


def known() -> dict[str, RuleSet]:
    """The rule sets that a plan may name."""
    return known_rules(database())


def head_json(head: Head) -> dict[str, Any]:
    """Where a job stands, as JSON."""
    return {
        "job_id": head.job_id,
        "revision": head.revision,
        "plan": head.plan.model_dump(mode="json"),
        "can_undo": head.can_undo,
        "can_redo": head.can_redo,
    }


def body() -> dict[str, Any]:
    """The request's JSON object. Raises `PlanError` where it is none."""
    try:
        document = request.get_json(force=True)
    except BadRequest:
        raise PlanError([Problem("", "The request is not JSON. Send a JSON object.")]) from None
    except RecursionError:
        raise PlanError([Problem("", "The request is nested too deeply.")]) from None
    if not isinstance(document, dict):
        raise PlanError([Problem("", "The request is not a JSON object. Send one.")])
    return document


def is_place(value: object) -> bool:
    """Whether a value of a request is a place on plan: a pair [x, y] in mm."""
    return (
        isinstance(value, list)
        and len(value) == 2
        and all(isinstance(v, int | float) and not isinstance(v, bool) for v in value)
        and all(abs(v) < FARTHEST for v in value)
    )


def field(document: dict[str, Any], name: str, kind: type) -> Any:
    """One field of the request. Raises `PlanError` that names it."""
    value = document.get(name)
    if not isinstance(value, kind) or (kind is int and isinstance(value, bool)):
        words = {int: "a whole number", str: "a text", dict: "an object", list: "a list"}[kind]
        raise PlanError([Problem(f"/{name}", f"“{name}” has to be {words}. Add or correct it.")])
    return value
