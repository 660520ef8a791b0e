"""What the API refuses, as problem+json with the fields it is about."""

from __future__ import annotations

import logging
import sqlite3

from flask import Flask, Response
from pydantic import ValidationError

from calm_basin.plan import PlanError, Problem
from calm_basin.plan.reading import problems_of
from calm_basin.rules import RuleFileError
from calm_basin.store.backup import BackupError
from calm_basin.store.database import cure_of
from calm_basin.store.door import LockedOutError, PassphraseError
from calm_basin.store.jobs import ConflictError, DamagedError, NoSuchJobError
from calm_basin.store.log import FullError
from calm_basin.store.own import NotOwnError
from calm_basin.units import UnitError
from calm_basin.web.problems import problem
from calm_basin.web.requests import RequestError, head_of, store
from calm_basin.web.work import OverrunError, WorkError

log = logging.getLogger(__name__)


def register(app: Flask) -> None:
    """Answer what the subjects behind the API refuse."""

    @app.errorhandler(RuleFileError)
    def rules_refused(error: RuleFileError) -> Response:
        fields = [{"path": p.path, "message": p.message} for p in error.problems]
        first = fields[0]
        said = f"{first['path']}: {first['message']}" if first["path"] else first["message"]
        return problem(422, error.title, said, errors=fields)

    @app.errorhandler(NotOwnError)
    def not_own(error: NotOwnError) -> Response:
        return problem(404, "Nothing of that name", str(error))

    @app.errorhandler(RequestError)
    def not_understood(error: RequestError) -> Response:
        return _fields("Not understood", error.problems)

    @app.errorhandler(PlanError)
    @app.errorhandler(ValidationError)
    def plan_refused(error: PlanError | ValidationError) -> Response:
        problems = error.problems if isinstance(error, PlanError) else problems_of(error)
        return _fields("The plan cannot be worked out", problems)

    @app.errorhandler(UnitError)
    def not_read(error: UnitError) -> Response:
        return problem(422, "Not understood", str(error))

    @app.errorhandler(NoSuchJobError)
    def no_job(error: NoSuchJobError) -> Response:
        return problem(404, "No such job", str(error))

    @app.errorhandler(FullError)
    def full(error: FullError) -> Response:
        return problem(422, "The log is full", str(error))

    @app.errorhandler(ConflictError)
    def conflict(error: ConflictError) -> Response:
        return problem(
            409,
            "Changed elsewhere",
            "This job was changed in another window. Nothing of yours is lost: keep your plan on "
            "top of it, or take the other and keep yours as a copy.",
            head=head_of(error.head).model_dump(mode="json"),
        )

    @app.errorhandler(DamagedError)
    def damaged(error: DamagedError) -> Response:
        number, made_at = error.sound or (None, None)
        cure = "Open the one before it." if number else "Restore it from a backup."
        return problem(
            422, "Damaged", f"{error} {cure}", sound={"revision": number, "made_at": made_at}
        )

    @app.errorhandler(sqlite3.DatabaseError)
    def not_stored(error: sqlite3.DatabaseError) -> Response:
        log.warning("The database refused: %s", error)
        trouble = store().trouble
        cause = trouble.detail if trouble else f"The database refused: {error}. {cure_of(error)}"
        return problem(
            503,
            "Not saved",
            f"{cause} Your plan is kept in this window and saved when it works again.",
        )

    @app.errorhandler(BackupError)
    def not_copied(error: BackupError) -> Response:
        return problem(422, "Nothing was changed", str(error))

    @app.errorhandler(WorkError)
    def not_worked_out(error: WorkError) -> Response:
        status = 422 if isinstance(error, OverrunError) else 503
        return problem(status, "Not worked out", str(error))

    @app.errorhandler(LockedOutError)
    def locked_out(error: LockedOutError) -> Response:
        response = problem(429, "Wait", str(error))
        response.headers["Retry-After"] = str(error.seconds)
        return response

    @app.errorhandler(PassphraseError)
    def passphrase(error: PassphraseError) -> Response:
        return problem(422, "Not taken", str(error))


def _fields(title: str, problems: list[Problem]) -> Response:
    """What is wrong with which field; the first is said on top."""
    fields = [{"path": one.path, "message": one.message} for one in problems]
    return problem(422, title, fields[0]["message"], errors=fields)
