"""Read a plan from JSON: upgrade what is older, refuse what is wrong by field and cure."""

from __future__ import annotations

import json
from dataclasses import dataclass
from math import isfinite
from typing import Any

from pydantic import ValidationError

from calm_basin.plan.base import ContradictionError
from calm_basin.plan.document import FORMAT, VERSION, Plan
from calm_basin.plan.job import DisplayChoice
from calm_basin.plan.quantities import kind_at
from calm_basin.plan.upgrades import UPGRADES
from calm_basin.units import Display, Rounding, format_length

LARGEST_DOCUMENT = 4_000_000
"""Most bytes a plan document may have: one with as many readings as it may have, indented, has
1.3 million, a usual one a few thousand."""

READABLE = 1e9
"""A larger number, mm, is told as it was written: in no unit is it a length."""

MOST_PROBLEMS = 40
"""So many problems are told one by one."""

_OF_VALUES = {
    "greater_than",
    "greater_than_equal",
    "less_than",
    "less_than_equal",
    "string_too_long",
    "string_too_short",
    "too_long",
    "too_short",
    "value_error",
}
"""The kinds of errors that pydantic finds in a document that has the form of a plan."""


@dataclass(frozen=True)
class Problem:
    """One thing wrong with a document: where (a JSON pointer) and what, with its cure."""

    path: str
    message: str


class PlanError(ValueError):
    """The document is not a plan that can be worked out. Nothing of it was changed.

    ``only_values`` where it has the form of one and only what somebody may type is to be mended.
    """

    def __init__(self, problems: list[Problem], only_values: bool = False) -> None:
        super().__init__("; ".join(f"{p.path or '/'}: {p.message}" for p in problems))
        self.problems, self.only_values = problems, only_values


def read_plan(text: str | bytes) -> Plan:
    """Read a plan from JSON text. Raises `PlanError` where it cannot be one."""
    if len(text) > LARGEST_DOCUMENT:
        raise PlanError(
            [
                Problem(
                    "",
                    f"The file has {len(text):,} bytes; a plan has at most "
                    f"{LARGEST_DOCUMENT:,}. Choose a plan file.",
                )
            ]
        )
    try:
        document = parsed(text)
    except (ValueError, RecursionError) as error:
        reason = str(error) if isinstance(error, ValueError) else "it is nested too deeply"
        raise PlanError(
            [Problem("", f"The file is not JSON: {reason}. Choose a plan file that was exported.")]
        ) from None
    return plan_from(document)


def plan_from(document: object) -> Plan:
    """Turn a parsed document into a plan, from any version up to this one."""
    try:
        return Plan.model_validate(upgraded(document))
    except ValidationError as error:
        kinds = {item["type"] for item in error.errors(include_url=False, include_input=False)}
        problems = problems_of(error, _display_of(document))
        raise PlanError(problems, only_values=kinds <= _OF_VALUES) from None


def _display_of(document: Any) -> Display:
    """How a document asks its figures to be shown; as usual where it does not say so soundly."""
    try:
        return DisplayChoice.model_validate(document["display"]).shown
    except (ValidationError, LookupError, TypeError, ValueError):
        return Display()


def upgraded(document: object) -> dict[str, Any]:
    """A parsed document as this version writes it, not yet looked at any closer."""
    if not isinstance(document, dict):
        raise PlanError([Problem("", "A plan is a JSON object. Choose a plan file.")])
    if document.get("format", FORMAT) != FORMAT:
        raise PlanError(
            [Problem("/format", f"The file is not a plan: its format is not {FORMAT}.")]
        )
    version = document.get("version", 1)
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise PlanError([Problem("/version", "The version must be a whole number from 1.")])
    if version > VERSION:
        raise PlanError(
            [
                Problem(
                    "/version",
                    f"The plan is of version {version}; this program reads up to {VERSION}. "
                    "Open it with a newer Calm Basin.",
                )
            ]
        )
    while version < VERSION:
        document = UPGRADES[version](document)
        version += 1
    return document


