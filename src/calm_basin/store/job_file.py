"""One job with all its history as a JSON file, out and in."""

from __future__ import annotations

import json
import sqlite3
import uuid
from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Annotated, Any, Literal, NamedTuple

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError

from calm_basin.plan import PlanError, Problem
from calm_basin.plan.reading import problems_of, upgraded
from calm_basin.store import log as site_log
from calm_basin.store.database import LARGEST_JOB, now, transaction
from calm_basin.store.jobs import Head, NoSuchJobError, head
from calm_basin.store.members import members_of

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


Hash = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class _Logged(BaseModel):
    """An entry of the site log, as it was written: its hash is of these very texts."""

    model_config = ConfigDict(extra="forbid")

    number: int = Field(ge=1, le=site_log.MOST)
    id: Annotated[str, Field(min_length=1, max_length=64)]
    made_at: Annotated[str, Field(min_length=1, max_length=40)]
    body: dict[str, Any]
    revision: int | None
    plan_hash: Hash
    previous: Hash
    hash: Hash


class _JobFile(BaseModel):
    """What such a file says beside its revisions."""

    model_config = ConfigDict(extra="forbid")

    format: Literal["calm-basin-job"]
    version: Literal[1]
    name: Annotated[str, Field(min_length=1, max_length=120)]
    made_at: Moment
    head: int
    log: Annotated[tuple[_Logged, ...], Field(max_length=site_log.MOST)] = ()


class Revised(NamedTuple):
    """A revision as it is stored; numbers are the file's own."""

    number: int
    parent: int | None
    made_at: str
    plan: str


class Beside(NamedTuple):
    """What a job is beside its revisions."""

    name: str
    made_at: str
    head: int
    log: tuple[dict[str, Any], ...] = ()


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
    written = [entry._asdict() for entry in site_log.entries(db, job_id)]
    if written:
        document["log"] = written
    return json.dumps(document, ensure_ascii=False) + "\n"


def is_one(text: bytes) -> bool:
    """Whether a file says that it is one of these."""
    return b'"calm-basin-job"' in text[:200]


def import_job(db: sqlite3.Connection, text: bytes, press: str | None = None) -> Head:
    """Add the job of such a file, with its history, beside those there are; once for a ``press``.

    Raises `PlanError` that names what is wrong with the file; nothing of it was taken then.
    """
    return add_job(db, list(read_job(text)), press)


def read_job(text: bytes) -> Iterator[Revised | Beside]:
    """The revisions that such a file holds, one by one, and at the end what it says beside them.

    No more than one revision is taken apart at a time. Raises `PlanError`.
    """
    if len(text) > LARGEST_JOB:
        raise PlanError([Problem("", f"The file has over {LARGEST_JOB:,} bytes. Choose another.")])
    seen: set[int] = set()
    members: dict[str, Any] = {}
    try:
        for name, value in members_of(text.decode(), "revisions", set(_JobFile.model_fields)):
            if name == "revisions":
                yield _revised(value, seen)
            else:
                members[name] = value
        beside = _JobFile.model_validate(members)
    except ValidationError as error:
        raise PlanError(problems_of(error)) from None
    except (ValueError, RecursionError) as error:
        if isinstance(error, PlanError):
            raise
        raise PlanError([Problem("", f"The file is not JSON: {error}. Choose another.")]) from None
    if not seen:
        raise PlanError([Problem("/revisions", "There is no revision. Choose a whole file.")])
    if beside.head not in seen:
        message = f"There is no revision {beside.head}. Name one there is."
        raise PlanError([Problem("/head", message)])
    yield Beside(beside.name, beside.made_at, beside.head, _logged(beside.log))


def _logged(entries: tuple[_Logged, ...]) -> tuple[dict[str, Any], ...]:
    """The log of the file as it is stored. Raises `PlanError` where an entry is there twice."""
    for name in ("number", "id"):
        seen: set[Any] = set()
        for place, entry in enumerate(entries):
            value = getattr(entry, name)
            if value in seen:
                raise PlanError([Problem(f"/log/{place}/{name}", f"{value} is there twice.")])
            seen.add(value)
    for place, entry in enumerate(entries):
        _text_of(entry.body, f"/log/{place}/body")
    return tuple(entry.model_dump() for entry in entries)


def add_job(db: sqlite3.Connection, read: list[Revised | Beside], press: str | None) -> Head:
    """Add what `read_job` read as a job of its own; once for a ``press``."""
    job_id = uuid.uuid4().hex[:12]
    with transaction(db):
        there = db.execute("SELECT id FROM job WHERE made_with = ?", (press,)).fetchone()
        if there is not None:
            return head(db, there["id"])
        numbers: dict[int, int] = {}
        logged: list[dict[str, Any]] = []
        for item in read:
            if isinstance(item, Beside):
                db.execute(
                    "INSERT INTO job (id, name, made_at, changed_at, head, made_with) "
                    "VALUES (?, ?, ?, ?, ?, ?)",
                    (job_id, item.name, item.made_at, now(), numbers[item.head], press),
                )
                logged = [{**one, "revision": numbers.get(one["revision"])} for one in item.log]
                continue
            parent = None if item.parent is None else numbers[item.parent]
            numbers[item.number] = int(
                db.execute(
                    "INSERT INTO revision (job_id, parent, made_at, plan) VALUES (?, ?, ?, ?)",
                    (job_id, parent, item.made_at, item.plan),
                ).lastrowid
                or 0
            )
        site_log.insert(db, job_id, logged)
    return head(db, job_id)


def _revised(value: Any, seen: set[int]) -> Revised:
    """A revision of the file, which follows one of those ``seen``. Raises `PlanError`."""
    path = f"/revisions/{len(seen)}"
    try:
        revision = _Revision.model_validate(value)
    except ValidationError as error:
        raise PlanError([Problem(path + p.path, p.message) for p in problems_of(error)]) from None
    if revision.id in seen:
        raise PlanError([Problem(f"{path}/id", f"{revision.id} is there twice.")])
    if revision.parent is not None and revision.parent not in seen:
        raise PlanError([Problem(f"{path}/parent", "It follows none before it.")])
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
    text = _text_of(revision.plan, f"{path}/plan")
    seen.add(revision.id)
    return Revised(revision.id, revision.parent, revision.made_at, text)


def _text_of(plan: dict[str, Any], path: str) -> str:
    """A plan as it is stored. Raises `PlanError` where a number is too large to be one, or a text
    cannot be written."""
    try:
        text = json.dumps(plan, ensure_ascii=False, allow_nan=False)
        text.encode()
    except ValueError as error:
        broken = isinstance(error, UnicodeEncodeError)
        what = "A text in it has half a character" if broken else "A number in it is too large"
        raise PlanError([Problem(path, f"{what}. Correct it.")]) from None
    return text
