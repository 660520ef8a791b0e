"""Instruments and the clock of the site: stand-ins, until real ones are connected."""

from __future__ import annotations

from dataclasses import asdict

from flask import Blueprint, Response, abort, current_app

from calm_basin.devices.clock import Clock
from calm_basin.devices.instrument import Instrument
from calm_basin.devices.laser import LaserLevel
from calm_basin.units import format_length, parse_length
from calm_basin.web import sent
from calm_basin.web.asked import Aimed, Expected
from calm_basin.web.requests import refused, said_of

blueprint = Blueprint("devices", __name__)

MOST = 1e6
"""Nothing that is read is more."""


@blueprint.get("/devices/clock")
def tell_time() -> Response:
    """The moment of the site, and how fast its clock runs."""
    clock: Clock = current_app.config["CLOCK"]
    moment = clock.now().isoformat(timespec="seconds")
    return sent.Clock(now=moment, speed=clock.speed, simulated=clock.speed != 1.0).answer()


@blueprint.post("/devices/laser/read")
def shoot() -> Response:
    """Set the staff up at ``at`` and read it."""
    laser: LaserLevel = current_app.config["LASER"]
    return sent.Shot.model_validate(laser.read(*said_of(Aimed).at)).answer()


@blueprint.post("/devices/<name>/read")
def read(name: str) -> Response:
    """Read an instrument; ``near`` is what is expected, as it is typed: a length, or a number."""
    instruments: dict[str, Instrument] = current_app.config["INSTRUMENTS"]
    if name not in instruments:
        abort(404, f"There is no such instrument. There are: laser, {', '.join(instruments)}.")
    said = said_of(Expected)
    near, display = said.near.strip(), said.display.shown
    length = name == "distance"
    try:
        value = parse_length(near, display) if length else float(near.replace(",", "."))
        if not abs(value) < MOST:
            raise ValueError("That is too much.")
    except ValueError:
        cure = "Fill in what it should be first: the stand-in reads near that."
        raise refused("/near", cure) from None
    found = instruments[name].read(value)
    text = format_length(found.value, display) if length else f"{found.value:g}"
    return sent.InstrumentReading(**asdict(found), text=text).answer()
