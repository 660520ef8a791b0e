"""Every error as problem+json (RFC 9457)."""

from __future__ import annotations

import logging
from typing import Any

from flask import Flask, Response, jsonify, request
from werkzeug.exceptions import HTTPException

from calm_basin.web.limits import too_large

log = logging.getLogger(__name__)


def problem(status: int, title: str, detail: str, **more: Any) -> Response:
    """One error. ``errors`` in ``more`` lists {path, message} with JSON pointers."""
    response = jsonify(
        {"type": "about:blank", "title": title, "status": status, "detail": detail} | more
    )
    response.status_code = status
    response.mimetype = "application/problem+json"
    return response


def register(app: Flask) -> None:
    """Answer whatever no other part of an application answers."""

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> Response:
        detail = error.description or error.name
        if error.code == 413:
            detail = too_large(request.path)
        return problem(error.code or 500, error.name, detail)

    @app.errorhandler(Exception)
    def unexpected(error: Exception) -> Response:
        log.exception("Unexpected error at %s", request.path)
        return problem(
            500,
            "Something went wrong here",
            "That is a fault of the program, not of what you entered. Your plan is kept; undo the "
            "last change and go on.",
        )
