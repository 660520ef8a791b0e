"""One job with all its history as a JSON file, out and in."""

from __future__ import annotations

import json
import sqlite3
import uuid
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError

from calm_basin.plan import PlanError, Problem
from calm_basin.plan.reading import no_constant, problems_of, upgraded
from calm_basin.store.database import LARGEST_JOB, now, transaction
from calm_basin.store.jobs import Head, NoSuchJobError, head

FORMAT = "calm-basin-job"


def _moment(text: str) -> str:
    """A moment as the store writes it, in its own time zone's name or not."""
    made = datetime.fromisoformat(text)
    made = made if made.tzinfo else made.replace(tzinfo=UTC)
    return made.astimezone(UTC).isoformat(timespec="milliseconds")


Moment = Annotated[str, Field(min_length=19, max_length=40), AfterValidator(_moment)]


class _Revision(BaseModel):
    model_config = ConfigDict(extra="forbid")

    id: int = Field(ge=1)
    parent: int | None
    made_at: Moment
    plan: dict[str, Any]


class _JobFile(BaseModel):
    model_config = ConfigDict(extra="forbid")

    format: Literal["calm-basin-job"]
    version: Literal[1]
    name: Annotated[str, Field(min_length=1, max_length=120)]
    made_at: Moment
    head: int
    revisions: Annotated[tuple[_Revision, ...], Field(min_length=1)]


def export_job(db: sqlite3.Connection, job_id: str) -> str:
    """A job and every revision of its plan as JSON text. Raises `NoSuchJobError`."""
    job = db.execute("SELECT name, made_at, head FROM job WHERE id = ?", (job_id,)).fetchone()
    if job is None:
        raise NoSuchJobError(f"There is no job {job_id}. The jobs list says which there are.")
    rows = db.execute(
        "SELECT id, parent, made_at, plan FROM revision WHERE job_id = ? ORDER BY id", (job_id,)
    )
    revisions = [dict(row) | {"plan": json.loads(row["plan"])} for row in rows]
    document = {"format": FORMAT, "version": 1, **dict(job), "revisions": revisions}
    return json.dumps(document, ensure_ascii=False) + "\n"


def is_one(text: bytes) -> bool:
    """Whether a file says that it is one of these."""
    return b'"calm-basin-job"' in text[:200]


def import_job(db: sqlite3.Connection, text: bytes, press: str | None = None) -> Head:
    """Add the job of such a file, with its history, beside those there are; once for a ``press``.

    Raises `PlanError` that names what is wrong with the file; nothing of it was taken then.
    """
    if len(text) > LARGEST_JOB:
        raise PlanError([Problem("", f"The file has over {LARGEST_JOB:,} bytes. Choose another.")])
    try:
        document = json.loads(text, parse_constant=no_constant)
        file = _JobFile.model_validate(document)
    except ValidationError as error:
        raise PlanError(problems_of(error)) from None
    except (ValueError, RecursionError) as error:
        raise PlanError([Problem("", f"The file is not JSON: {error}. Choose another.")]) from None
    _agree(file)
    texts = [_text_of(revision.plan, place) for place, revision in enumerate(file.revisions)]
    job_id = uuid.uuid4().hex[:12]
    with transaction(db):
        there = db.execute("SELECT id FROM job WHERE made_with = ?", (press,)).fetchone()
        if there is not None:
            return head(db, there["id"])
        numbers: dict[int, int] = {}
        for revision, text_of_plan in zip(file.revisions, texts, strict=True):
            parent = None if revision.parent is None else numbers[revision.parent]
            numbers[revision.id] = int(
                db.execute(
                    "INSERT INTO revision (job_id, parent, made_at, plan) VALUES (?, ?, ?, ?)",
                    (job_id, parent, revision.made_at, text_of_plan),
                ).lastrowid
                or 0
            )
        db.execute(
            "INSERT INTO job (id, name, made_at, changed_at, head, made_with) "
            "VALUES (?, ?, ?, ?, ?, ?)",
            (job_id, file.name, file.made_at, now(), numbers[file.head], press),
        )
    return head(db, job_id)


def _text_of(plan: dict[str, Any], place: int) -> str:
    """A plan as it is stored. Raises `PlanError` where a number is too large to be one, or a text
    cannot be written."""
    try:
        text = json.dumps(plan, ensure_ascii=False, allow_nan=False)
        text.encode()
    except ValueError as error:
        broken = isinstance(error, UnicodeEncodeError)
        what = "A text in it has half a character" if broken else "A number in it is too large"
        raise PlanError([Problem(f"/revisions/{place}/plan", f"{what}. Correct it.")]) from None
    return text


def _agree(file: _JobFile) -> None:
    """Raise `PlanError` where the revisions do not hang together."""
    seen: set[int] = set()
    for place, revision in enumerate(file.revisions):
        path = f"/revisions/{place}"
        if revision.id in seen:
            raise PlanError([Problem(f"{path}/id", f"{revision.id} is there twice.")])
        if revision.parent is not None and revision.parent not in seen:
            raise PlanError([Problem(f"{path}/parent", "It follows none before it.")])
        seen.add(revision.id)
        try:
            upgraded(revision.plan)
            name = revision.plan["job"]["name"]
        except PlanError as error:
            raise PlanError(
                [Problem(f"{path}/plan{p.path}", p.message) for p in error.problems]
            ) from None
        except (KeyError, TypeError):
            name = None
        if not isinstance(name, str):
            raise PlanError([Problem(f"{path}/plan/job/name", "The plan has no name. Add it.")])
    if file.head not in seen:
        raise PlanError([Problem("/head", f"There is no revision {file.head}. Name one there is.")])
