"""Figures and findings are built in one way, so that they print alike everywhere."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal

from calm_basin.core.answer.result import (
    Cure,
    Figure,
    Finding,
    Input,
    Place,
    Severity,
    Unit,
    Working,
)
from calm_basin.core.answer.words import Words
from calm_basin.core.codes import Code
from calm_basin.rules import Asked, Limit
from calm_basin.rules.ruleset import FALLS
from calm_basin.units import Rounding

GEOMETRY = "Geometry of the plan"

NOT_SOLVED = "—"

TO_SIGN: Code = "engineer_has_to_sign"
"""The stop that stays until an engineer has signed: a change for one is offered all the same."""

SAID: dict[Severity, str] = {"stop": "must fix", "caution": "check"}
"""How grave a finding is, as users read it."""

ORDER: dict[Severity, int] = {"stop": 0, "caution": 1}


def figure(
    label: str,
    value: float | None,
    text: str,
    formula: str,
    inputs: Iterable[Input | tuple[str, str]] = (),
    *,
    source: str,
    unit: Unit = "mm",
    note: str = "",
    under: str = "",
) -> Figure:
    """A figure with its working; one that has no value shows a dash."""
    shown = NOT_SOLVED if value is None else text
    why = working(formula, inputs, source=source, note=note)
    return Figure(label=label, value=value, unit=unit, text=shown, working=why, under=under)


def working(
    formula: str,
    inputs: Iterable[Input | tuple[str, str]] = (),
    *,
    source: str,
    note: str = "",
) -> Working:
    """Why something is what it is: the formula in words and what goes into it."""
    given = tuple(
        item if isinstance(item, Input) else Input(name=item[0], text=item[1]) for item in inputs
    )
    return Working(formula=formula, inputs=given, source=source, note=note)


def input_of(
    words: Words, name: str, value: float | None, field: str = "", *, figure: str = ""
) -> Input:
    """A length, mm, that a working starts from; a dash where it cannot be worked out."""
    text = NOT_SOLVED if value is None else words.length(value)
    return Input(name=name, text=text, field=field, figure=figure)


def broken(
    words: Words,
    *,
    code: Code,
    severity: Severity,
    title: str,
    detail: str,
    value: float,
    limit: float | None,
    binds: Literal["at_least", "at_most"] = "at_most",
    unit: Unit = "mm",
    shown: str = "",
    asked: str = "",
    applies_to: str,
    source: str,
    field: str,
    about: str = "",
    places: Iterable[Place] = (),
) -> Finding:
    """A finding that holds a measure against a limit; it is ``about`` its field unless told.

    ``value`` and ``limit`` are in ``unit``. A measure is never printed as its limit: a length is
    rounded away from it, a fall given finer, and the limit is never rounded to the wrong side.
    ``shown`` and ``asked`` stand in where the words are others.
    """
    fall = unit == "rise_per_run"
    if not shown:
        away: Rounding = "up" if binds == "at_most" else "down"
        shown = words.length(value, away)
        if fall:
            shown = words.fall(value) if limit is None else words.fall_off(value, limit)
    if not asked and limit is not None:
        bound = words.fall_limit(limit) if fall else words.limit(limit)
        asked = f"{binds.replace('_', ' ')} {bound}"
    return Finding(
        code=code,
        about=about or field,
        severity=severity,
        title=title,
        detail=detail,
        measured=value,
        measured_text=shown,
        limit=limit,
        limit_text=asked,
        unit=unit,
        applies_to=applies_to,
        source=source,
        field=field,
        places=tuple(places),
    )


def off_limit(
    words: Words,
    limit: Limit,
    *,
    code: Code,
    title: str,
    detail: str,
    value: float,
    field: str,
    applies_to: str = "",
    about: str = "",
    shown: str = "",
    places: Iterable[Place] = (),
) -> Finding:
    """A finding that holds a measure against one limit of the rules, whose note it ends with;
    ``applies_to`` says of what where several things are held against it."""
    return broken(
        words,
        code=code,
        severity=severity_of(limit),
        title=title,
        detail=f"{detail} {limit.note}".strip(),
        value=value,
        shown=shown,
        limit=limit.value,
        binds=limit.binds,
        unit="rise_per_run" if limit.topic in FALLS else "mm",
        applies_to=f"{applies_to}, {limit.applies_to}" if applies_to else limit.applies_to,
        source=limit.source,
        field=field,
        about=about,
        places=places,
    )


def asked_of(asked: Asked) -> str:
    """How binding a requirement is, in a word."""
    return "required" if asked.weight == "required" else "recommended"


def unmeasured(
    code: Code,
    severity: Severity,
    title: str,
    detail: str,
    *,
    applies_to: str,
    source: str,
    field: str,
    about: str = "",
    cures: tuple[Cure, ...] = (),
) -> Finding:
    """A finding that holds no measure against a limit."""
    return Finding(
        code=code,
        about=about or field,
        severity=severity,
        title=title,
        detail=detail,
        measured=None,
        measured_text="",
        limit=None,
        limit_text="",
        unit="mm",
        applies_to=applies_to,
        source=source,
        field=field,
        cures=cures,
    )


def in_order(found: list[Finding]) -> tuple[Finding, ...]:
    """The gravest first."""
    return tuple(sorted(found, key=lambda finding: ORDER[finding.severity]))


def summed_up(found: Sequence[Finding]) -> str:
    """All findings in two or three words."""
    stops = sum(finding.severity == "stop" for finding in found)
    told = ((stops, "must fix"), (len(found) - stops, "to check"))
    return ", ".join(f"{count} {word}" for count, word in told if count) or "all fine"


def severity_of(asked: Asked) -> Severity:
    """How grave it is not to keep a limit."""
    return "stop" if asked.weight == "required" else "caution"


def begun(text: str) -> str:
    """A text as a sentence or a title begins."""
    return text[:1].upper() + text[1:]


def listed(names: list[str]) -> str:
    """Names in a row, as they are spoken."""
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
