"""Jobs, their plans and their plan files."""

from __future__ import annotations

import json
import re

from flask import Blueprint, Response, jsonify, request

from calm_basin.plan import PlanError, Problem, plan_from, read_plan
from calm_basin.plan.starting import starting_plan
from calm_basin.rules import usual_family
from calm_basin.store import jobs
from calm_basin.web.requests import body, close_database, database, field, head_json, known

blueprint = Blueprint("jobs", __name__)
blueprint.teardown_app_request(close_database)

UNITS = ("mm", "cm", "m", "in", "ft")


@blueprint.get("/jobs")
def list_jobs() -> Response:
    return jsonify({"jobs": [vars(row) for row in jobs.list_jobs(database())]})


@blueprint.post("/jobs")
def create() -> tuple[Response, int]:
    """Make a job: from ``plan``, or a starting plan from ``name``, ``length`` and ``rule_set``."""
    document = body()
    if "plan" in document:
        plan = plan_from(document["plan"])
    else:
        name = field(document, "name", str).strip()
        length, rule_set = field(document, "length", str), field(document, "rule_set", str)
        if not 1 <= len(name) <= 120:
            raise PlanError([Problem("/name", "Give the job a name of 1 to 120 characters.")])
        if length not in UNITS:
            raise PlanError([Problem("/length", f"Choose one of {', '.join(UNITS)}.")])
        if rule_set not in known():
            raise PlanError([Problem("/rule_set", f"Choose one of {', '.join(known())}.")])
        plan = starting_plan(name, length, rule_set, usual_family("linear", "bed"))
    return jsonify(head_json(jobs.create(database(), plan))), 201


@blueprint.post("/jobs/import")
def import_file() -> tuple[Response, int]:
    """Make a job from a plan file: the body is the file as it is."""
    return jsonify(head_json(jobs.create(database(), read_plan(request.get_data())))), 201


@blueprint.get("/jobs/<job_id>")
def show(job_id: str) -> Response:
    return jsonify(head_json(jobs.head(database(), job_id)))


@blueprint.delete("/jobs/<job_id>")
def delete(job_id: str) -> tuple[str, int]:
    jobs.delete(database(), job_id)
    return "", 204


@blueprint.post("/jobs/<job_id>/restore")
def restore(job_id: str) -> Response:
    """Bring back a job that was deleted."""
    return jsonify(head_json(jobs.restore(database(), job_id)))


@blueprint.put("/jobs/<job_id>/plan")
def save(job_id: str) -> Response:
    """Save ``plan`` over revision ``base``; answers 409 where the job has moved on."""
    document = body()
    base = field(document, "base", int)
    plan = plan_from(document.get("plan"))
    return jsonify(head_json(jobs.save(database(), job_id, base, plan)))


@blueprint.post("/jobs/<job_id>/undo")
def undo(job_id: str) -> Response:
    return jsonify(head_json(jobs.undo(database(), job_id, field(body(), "base", int))))


@blueprint.post("/jobs/<job_id>/redo")
def redo(job_id: str) -> Response:
    return jsonify(head_json(jobs.redo(database(), job_id, field(body(), "base", int))))


@blueprint.get("/jobs/<job_id>/plan-file")
def export(job_id: str) -> Response:
    """The plan as a file that any machine can read back."""
    plan = jobs.head(database(), job_id).plan
    text = json.dumps(plan.model_dump(mode="json"), indent=2, ensure_ascii=False) + "\n"
    name = re.sub(r"[^a-z0-9]+", "-", plan.job.name.lower()).strip("-") or "plan"
    return Response(
        text,
        mimetype="application/json",
        headers={"Content-Disposition": f'attachment; filename="{name}.calm-basin.json"'},
    )
