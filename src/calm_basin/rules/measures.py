"""Measures in files of the trade: written as on site there, in the house units in a plan."""

from __future__ import annotations

from itertools import chain
from typing import Any, get_args

from pydantic import BaseModel

from calm_basin.plan.base import Quantity, QuantityKind
from calm_basin.plan.reading import Problem
from calm_basin.units import UnitError, parse_fall, parse_length

DIGITS = 4
"""Lengths are read to so many digits of a mm."""


class MeasureError(ValueError):
    """A measure cannot be read: carries the field and the cure."""

    def __init__(self, problem: Problem) -> None:
        super().__init__(problem.message)
        self.problem = problem


def measured(model: type[BaseModel], document: Any, path: str = "") -> Any:
    """A document of a model with its measures as numbers; what does not fit the model is left for
    the model to refuse.

    Raises
    ------
    MeasureError
        A measure has no unit, or cannot be read.
    """
    if not isinstance(document, dict):
        return document
    read = dict(document)
    for name, value in document.items():
        field = model.model_fields.get(name)
        if field is None:
            continue
        at = f"{path}/{name}"
        kind = _kind(field.annotation, field.metadata)
        inner = _models(field.annotation)
        if kind is not None and kind != "angle":
            read[name] = _number(kind, value, at)
        elif isinstance(value, list) and inner:
            read[name] = [
                measured(_fitting(inner, item), item, f"{at}/{i}") for i, item in enumerate(value)
            ]
        elif isinstance(value, dict) and inner:
            read[name] = measured(_fitting(inner, value), value, at)
    return read


def _kind(annotation: Any, metadata: list[Any]) -> QuantityKind | None:
    # Where the value may be absent, the mark stands on one side of the union.
    sides = (getattr(side, "__metadata__", ()) for side in get_args(annotation))
    marks = [mark.kind for mark in (*metadata, *chain.from_iterable(sides)) if _marks(mark)]
    return marks[0] if marks else None


def _marks(mark: Any) -> bool:
    return isinstance(mark, Quantity)


def _models(annotation: Any) -> list[type[BaseModel]]:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return [annotation]
    return list(chain.from_iterable(map(_models, get_args(annotation))))


def _fitting(models: list[type[BaseModel]], item: Any) -> type[BaseModel]:
    """The one of several models that an item says it is."""
    said = item.get("kind") if isinstance(item, dict) else None
    for model in models:
        field = model.model_fields.get("kind")
        if field is not None and field.default == said:
            return model
    return models[0]


def _number(kind: QuantityKind, written: Any, path: str) -> float:
    example = "“165 mm” or “6 1/2 in”" if kind == "length" else "“1:48” or “2 %”"
    try:
        if not isinstance(written, str):
            raise UnitError(f"A {kind} is written with its unit, such as {example}.")
        if kind == "fall":
            return parse_fall(written)
        if not any(letter.isalpha() or letter in "\"'″′" for letter in written):
            raise UnitError(f"“{written}” has no unit. Write it such as {example}.")
        return round(parse_length(written), DIGITS)
    except UnitError as error:
        raise MeasureError(Problem(path, str(error))) from None


def written(part: BaseModel) -> dict[str, Any]:
    """A part as it is written to a file: what is not as usual, measures with their units."""
    document = {}
    for name, field in type(part).model_fields.items():
        value = getattr(part, name)
        # What tells one model from another is always there.
        if value is None or (value == field.get_default() and name != "kind"):
            continue
        kind = _kind(field.annotation, field.metadata)
        if kind is None or kind == "angle":
            document[name] = _item(value)
        else:
            document[name] = _length(value) if kind == "length" else _fall(value)
    return document


def _item(value: Any) -> Any:
    if isinstance(value, BaseModel):
        return written(value)
    return [_item(item) for item in value] if isinstance(value, tuple) else value


def _length(value: float) -> str:
    whole, _, digits = f"{value:.{DIGITS}f}".partition(".")
    shorter = digits.rstrip("0")
    # Three digits behind a mark could be thousands.
    shown = digits if len(shorter) == 3 else shorter
    return f"{whole}.{shown} mm" if shown else f"{whole} mm"


def _fall(value: float) -> str:
    run = round(1 / value)
    return f"1:{run}" if abs(1 / run - value) < 1e-12 else f"{value * 100:.10f} %"
