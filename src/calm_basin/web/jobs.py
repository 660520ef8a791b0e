"""Jobs, their plans and their plan files."""

from __future__ import annotations

import json
import re
import shutil
import sqlite3
import tempfile
from collections.abc import Callable
from contextlib import suppress
from functools import cache
from hashlib import sha256
from pathlib import Path
from typing import Any

from flask import Blueprint, Response, current_app, request

import calm_basin
from calm_basin.plan import PlanError, Problem, plan_from, read_plan
from calm_basin.plan.reading import upgraded
from calm_basin.plan.starting import Said, starting_plan
from calm_basin.plan.water import Water
from calm_basin.rules import usual_family
from calm_basin.store import cards, events, job_file, jobs, photos, record
from calm_basin.store.rule_sets import own_texts
from calm_basin.units import Display, UnitError, parse_length
from calm_basin.web import asked, heavy
from calm_basin.web.asked import Based, Beginning, Revision
from calm_basin.web.requests import (
    RequestError,
    address,
    answered,
    body,
    checked,
    database,
    head_of,
    known,
    own_rules,
    plan_and,
    press,
    refused,
    said_of,
    store,
    waits_no_more,
    write_of,
)
from calm_basin.web.sent import DeletedJobs, EditedPlan, JobRow, Jobs, ListedJob
from calm_basin.web.work import OverrunError, Work

blueprint = Blueprint("jobs", __name__)

PACKAGE = Path(calm_basin.__file__).parent


@blueprint.get("/jobs")
def list_jobs() -> Response:
    """All jobs, each with the card that was kept when it was last worked out, if there is one, and
    whether that is of the job as it stands."""
    kept = cards.cards(database(), _besides())
    none = cards.Kept(None, False)
    rows = jobs.list_jobs(database())
    listed = [ListedJob(**vars(row), **kept.get(row.id, none)._asdict()) for row in rows]
    return Jobs(jobs=tuple(listed)).answer()


@blueprint.post("/jobs")
def create() -> Response:
    """Make a job: from ``plan``, or a starting plan from ``name``, ``length`` and ``rule_set`` and
    what is ``said`` of it besides."""
    document = body()
    if "plan" in document:
        plan = plan_from(document["plan"])
    else:
        begun = checked(Beginning, document)
        name, length, rule_set = begun.name.strip(), begun.length, begun.rule_set
        if not 1 <= len(name) <= 120:
            raise refused("/name", "Give the job a name of 1 to 120 characters.")
        if rule_set not in known():
            raise refused("/rule_set", f"Choose one of {', '.join(known())}.")
        least = known()[rule_set].least_pipe_fall(Water().pipe_diameter)
        said = _said(checked(asked.Said, begun.said or {}), Display(length))
        family = usual_family(said.drain, "bed")
        plan = starting_plan(name, length, rule_set, family, least, said)
        # What a bag says is said for the next job too.
        typed = jobs.typed_packs(database(), inches=length in ("in", "ft"))
        plan = plan.model_copy(update={"order": typed})
    return head_of(jobs.create(database(), plan, press())).answer(201)


SIZES = ("wide", "deep", "across", "out")


def _said(form: asked.Said, display: Display) -> Said:
    """What a new job's form says: sizes as they are typed, in the job's unit; what is left empty is
    not said. Raises `RequestError` that names each size that cannot be read."""
    found: dict[str, Any] = {}
    problems = []
    for name in SIZES:
        typed = getattr(form, name)
        try:
            if typed.strip():
                found[name] = parse_length(typed, display)
        except UnitError as error:
            problems.append(Problem(f"/{name}", str(error)))
    if problems:
        raise RequestError(problems)
    return Said(
        **found,
        ground=form.ground,
        where=form.where,
        drain=form.drain,
        users=tuple(dict.fromkeys(form.users)),
        accessible=form.accessible,
    )


@blueprint.post("/jobs/import")
def import_file() -> Response:
    """Make a job from a file as it is: a plan file, or a job's with its history."""
    text = request.get_data()
    if job_file.is_one(text):
        return head_of(job_file.add_job(database(), _read(text), press())).answer(201)
    return head_of(jobs.create(database(), read_plan(text), press())).answer(201)


def _read(text: bytes) -> list[job_file.Revised | job_file.Beside]:
    # A long history takes seconds to read: nobody else waits for that.
    work: Work = current_app.config["LONG"]
    try:
        return list(work.stream(heavy.job_of, text, gone=waits_no_more()))
    except OverrunError:
        raise refused("", "The file takes too long to read. Choose another.") from None


