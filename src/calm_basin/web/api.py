"""The API as a Flask application: one blueprint per resource, one form of error."""

from __future__ import annotations

from flask import Flask, Response, abort

from calm_basin.devices.clock import Clock, SystemClock
from calm_basin.devices.instrument import simulated
from calm_basin.devices.laser import SimulatedLaser
from calm_basin.store.opening import Store
from calm_basin.web import (
    building,
    comparing,
    devices,
    edits,
    errors,
    guard,
    jobs,
    keeping,
    log,
    problems,
    proving,
    requests,
    rules,
    sessions,
    setting_out,
    sheets,
    shelves,
    solving,
    survey,
    tile,
    trials,
)
from calm_basin.web.answered import Answered
from calm_basin.web.limits import LARGEST_BODY
from calm_basin.web.work import Here, Work


def create_api(
    store: Store,
    hosts: frozenset[str],
    *,
    locked: bool,
    answers: Work | None,
    long: Work | None,
    clock: Clock | None = None,
) -> Flask:
    """Make the application behind ``/api``; what it takes is as `create_app` takes it."""
    api = Flask(__name__, static_folder=None)
    api.config.update(
        STORE=store,
        LASER=SimulatedLaser(),
        INSTRUMENTS=simulated(),
        CLOCK=clock or SystemClock(),
        LOCKED=locked,
        ANSWERS=answers or Here(),
        ANSWERED=Answered(),
        LONG=long or Here(),
        MAX_CONTENT_LENGTH=LARGEST_BODY,
        MAX_FORM_MEMORY_SIZE=LARGEST_BODY,
    )
    api.json.sort_keys = False  # type: ignore[attr-defined]
    api.teardown_request(requests.close_database)
    guard.register(api, hosts)
    problems.register(api)
    errors.register(api)
    if locked:
        sessions.lock(api)
    for part in (
        building,
        comparing,
        devices,
        edits,
        jobs,
        keeping,
        log,
        proving,
        rules,
        sessions,
        solving,
        survey,
        setting_out,
        sheets,
        shelves,
        tile,
        trials,
    ):
        api.register_blueprint(part.blueprint, url_prefix="/api")

    @api.get("/api/<path:_path>")
    def unknown(_path: str) -> Response:
        abort(404, "There is no such address in the API.")

    return api
