"""What the API answers, field by field. What the core works out is as the core has it."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from flask import Response, jsonify
from pydantic import BaseModel, ConfigDict, Field, WithJsonSchema

from calm_basin.plan.system import BuildSystem
from calm_basin.plan.waste import DrainFamily
from calm_basin.rules.layers import LayerKind


def _typed(name: str) -> Any:
    """A document of another schema, as the front end knows it."""
    return WithJsonSchema({"description": "as its own schema has it", "tsType": name})


VALUES = "{ entry?: number; place?: [number, number] | null; before?: number | null }"
"""What of an entry is read as numbers."""

PlanDocument = Annotated[dict[str, Any], _typed("Plan")]


class Sent(BaseModel):
    """What all answers share."""

    model_config = ConfigDict(frozen=True, from_attributes=True)

    def answer(self, status: int = 200) -> Response:
        """The answer that says it."""
        response = jsonify(self.model_dump(mode="json", by_alias=True))
        response.status_code = status
        return response


class Head(Sent):
    """Where a job stands; ``writer`` is the window that wrote last."""

    job_id: str
    revision: int
    plan: PlanDocument
    can_undo: bool
    can_redo: bool
    writer: str | None


class JobRow(Sent):
    id: str
    name: str
    made_at: str
    changed_at: str


class ListedJob(JobRow):
    """A job in the list with how it looked when it was last worked out, and whether that holds."""

    card: Annotated[dict[str, Any] | None, _typed("Card | null")]
    current: bool


class Jobs(Sent):
    jobs: tuple[ListedJob, ...]


class DeletedJobs(Sent):
    """The jobs that can be brought back, so many ``days`` after they were deleted."""

    jobs: tuple[JobRow, ...]
    days: int


class EditedPlan(Sent):
    plan: PlanDocument


class Rule(Sent):
    """A limit, a space or a fact of a rule set, in words: how strongly it binds (a fact is only to
    know) and the same in words; as a rule file writes it: of a limit; a space has a width and a
    depth."""

    topic: str
    title: str
    printed: str
    applies_to: str
    weight: Literal["required", "advice"] | None
    weighs: str
    binds: Literal["at_least", "at_most"] | None
    given: str | None
    width: str | None
    depth: str | None
    source: str
    note: str


class RuleSet(Sent):
    """A rule set with its rules; ``layer`` is the rule set that an accessible job adds. What does
    not ship is one's own and can be removed."""

    id: str
    name: str
    entered: str
    deference: str
    layer: str
    ships: bool
    entries: tuple[Rule, ...]


class RuleSets(Sent):
    rule_sets: tuple[RuleSet, ...]


class ShelvedFamily(Sent):
    """A drain family as a plan takes it."""

    family: Annotated[DrainFamily, _typed('NonNullable<Plan["waste"]["family"]>')]
    ships: bool


class ShelvedSystem(Sent):
    """A build system as a plan takes it."""

    system: Annotated[BuildSystem, _typed('NonNullable<Plan["system"]>')]
    ships: bool


class ShelvedLayer(Sent):
    """A kind of layer with its usual range."""

    layer: LayerKind
    ships: bool


class Families(Sent):
    families: tuple[ShelvedFamily, ...]


class Systems(Sent):
    systems: tuple[ShelvedSystem, ...]


class Layers(Sent):
    layers: tuple[ShelvedLayer, ...]


class ReadValue(Sent):
    """What was typed as a number, and printed."""

    value: float
    text: str


class Texts(Sent):
    texts: tuple[str, ...]


class RowError(Sent):
    row: int
    message: str


class ReadLevels(Sent):
    levels: Annotated[tuple[dict[str, Any], ...], _typed('Plan["survey"]["levels"]')]
    errors: tuple[RowError, ...]


class Gap(Sent):
    """The widest gap under a straightedge, and where."""

    gap: float
    text: str
    length_text: str
    at: tuple[float, float]


class Clock(Sent):
    now: str
    speed: float
    simulated: bool


class Shot(Sent):
    reading: float
    instrument: float
    simulated: bool


class InstrumentReading(Sent):
    value: float
    text: str
    simulated: bool


class Trouble(Sent):
    """What is wrong with the store; the newest copy that is whole."""

    kind: Literal["damaged", "not writable"]
    detail: str
    newest: str | None = Field(alias="copy")


class StoredCopy(Sent):
    name: str
    made_at: str
    size: int
    whole: bool


class KeptFor(Sent):
    days: int
    weeks: int
    deleted_days: int
    every_step_days: int
    every_hour_days: int


class StoreState(Sent):
    """The store; ``undone`` says why what is done every day was not done, as a sentence."""

    trouble: Trouble | None
    undone: str
    copies: tuple[StoredCopy, ...]
    folder: str
    kept: KeptFor


class PutBack(Sent):
    """What was put in the place of all jobs, in words."""

    told: str


class Door(Sent):
    """Whether one has to sign in, whether this browser is in, and whether a passphrase is set."""

    asked: bool
    inside: bool = Field(alias="in")
    set: bool = False


class Coming(Sent):
    key: str
    made_at: str
    address: str
    browser: str
    this: bool


class Happening(Sent):
    at: str
    kind: str
    address: str
    detail: str


class Comings(Sent):
    sessions: tuple[Coming, ...]
    events: tuple[Happening, ...]


class SheetPage(Sent):
    name: str
    title: str
    alone: bool


class SheetPages(Sent):
    """The pages that the job sheet may have, and the papers it may be on."""

    pages: tuple[SheetPage, ...]
    papers: tuple[str, ...]


class LogVerdict(Sent):
    state: Literal["holds", "fails", "open", "none"]
    text: str
    why: str
    cure: str
    source: str


class LogPhoto(Sent):
    """The picture of a photo's entry: when it was taken, by the camera ("" where it does not say),
    and whether it still says where on earth."""

    hash: str
    media: str
    size: int
    width: int
    height: int
    taken: str
    located: bool


class LogEntry(Sent):
    """An entry of the site log as it was written, and the verdict on it."""

    number: int
    id: str
    made_at: str
    kind: str
    title: str
    by: str
    at: str
    lines: tuple[tuple[str, str], ...]
    verdict: LogVerdict
    values: Annotated[dict[str, Any], _typed(VALUES)]
    photo: LogPhoto | None


class Log(Sent):
    """The site log; ``last`` is the hash of its last entry, which binds all before it."""

    entries: tuple[LogEntry, ...]
    last: str


class Broken(Sent):
    """Where a log is not what it was, in words."""

    broken: tuple[str, ...]
