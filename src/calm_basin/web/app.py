"""The Flask application: one blueprint per resource, the built front end, one form of error."""

from __future__ import annotations

from pathlib import Path
from urllib.parse import urlsplit

from flask import Flask, Response, abort, request, send_from_directory

from calm_basin.devices.laser import SimulatedLaser
from calm_basin.store.database import migrate
from calm_basin.web import (
    comparing,
    edits,
    errors,
    families,
    jobs,
    rules,
    setting_out,
    sheets,
    solving,
    survey,
    trials,
)

STATIC = Path(__file__).parent / "static"
LARGEST_BODY = 2_000_000
"""Most bytes that a request may carry: twice the largest plan document."""

SECURITY_HEADERS = {
    "Content-Security-Policy": "default-src 'self'; img-src 'self' data:; object-src 'none'; "
    "base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(), geolocation=(), microphone=()",
}


def create_app(database: Path, hosts: frozenset[str] = frozenset()) -> Flask:
    """Make the application over a database file, which is created or migrated.

    ``hosts`` are names besides this machine's own under which it may be asked, so that no foreign
    page can reach it through a name of its own.
    """
    app = Flask(__name__, static_folder=None)
    app.config.update(
        DATABASE=database,
        LASER=SimulatedLaser(),
        MAX_CONTENT_LENGTH=LARGEST_BODY,
        MAX_FORM_MEMORY_SIZE=LARGEST_BODY,
    )
    app.json.sort_keys = False  # type: ignore[attr-defined]
    migrate(database)
    allowed = hosts | {"127.0.0.1", "localhost", "[::1]"}

    @app.before_request
    def guard() -> None:
        name = request.host.rsplit(":", 1)[0] if request.host[-1:] != "]" else request.host
        if name not in allowed:
            abort(421, "This server does not answer to that name. Use the address it printed.")
        if request.method in ("GET", "HEAD", "OPTIONS"):
            return
        origin = request.headers.get("Origin")
        site = request.headers.get("Sec-Fetch-Site", "same-origin")
        foreign = origin is not None and urlsplit(origin).netloc != request.host
        if foreign or site not in ("same-origin", "none"):
            abort(403, "Changes are taken from this application's own pages only.")

    @app.after_request
    def harden(response: Response) -> Response:
        for name, value in SECURITY_HEADERS.items():
            response.headers.setdefault(name, value)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response

    errors.register(app)
    for part in (
        comparing,
        edits,
        families,
        jobs,
        rules,
        solving,
        survey,
        setting_out,
        sheets,
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
