"""The Flask application: one blueprint per resource, the built front end, one form of error."""

from __future__ import annotations

from pathlib import Path

from flask import Flask, Response, abort, send_from_directory

from calm_basin.devices.laser import SimulatedLaser
from calm_basin.store.opening import Store
from calm_basin.web import (
    comparing,
    edits,
    errors,
    guard,
    jobs,
    keeping,
    rules,
    sessions,
    setting_out,
    sheets,
    shelves,
    solving,
    survey,
    trials,
)
from calm_basin.web.limits import LARGEST_BODY
from calm_basin.web.work import Here, Work

STATIC = Path(__file__).parent / "static"


def create_app(
    store: Store,
    hosts: frozenset[str] = frozenset(),
    *,
    locked: bool = False,
    answers: Work | None = None,
    long: Work | None = None,
) -> Flask:
    """Make the application over a store.

    ``hosts`` are names besides this machine's own under which it may be asked, so that no foreign
    page can reach it through a name of its own; ``locked`` says whether one has to sign in.
    ``answers`` and ``long`` do the heavy work that is waited for and the kind that is watched;
    without them it is done by the thread that asks.
    """
    app = Flask(__name__, static_folder=None)
    app.config.update(
        STORE=store,
        LASER=SimulatedLaser(),
        LOCKED=locked,
        ANSWERS=answers or Here(),
        LONG=long or Here(),
        MAX_CONTENT_LENGTH=LARGEST_BODY,
        MAX_FORM_MEMORY_SIZE=LARGEST_BODY,
    )
    app.json.sort_keys = False  # type: ignore[attr-defined]
    guard.register(app, hosts, locked)
    errors.register(app)
    for part in (
        comparing,
        edits,
        jobs,
        keeping,
        rules,
        sessions,
        solving,
        survey,
        setting_out,
        sheets,
        shelves,
        trials,
    ):
        app.register_blueprint(part.blueprint, url_prefix="/api")

    @app.get("/api/<path:_path>")
    def unknown(_path: str) -> Response:
        abort(404, "There is no such address in the API.")

    @app.get("/assets/<path:name>")
    def asset(name: str) -> Response:
        return send_from_directory(STATIC / "assets", name, max_age=31_536_000)

    @app.get("/", defaults={"_path": ""})
    @app.get("/<path:_path>")
    def page(_path: str) -> Response:
        if _path in ("favicon.svg",):
            return send_from_directory(STATIC, _path)
        if not (STATIC / "index.html").exists():
            abort(503, "The front end is not built. Run script/demo or script/test once.")
        return send_from_directory(STATIC, "index.html", max_age=0)

    return app
