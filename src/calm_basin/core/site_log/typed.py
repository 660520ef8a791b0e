"""Entries of the site log as they are typed into their forms, and as they are told again."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple

from pydantic import ValidationError

from calm_basin.core.answer.taped import place_text
from calm_basin.core.answer.words import Words
from calm_basin.core.site_log.entries import KINDS, Entry
from calm_basin.core.site_log.forms import FormField, form_of
from calm_basin.plan import PlanError, Problem
from calm_basin.plan.base import Outline
from calm_basin.plan.reading import problems_of
from calm_basin.units import UnitError, parse_length


class FieldLine(NamedTuple):
    """What an entry says of one of its fields."""

    label: str
    text: str


def read_entry(kind: str, typed: Mapping[str, Any], words: Words) -> Entry:
    """An entry out of what was typed into its form; a picture comes apart from that.

    Raises
    ------
    PlanError
        That names each field which cannot be read, and what would be understood.
    """
    form = form_of(kind)
    problems: list[Problem] = []
    values: dict[str, Any] = {}
    unknown = sorted(set(typed) - {field.name for field in form.fields})
    problems += [Problem(f"/fields/{name}", "There is no such field.") for name in unknown]
    for field in form.fields:
        if field.type == "photo":
            continue
        text = typed.get(field.name, "")
        if not isinstance(text, str) or len(text) > 4000:
            problems.append(Problem(f"/fields/{field.name}", f"{field.label}: type a text."))
            continue
        text = text.strip()
        if not text:
            if field.needed:
                problems.append(Problem(f"/fields/{field.name}", f"{field.label}: fill it in."))
            continue
        try:
            values[field.name] = _value(field, text, words)
        except ValueError as error:
            problems.append(Problem(f"/fields/{field.name}", f"{field.label}: {error}"))
    if problems:
        raise PlanError(problems)
    try:
        return KINDS[kind].model_validate(values)
    except ValidationError as error:
        labels = {field.name: field.label for field in form.fields}
        raise PlanError(
            [
                Problem(f"/fields{p.path}", f"{labels.get(p.path[1:], 'Entry')}: {p.message}")
                for p in problems_of(error)
            ]
        ) from None


def _value(field: FormField, text: str, words: Words) -> Any:
    """What was typed into one field. Raises `ValueError`, in words."""
    if field.type == "length":
        try:
            return parse_length(text, words.display)
        except UnitError as error:
            raise ValueError(str(error)) from None
    if field.type == "number":
        try:
            return float(text.replace(",", "."))
        except ValueError:
            raise ValueError(f"“{text[:40]}” is no number.") from None
    if field.type == "series":
        return _series(text, words)
    if field.type == "readings":
        return _readings(text, words)
    if field.type == "place":
        parts = text.split()
        if len(parts) != 2:
            raise ValueError("Touch the chart where it is.")
        return tuple(float(part) for part in parts)
    if field.type == "yes or no":
        if text not in ("yes", "no"):
            raise ValueError("Choose yes or no.")
        return text == "yes"
    if field.type == "choice" and text not in field.choices:
        raise ValueError(f"Choose one of: {', '.join(field.choices)}.")
    return text


def _series(text: str, words: Words) -> tuple[tuple[float, float], ...]:
    """Hours and heights out of lines of both, such as ``4 h 39 mm``. Raises `ValueError`, in
    words."""
    found = []
    for number, line in enumerate(filter(str.strip, text.splitlines()), start=1):
        hours, _, typed = line.strip().partition(" ")
        typed = typed.strip().removeprefix("h").strip(" ,:")
        try:
            at = float(hours.rstrip("h,:").replace(",", "."))
        except ValueError:
            raise ValueError(f"line {number}: type hours and a height, such as 4 39.") from None
        try:
            found.append((at, parse_length(typed, words.display)))
        except UnitError as error:
            raise ValueError(f"line {number}: {error}") from None
    return tuple(found)


def _readings(text: str, words: Words) -> tuple[tuple[float, float, float], ...]:
    """Readings out of lines of x and y, mm, and what was typed. Raises `ValueError`, in words."""
    found = []
    for number, line in enumerate(text.splitlines(), start=1):
        x, y, typed = [*line.split(maxsplit=2), "", "", ""][:3]
        try:
            found.append((float(x), float(y), parse_length(typed, words.display)))
        except ValueError as error:
            raise ValueError(f"reading {number}: {error}") from None
    return tuple(found)


def lines_of(entry: Entry, room: Outline, words: Words) -> tuple[FieldLine, ...]:
    """What an entry says, field by field, in the units of the job; places from the room's walls."""
    found = []
    for field in form_of(entry.kind).fields:
        value = None if field.type == "photo" else getattr(entry, field.name)
        if value is None or value in ("", ()):
            continue
        if field.type == "length":
            text = words.length(value)
        elif field.type == "number":
            text = f"{value:g}" if field.unit == "number" else f"{value:g} {field.unit}"
        elif field.type == "series":
            text = ", ".join(f"{hours:g} h {words.length(height)}" for hours, height in value)
        elif field.type == "readings":
            text = ", ".join(words.bare(read) for _, _, read in value)
        elif field.type == "place":
            text = place_text(room, value, words)
        elif field.type == "yes or no":
            text = "yes" if value else "no"
        else:
            text = str(value)
        found.append(FieldLine(field.label, text))
    return tuple(found)
