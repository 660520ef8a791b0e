"""Floors made with workmanship error while somebody waits."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import chain

from flask import Blueprint, Response, jsonify

from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError
from calm_basin.core.water.result import TrialResult
from calm_basin.core.water.trials import TrialSettings, trials
from calm_basin.plan import PlanError, Problem, plan_from
from calm_basin.web.requests import body

blueprint = Blueprint("trials", __name__)


@blueprint.get("/trials")
def usual_settings() -> Response:
    """The settings that floors are made with where nobody says otherwise."""
    return jsonify(TrialSettings().model_dump(mode="json"))


@blueprint.post("/trials")
def try_floors() -> Response:
    """Make floors by hand, as JSON lines: after each floor what came of all of them so far.

    Whoever has seen enough closes the connection, and no more floors are made.
    """
    document = body()
    plan = plan_from(document.pop("plan", None))
    settings = TrialSettings.model_validate(document)
    results = trials(plan, Words.of(plan), settings)
    try:
        # The first floor is made before the answer begins, so that errors are told as errors.
        first = next(results)
    except NoSurfaceError as reason:
        raise PlanError([Problem("/shower/drain", str(reason))]) from None
    return Response(_lines(chain([first], results)), mimetype="application/x-ndjson")


def _lines(results: Iterator[TrialResult]) -> Iterator[str]:
    for result in results:
        yield result.model_dump_json() + "\n"
