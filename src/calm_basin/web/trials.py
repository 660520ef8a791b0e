"""Floors made with workmanship error while somebody waits."""

from __future__ import annotations

from flask import Blueprint, Response, current_app, jsonify

from calm_basin.core.water.settings import TrialSettings
from calm_basin.plan import plan_from
from calm_basin.web import heavy
from calm_basin.web.requests import body, checked, waits_no_more
from calm_basin.web.work import Work, until_stopped

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
    settings = checked(TrialSettings, document)
    work: Work = current_app.config["LONG"]
    lines = work.stream(heavy.floors, plan, settings, gone=waits_no_more())
    # The first floor is made before the answer begins, so that errors are told as errors.
    return Response(until_stopped(next(lines), lines), mimetype="application/x-ndjson")