@blueprint.post("/jobs/import/record")
def import_record() -> Response:
    """Make a job from a record: a zip with the job's file and its photos."""
    path = store().path
    with tempfile.TemporaryFile() as file:
        shutil.copyfileobj(request.stream, file)
        found = record.Record(record.rewound(file))
        read = _read(found.job())
        with photos.writing(path):
            record.bring_photos(path, found)
            return head_of(job_file.add_job(database(), read, press())).answer(201)


@blueprint.get("/jobs/deleted")
def list_deleted() -> Response:
    """The jobs that were deleted and can be brought back, with when they were."""
    rows = tuple(JobRow(**vars(row)) for row in jobs.list_jobs(database(), True))
    return DeletedJobs(jobs=rows, days=jobs.KEPT).answer()


@blueprint.get("/jobs/<job_id>")
def show(job_id: str) -> Response:
    return head_of(jobs.head(database(), job_id)).answer()


@blueprint.get("/jobs/<job_id>/card")
def show_card(job_id: str) -> Response:
    """The card of a job as it stands, worked out; it is kept for the next list."""
    head, besides = jobs.head(database(), job_id), _besides()
    text: str = answered(heavy.card, head.plan, own_rules())
    # A store that cannot be written to still shows its jobs.
    with suppress(sqlite3.Error):
        cards.keep(database(), job_id, head.revision, besides, text)
    return Response(text, mimetype="application/json")


def _besides() -> str:
    """What an answer hangs on besides the plan: this version of the product, and the rule sets of
    one's own."""
    digest = sha256(_program().encode())
    for text in own_texts(database()):
        digest.update(sha256(text.encode()).digest())
    return digest.hexdigest()


@cache
def _program() -> str:
    digest = sha256()
    for file in sorted(PACKAGE.rglob("*")):
        if file.suffix in (".py", ".toml") and file.is_file():
            digest.update(file.read_bytes())
    return digest.hexdigest()


@blueprint.delete("/jobs/<job_id>")
def delete(job_id: str) -> tuple[str, int]:
    name = jobs.delete(database(), job_id)
    events.tell(database(), "deleted", address(), name)
    return "", 204


@blueprint.post("/jobs/<job_id>/restore")
def restore(job_id: str) -> Response:
    """Bring back a job that was deleted."""
    head = jobs.restore(database(), job_id)
    events.tell(database(), "restored", address(), head.document["job"]["name"])
    return head_of(head).answer()


@blueprint.post("/jobs/<job_id>/go-back")
def go_back(job_id: str) -> Response:
    """Make ``revision``, one that can be read, the head of a job whose head is damaged."""
    revision = said_of(Revision).revision
    return head_of(jobs.go_back(database(), job_id, revision)).answer()


@blueprint.put("/jobs/<job_id>/plan")
def save(job_id: str) -> Response:
    """Save ``plan`` over revision ``base``; answers 409 where the job has moved on.

    ``writer`` and ``write`` say which window saves and count its writes: a later write of the
    window that wrote last follows it, whatever its base.
    """
    plan, said = plan_and(Based)
    return head_of(jobs.save(database(), job_id, said.base, plan, write_of(said))).answer()


@blueprint.post("/jobs/<job_id>/undo")
def undo(job_id: str) -> Response:
    return _stepped(jobs.undo, job_id)


@blueprint.post("/jobs/<job_id>/redo")
def redo(job_id: str) -> Response:
    return _stepped(jobs.redo, job_id)


def _stepped(step: Callable[..., jobs.Head], job_id: str) -> Response:
    said = said_of(Based)
    return head_of(step(database(), job_id, said.base, write_of(said))).answer()


@blueprint.post("/drafts/read")
def read_draft() -> Response:
    """A draft's ``plan`` as this version writes it.

    What an installer may type and still has to mend is left as it is; what is no plan of any
    version is refused.
    """
    document = upgraded(body().get("plan"))
    try:
        return EditedPlan(plan=plan_from(document).model_dump(mode="json")).answer()
    except PlanError as error:
        if not error.only_values:
            raise
    return EditedPlan(plan=document).answer()


@blueprint.get("/jobs/<job_id>/plan-file")
def export(job_id: str) -> Response:
    """The plan as a file that any machine can read back."""
    plan = jobs.head(database(), job_id).document
    text = json.dumps(plan, indent=2, ensure_ascii=False) + "\n"
    return _file(text, plan["job"]["name"], "calm-basin.json")


@blueprint.get("/jobs/<job_id>/job-file")
def export_job(job_id: str) -> Response:
    """The job with its history as a file that any machine can read back."""
    name = jobs.head(database(), job_id).document["job"]["name"]
    return _file(job_file.export_job(database(), job_id), name, "calm-basin-job.json")


def _file(text: str, name: str, ending: str) -> Response:
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "plan"
    return Response(
        text,
        mimetype="application/json",
        headers={"Content-Disposition": f'attachment; filename="{plain}.{ending}"'},
    )