def no_constant(name: str) -> float:
    """Refuse NaN and infinities where JSON is read. Raises `ValueError`."""
    raise ValueError(f"{name} is not a number that can be measured")


def parsed(text: str | bytes) -> Any:
    """What JSON text says. Raises `ValueError` where it is none or a number in it is not finite,
    and `RecursionError`."""
    return json.loads(text, parse_constant=no_constant, parse_float=_finite)


def _finite(text: str) -> float:
    value = float(text)
    return value if isfinite(value) else no_constant(text[:20])


def problems_of(error: ValidationError, display: Display | None = None) -> list[Problem]:
    """What pydantic found, as problems that name the field and the cure; lengths of a plan are said
    in a ``display``'s unit where there is one."""
    problems = []
    for item in error.errors(include_url=False)[:MOST_PROBLEMS]:
        cause = item.get("ctx", {}).get("error")
        if isinstance(cause, ContradictionError):
            place: tuple[str | int, ...] = cause.path
        else:
            loc = item["loc"]
            place = tuple(step for i, step in enumerate(loc) if not _is_kind(loc, i))
        kept = [str(step) for step in place]
        path = "".join(f"/{step}" for step in kept)
        length = display is not None and kind_at(Plan, place) == "length"
        problems.append(Problem(path, _message(item, cause, display if length else None)))
    return [*problems, *and_more(error.error_count() - len(problems))]


def and_more(count: int) -> list[Problem]:
    """What is said of problems that are not told one by one."""
    return [Problem("", f"And {count:,} more. Correct these first.")] if count > 0 else []


def _is_kind(place: tuple[str | int, ...], i: int) -> bool:
    """Whether a step is only the chosen kind of the part before it: pydantic puts it there."""
    if i == 0 or not isinstance(place[i], str):
        return False
    before = place[i - 1]
    return before in ("floor", "drain", "former", "correction") or (
        isinstance(before, int) and i > 1 and place[i - 2] == "levels"
    )


def _message(item: Any, cause: object, display: Display | None) -> str:
    if isinstance(cause, ContradictionError):
        return str(cause)
    context = item.get("ctx", {})
    given = item.get("input")
    shown = json.dumps(given, default=str)[:60] if not isinstance(given, dict | list) else "this"
    kind = item["type"]

    def told(limit: float, rounding: Rounding) -> str:
        return format_length(limit, display, rounding=rounding) if display else f"{limit:g}"

    if display is not None and isinstance(given, int | float) and abs(given) < READABLE:
        shown = format_length(given, display)
    if kind == "missing":
        return "This field is missing. Add it."
    if kind == "extra_forbidden":
        return "A plan has no such field. Remove it, or check its spelling."
    if kind == "greater_than_equal":
        return f"{shown} is too small: it must be {told(context['ge'], 'up')} or more."
    if kind == "greater_than":
        return f"{shown} is too small: it must be more than {told(context['gt'], 'up')}."
    if kind == "less_than_equal":
        most = told(context["le"], "down")
        return f"{shown} is too large: it must be {most} or less. Check the unit."
    if kind in ("float_parsing", "float_type", "int_parsing", "int_type", "finite_number"):
        return f"{shown} is not a number that can be measured. Enter a number."
    if kind in ("too_short", "too_long"):
        limit = context.get("min_length", context.get("max_length"))
        few, bound = ("few", "at least") if kind == "too_short" else ("many", "at most")
        return f"Too {few} entries: {bound} {limit} are needed."
    if kind in ("string_too_short", "string_too_long"):
        return f"The text is too {'short' if 'short' in kind else 'long'}. Change its length."
    if kind in ("literal_error", "union_tag_invalid"):
        expected = context.get("expected") or context.get("expected_tags")
        chosen = json.dumps(context["tag"])[:60] if "tag" in context else shown
        return f"{chosen} is none of {expected}. Choose one of them."
    if kind == "union_tag_not_found":
        return "The kind is missing. Add the field “kind”."
    return f"{item['msg']}. Correct this field."
