"""The application: the built front end at once, and the API behind it once that is loaded."""

from __future__ import annotations

import threading
from collections.abc import Iterable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from flask import Flask, Response, abort, send_from_directory
from werkzeug.exceptions import HTTPException

from calm_basin.web import guard, problems

if TYPE_CHECKING:
    from calm_basin.devices.clock import Clock
    from calm_basin.store.opening import Store
    from calm_basin.web.work import Work

STATIC = Path(__file__).parent / "static"


class Pages(Flask):
    """The front end's pages, and what answers them under ``/api``.

    A page waits for none of what the API stands on: that is loaded when it is first asked for, or
    by `load`.
    """

    def __init__(self, hosts: frozenset[str], **of_api: Any) -> None:
        super().__init__(__name__, static_folder=None)
        self._api: Flask | None = None
        self._loading = threading.Lock()
        self._of_api = {"hosts": hosts} | of_api
        guard.register(self, hosts)
        problems.register(self)

    def load(self) -> Flask:
        """Load the API, once."""
        with self._loading:
            if self._api is None:
                from calm_basin.web.api import create_api

                self._api = create_api(**self._of_api)
            return self._api

    def refused(self, environ: Any) -> Response | None:
        """What a request to the API is refused with whatever it carries, if it is: its body need
        not be read for that."""
        api = self.load()
        with api.request_context(environ):
            try:
                said = api.preprocess_request()
            except HTTPException as error:
                said = api.handle_user_exception(error)
            return None if said is None else api.process_response(api.make_response(said))

    def __call__(self, environ: Any, start_response: Any) -> Iterable[bytes]:
        """Answer a request (PEP 3333)."""
        of_api = environ.get("PATH_INFO", "").startswith("/api/")
        return (self.load().wsgi_app if of_api else self.wsgi_app)(environ, start_response)


def create_app(
    store: Store,
    hosts: frozenset[str] = frozenset(),
    *,
    locked: bool = False,
    answers: Work | None = None,
    long: Work | None = None,
    clock: Clock | None = None,
) -> Pages:
    """Make the application over a store.

    ``hosts`` are names besides this machine's own under which it may be asked, so that no foreign
    page can reach it through a name of its own; ``locked`` says whether one has to sign in.
    ``answers`` and ``long`` do the heavy work that is waited for and the kind that is watched;
    without them it is done by the thread that asks. ``clock`` tells the time of the site.
    """
    app = Pages(hosts, store=store, locked=locked, answers=answers, long=long, clock=clock)

    @app.get("/assets/<path:name>")
    def asset(name: str) -> Response:
        return send_from_directory(STATIC / "assets", name, max_age=31_536_000)

    @app.get("/", defaults={"_path": ""})
    @app.get("/<path:_path>")
    def page(_path: str) -> Response:
        if _path in ("favicon.svg", "sw.js"):
            return send_from_directory(STATIC, _path, max_age=0)
        if not (STATIC / "index.html").exists():
            abort(503, "The front end is not built. Run script/demo or script/test once.")
        return send_from_directory(STATIC, "index.html", max_age=0)

    return app
