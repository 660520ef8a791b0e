"""Who is answered: by name and by page."""

from __future__ import annotations

from urllib.parse import urlsplit

from flask import Flask, Response, abort, request

from calm_basin.web.limits import largest

HERE = frozenset({"127.0.0.1", "localhost", "[::1]"})
"""This machine's names for itself."""

HEADERS = {
    "Content-Security-Policy": "default-src 'self'; img-src 'self' data: blob:; object-src 'none'; "
    "base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(), geolocation=(), microphone=()",
}


def register(app: Flask, hosts: frozenset[str]) -> None:
    """Guard an application: it answers to ``hosts`` besides this machine's own names."""
    allowed = hosts | HERE

    @app.before_request
    def guard() -> None:
        request.max_content_length = largest(request.path)
        name = request.host.rsplit(":", 1)[0] if request.host[-1:] != "]" else request.host
        if name.lower() not in allowed:
            abort(421, "This server does not answer to that name. Use the address it printed.")
        changes = request.method not in ("GET", "HEAD", "OPTIONS")
        if changes or request.path.startswith("/api/"):
            origin = request.headers.get("Origin")
            site = request.headers.get("Sec-Fetch-Site", "same-origin")
            foreign = origin is not None and urlsplit(origin).netloc != request.host
            if foreign or site not in ("same-origin", "none"):
                what = "Changes are taken from" if changes else "This is told to"
                abort(403, f"{what} this application's own pages only.")

    @app.after_request
    def harden(response: Response) -> Response:
        for name, value in HEADERS.items():
            response.headers.setdefault(name, value)
        if request.path.startswith("/api/"):
            response.headers["Cache-Control"] = "no-store"
        return response
