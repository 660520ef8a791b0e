"""What requests and answers of several blueprints share."""

from __future__ import annotations

import re
import sqlite3
import threading
from collections.abc import Callable, Iterator
from typing import Any, TypeVar

from flask import current_app, g, request
from pydantic import BaseModel, ValidationError

from calm_basin.plan import Plan, PlanError, Problem, plan_from
from calm_basin.plan.reading import parsed, problems_of
from calm_basin.rules import RuleSet
from calm_basin.store import jobs
from calm_basin.store.opening import Store
from calm_basin.store.rule_sets import known_rules, own_texts
from calm_basin.web.asked import Written
from calm_basin.web.sent import Head
from calm_basin.web.work import GONE, Work, run

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


def head_of(head: jobs.Head) -> Head:
    """Where a job stands, as it is sent."""
    return Head(
        job_id=head.job_id,
        revision=head.revision,
        plan=head.document,
        can_undo=head.can_undo,
        can_redo=head.can_redo,
        writer=head.writer,
    )


def press() -> str | None:
    """The key of the press that makes something: sent again, it makes no second one.

    Raises `RequestError` where it is no key.
    """
    key = request.headers.get("Idempotency-Key")
    if key is not None and not _KEY.fullmatch(key):
        raise refused("", "The key of the press has 8 to 64 letters and digits.")
    return key


def write_of(said: Written) -> jobs.Write | None:
    """Which window writes and its how-manieth write this is, where the request says so.

    Raises `RequestError` that names the field.
    """
    if said.writer is None:
        return None
    if not _KEY.fullmatch(said.writer):
        raise refused("/writer", "“writer” has 8 to 64 letters and digits.")
    if said.write is None or not 0 < said.write < 2**53:
        raise refused("/write", "“write” counts from 1.")
    return jobs.Write(said.writer, said.write)


class RequestError(PlanError):
    """A request that cannot be understood: which of its fields, and the cure."""


def refused(path: str, message: str) -> RequestError:
    """What is raised where one field of a request is wrong."""
    return RequestError([Problem(path, message)])


def body() -> dict[str, Any]:
    """The request's JSON object. Raises `RequestError` where it is none."""
    try:
        document = parsed(request.get_data())
    except ValueError:
        raise refused("", "The request is not JSON. Send a JSON object.") from None
    except RecursionError:
        raise refused("", "The request is nested too deeply.") from None
    if not isinstance(document, dict):
        raise refused("", "The request is not a JSON object. Send one.")
    return document


AskedT = TypeVar("AskedT", bound=BaseModel)


def checked(kind: type[AskedT], document: object) -> AskedT:
    """What a document of a request says. Raises `RequestError` that names each wrong field."""
    try:
        return kind.model_validate(document)
    except ValidationError as error:
        raise RequestError(problems_of(error)) from None


def said_of(kind: type[AskedT]) -> AskedT:
    """What the request says. Raises `RequestError` that names each wrong field."""
    return checked(kind, body())


def plan_and(kind: type[AskedT]) -> tuple[Plan, AskedT]:
    """The request's ``plan``, and what it says besides. Raises `PlanError` and `RequestError`."""
    document = body()
    return plan_from(document.pop("plan", None)), checked(kind, document)


def plan_of() -> Plan:
    """The request's ``plan``. Raises `PlanError` where it is none."""
    return plan_from(body().get("plan"))
