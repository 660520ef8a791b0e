"""Screed pins as a file, and floors made with workmanship error while somebody waits."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import chain

from flask import Blueprint, Response

from calm_basin.core.answer.question import Part
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError
from calm_basin.core.solve import solve
from calm_basin.core.water.result import TrialResult
from calm_basin.core.water.trials import TrialSettings, trials
from calm_basin.formats.pins_csv import write_pins
from calm_basin.plan import PlanError, Problem, plan_from
from calm_basin.store import jobs
from calm_basin.web.heads import body, database

blueprint = Blueprint("floor", __name__)

PINS: tuple[Part, ...] = ("pins",)


@blueprint.get("/jobs/<job_id>/pins.csv")
def export_pins(job_id: str) -> Response:
    plan = jobs.head(database(), job_id).plan
    result = solve(plan, parts=PINS).pins
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


@blueprint.post("/trials")
def try_floors() -> Response:
    """Make floors by hand, as JSON lines: after each floor what came of all of them so far.

    Whoever has seen enough closes the connection, and no more floors are made.
    """
    document = body()
    plan = plan_from(document.pop("plan", None))
    settings = TrialSettings.model_validate(document)
    results = trials(plan, Words.of(plan), settings)
    try:
        # The first floor is made before the answer begins, so that errors are told as errors.
        first = next(results)
    except NoSurfaceError as reason:
        raise PlanError([Problem("/shower/drain", str(reason))]) from None
    return Response(_lines(chain([first], results)), mimetype="application/x-ndjson")


def _lines(results: Iterator[TrialResult]) -> Iterator[str]:
    for result in results:
        yield result.model_dump_json() + "\n"
