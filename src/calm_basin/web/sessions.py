"""Coming in from another machine, and going out again."""

from __future__ import annotations

from flask import Blueprint, Flask, Response, current_app, g, jsonify, request

from calm_basin.store import door, events
from calm_basin.web.asked import Passphrase
from calm_basin.web.problems import problem
from calm_basin.web.requests import address, database, refused, said_of
from calm_basin.web.sent import Coming, Comings, Door, Happening

blueprint = Blueprint("sessions", __name__)


def lock(app: Flask) -> None:
    """Let nobody into an application but by a session."""

    @app.before_request
    def ask() -> Response | None:
        g.session = door.is_in(database(), request.cookies.get(_cookie(), "")[:100])
        if g.session or request.path == "/api/session":
            return None
        return problem(401, "Not signed in", "Sign in with the passphrase of this Calm Basin.")


def _cookie() -> str:
    """The session's cookie: browsers take one of the first name over TLS only, from this host."""
    return "__Host-calm-basin" if request.is_secure else "calm-basin"


@blueprint.get("/session")
def show() -> Response:
    """Whether one has to sign in here and whether one has; on this machine alone, whether there is
    a passphrase for others."""
    locked = bool(current_app.config["LOCKED"])
    there = not locked and door.is_set(database())
    said = {"asked": locked, "in": not locked or bool(g.get("session")), "set": there}
    return Door.model_validate(said).answer()


@blueprint.post("/session")
def sign_in() -> Response:
    """Sign in with the ``passphrase``."""
    passphrase = said_of(Passphrase).passphrase
    browser = request.headers.get("User-Agent", "")
    token = door.sign_in(database(), passphrase, address(), browser)
    if token is None:
        raise refused("/passphrase", "That is not the passphrase. Type it again.")
    response = Door.model_validate({"asked": True, "in": True}).answer(201)
    response.set_cookie(
        _cookie(),
        token,
        max_age=3600 * door.HOURS,
        path="/",
        secure=request.is_secure,
        httponly=True,
        samesite="Strict",
    )
    return response


@blueprint.delete("/session")
def sign_out() -> tuple[Response, int]:
    """End this session."""
    if g.get("session"):
        door.end(database(), g.session, address())
    response = jsonify({})
    response.delete_cookie(_cookie(), secure=request.is_secure, samesite="Strict")
    return response, 200


@blueprint.get("/sessions")
def list_sessions() -> Response:
    """Who is in, and what was written down of comings, deletions and restores."""
    here = g.get("session")
    inside = (Coming(**vars(one), this=one.key == here) for one in door.sessions(database()))
    told = (Happening(**vars(one)) for one in events.told(database()))
    return Comings(sessions=tuple(inside), events=tuple(told)).answer()


@blueprint.delete("/sessions/<key>")
def end(key: str) -> tuple[str, int]:
    """End another session."""
    door.end(database(), key[:100], address())
    return "", 204
