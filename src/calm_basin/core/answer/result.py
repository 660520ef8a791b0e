"""What every subject says in one way: figures with workings, findings, changes."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from calm_basin.core.codes import Code

Unit = Literal[
    "mm",
    "rise_per_run",
    "litre",
    "second",
    "litre_per_minute",
    "share",
    "kilogram",
    "watt",
    "watt_per_square_metre",
    "ampere",
    "ohm",
    "square_mm",
    "count",
]

Severity = Literal["stop", "caution"]

Part = Literal[
    "water", "marks", "drain_map", "ways", "order", "days", "tile", "heating", "membrane", "walls"
]
"""What is worked out only on demand: it takes longer and not every screen shows it."""

XY = tuple[float, float]


class Result(BaseModel):
    """What all parts of a solution share."""

    # Each is built when it is first needed: they are many, and only a worker needs them, which
    # does one thing at a time. (Threads must not do this: two might build one at once.)
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)


class Input(Result):
    """One number that a working starts from: a value of the plan by its JSON pointer (``field``),
    one of the key figures by its name (``figure``), or, both empty, what follows from elsewhere."""

    name: str
    text: str
    field: str = ""
    figure: str = ""


class Option(Result):
    """One of several things that a field of the plan may name."""

    name: str
    text: str


class Working(Result):
    """Why a figure is what it is: the formula in words, its inputs and where it comes from."""

    formula: str
    inputs: tuple[Input, ...]
    source: str
    note: str = ""


class Figure(Result):
    """A number that the installer acts on. ``value`` is absent where it cannot be worked out;
    ``under`` says in a few words what it means for the job."""

    label: str
    value: float | None
    unit: Unit
    text: str
    working: Working
    under: str = ""


class Change(Result):
    """Sets the value at a JSON pointer of the plan."""

    path: str
    value: Any


class Cure(Result):
    """A change that mends a finding. ``opens`` names the cautions that it brings with it, and the
    stops that it leaves worse than they were."""

    text: str
    changes: tuple[Change, ...]
    opens: tuple[str, ...] = ()


class Place(Result):
    """Where a finding is measured."""

    name: str
    x: float
    y: float
    measured: float
    text: str


class Finding(Result):
    """Something to change or to know, with what was measured against which limit. ``about`` points
    at the thing of the plan that it is about, whoever asks for it and against whatever limit."""

    code: Code
    about: str
    severity: Severity
    title: str
    detail: str
    measured: float | None
    measured_text: str
    limit: float | None
    limit_text: str
    unit: Unit
    applies_to: str
    source: str
    field: str
    places: tuple[Place, ...] = ()
    cures: tuple[Cure, ...] = ()


class Caution(Result):
    """A warning that belongs where the work is planned."""

    code: str
    text: str
