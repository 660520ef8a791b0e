"""What requests and answers of several blueprints share."""

from __future__ import annotations

import re
import sqlite3
import threading
from collections.abc import Callable, Iterator
from typing import Any

from flask import current_app, g, request

from calm_basin.plan import PlanError, Problem
from calm_basin.plan.reading import parsed
from calm_basin.rules import RuleSet
from calm_basin.store.jobs import Head, Write
from calm_basin.store.opening import Store
from calm_basin.store.rule_sets import known_rules, own_texts
from calm_basin.web.work import GONE, Work, run

FARTHEST = 1e6
"""Places on plan lie nearer to its origin than this, mm."""

_KEY = re.compile(r"[A-Za-z0-9_-]{8,64}")


def store() -> Store:
    """The store that this application serves."""
    opened: Store = current_app.config["STORE"]
    return opened


def database() -> sqlite3.Connection:
    """This request's connection; it is closed with the request."""
    if "database" not in g:
        g.database = store().connect()
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


def answered(call: Callable[..., Iterator[Any]], *args: Any) -> Any:
    """What a heavy function yields, worked out apart. Raises `PlanError` and `WorkError`."""
    work: Work = current_app.config["ANSWERS"]
    return run(work, call, *args, gone=waits_no_more())


def own_rules() -> tuple[str, ...]:
    """The rule sets of one's own, as heavy work takes them."""
    texts = own_texts(database())
    close_database()
    return texts


def waits_no_more() -> Callable[[], bool]:
    """What tells whether the asker has gone."""
    event: threading.Event | None = request.environ.get("asgi.scope", {}).get(GONE)
    return event.is_set if event else lambda: False


def address() -> str:
    """Where this request comes from."""
    return request.remote_addr or ""


def head_json(head: Head) -> dict[str, Any]:
    """Where a job stands, as JSON."""
    return {
        "job_id": head.job_id,
        "revision": head.revision,
        "plan": head.document,
        "can_undo": head.can_undo,
        "can_redo": head.can_redo,
        "writer": head.writer,
    }


def press() -> str | None:
    """The key of the press that makes something: sent again, it makes no second one.

    Raises `PlanError` where it is no key.
    """
    key = request.headers.get("Idempotency-Key")
    if key is not None and not _KEY.fullmatch(key):
        raise PlanError([Problem("", "The key of the press has 8 to 64 letters and digits.")])
    return key


def write_of(document: dict[str, Any]) -> Write | None:
    """Which window writes and its how-manieth write this is, where the request says so.

    Raises `PlanError` that names the field.
    """
    if document.get("writer") is None:
        return None
    writer, number = field(document, "writer", str), field(document, "write", int)
    if not _KEY.fullmatch(writer):
        raise PlanError([Problem("/writer", "“writer” has 8 to 64 letters and digits.")])
    if not 0 < number < 2**53:
        raise PlanError([Problem("/write", "“write” counts from 1.")])
    return Write(writer, number)


def body() -> dict[str, Any]:
    """The request's JSON object. Raises `PlanError` where it is none."""
    try:
        document = parsed(request.get_data())
    except ValueError:
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


def place(document: dict[str, Any], name: str) -> tuple[float, float]:
    """A place on plan, mm, in the request. Raises `PlanError` that names it."""
    value = document.get(name)
    if not isinstance(value, list) or not is_place(value):
        raise PlanError([Problem(f"/{name}", f"“{name}” has to be a pair [x, y] in mm.")])
    return float(value[0]), float(value[1])


def field(document: dict[str, Any], name: str, kind: type) -> Any:
    """One field of the request. Raises `PlanError` that names it."""
    value = document.get(name)
    if not isinstance(value, kind) or (kind is int and isinstance(value, bool)):
        words = {int: "a whole number", str: "a text", dict: "an object", list: "a list"}[kind]
        raise PlanError([Problem(f"/{name}", f"“{name}” has to be {words}. Add or correct it.")])
    return value
