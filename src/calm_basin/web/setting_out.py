"""Screed pins as a file."""

from __future__ import annotations

from flask import Blueprint, Response

from calm_basin.core.answer.question import Part
from calm_basin.core.answer.words import Words
from calm_basin.core.solve import solve
from calm_basin.formats.pins_csv import write_pins
from calm_basin.plan import PlanError, Problem
from calm_basin.store import jobs
from calm_basin.web.requests import database, known

blueprint = Blueprint("setting_out", __name__)

PINS: tuple[Part, ...] = ("pins",)


@blueprint.get("/jobs/<job_id>/pins.csv")
def export_pins(job_id: str) -> Response:
    plan = jobs.head(database(), job_id).plan
    result = solve(plan, parts=PINS, known=known()).pins
    if result is None or not result.pins:
        reason = result.none_because if result else "The falls cannot be worked out yet."
        raise PlanError([Problem("/shower/former", reason)])
    words = Words.of(plan)
    texts = [(words.bare(pin.x), words.bare(pin.y)) for pin in result.pins]
    return Response(
        write_pins(result, texts),
        mimetype="text/csv",
        headers={"Content-Disposition": 'attachment; filename="pins.csv"'},
    )
