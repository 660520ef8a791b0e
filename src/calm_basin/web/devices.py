"""Instruments and the clock of the site: stand-ins, until real ones are connected."""

from __future__ import annotations

from dataclasses import asdict

from flask import Blueprint, Response, abort, current_app, jsonify

from calm_basin.devices.clock import Clock
from calm_basin.devices.instrument import Instrument
from calm_basin.devices.laser import LaserLevel
from calm_basin.plan import PlanError, Problem
from calm_basin.units import format_length, parse_length
from calm_basin.web.requests import body, field, place
from calm_basin.web.solving import plan_display

blueprint = Blueprint("devices", __name__)

MOST = 1e6
"""Nothing that is read is more."""


@blueprint.get("/devices/clock")
def tell_time() -> Response:
    """The moment of the site, and how fast its clock runs."""
    clock: Clock = current_app.config["CLOCK"]
    moment = clock.now().isoformat(timespec="seconds")
    return jsonify({"now": moment, "speed": clock.speed, "simulated": clock.speed != 1.0})


@blueprint.post("/devices/laser/read")
def shoot() -> Response:
    """Set the staff up at ``at`` and read it."""
    laser: LaserLevel = current_app.config["LASER"]
    shot = laser.read(*place(body(), "at"))
    return jsonify(asdict(shot))


@blueprint.post("/devices/<name>/read")
def read(name: str) -> Response:
    """Read an instrument; ``near`` is what is expected, as it is typed: a length, or a number."""
    instruments: dict[str, Instrument] = current_app.config["INSTRUMENTS"]
    if name not in instruments:
        abort(404, f"There is no such instrument. There are: laser, {', '.join(instruments)}.")
    document = body()
    near, display = field(document, "near", str).strip(), plan_display(document.get("display", {}))
    length = name == "distance"
    try:
        value = parse_length(near, display) if length else float(near.replace(",", "."))
        if not abs(value) < MOST:
            raise ValueError("That is too much.")
    except ValueError:
        said = "Fill in what it should be first: the stand-in reads near that."
        raise PlanError([Problem("/near", said)]) from None
    found = instruments[name].read(value)
    text = format_length(found.value, display) if length else f"{found.value:g}"
    return jsonify({**asdict(found), "text": text})
