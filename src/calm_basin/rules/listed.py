"""Lists of things of the trade in TOML: drain families, kinds of layer."""

from __future__ import annotations

from typing import Any, TypeVar

import tomli_w
from pydantic import BaseModel, ValidationError

from calm_basin.plan.reading import MOST_PROBLEMS, Problem
from calm_basin.rules.measures import MeasureError, measured, written
from calm_basin.rules.reading import RuleFileError, loaded, problem_of

ItemT = TypeVar("ItemT", bound=BaseModel)

MOST = 60
"""More are not in one file."""


def read_listed(
    text: str | bytes, name: str, model: type[ItemT], error: type[RuleFileError], called: str
) -> list[ItemT]:
    """Read a list from TOML, lengths in any unit that people write.

    Parameters
    ----------
    text
    name : str
        Of the list in the file: each item begins with it.
    model, error
        What an item is, and what is raised.
    called : str
        What the items are called, such as ``drain families``.

    Raises
    ------
    RuleFileError
        Of the kind given: each problem names the item's field and the cure.
    """
    document = loaded(text, error, f"a file of {called}")
    strange = [other for other in document if other != name]
    if strange:
        message = f"There is no field “{strange[0]}”. Each item begins with [[{name}]]."
        raise error([Problem(f"/{strange[0]}", message)])
    items = document.get(name)
    if not isinstance(items, list) or not 1 <= len(items) <= MOST:
        message = f"Write 1 to {MOST} {called}, each beginning with [[{name}]]."
        raise error([Problem(f"/{name}", message)])
    return [_item(item, f"/{name}/{i}", model, error) for i, item in enumerate(items)]


def _item(item: Any, path: str, model: type[ItemT], error: type[RuleFileError]) -> ItemT:
    if not isinstance(item, dict):
        raise error([Problem(path, "Each item is a table of its fields.")])
    named = f" ({item.get('name') or item.get('id') or 'no name'})"
    try:
        return model.model_validate(measured(model, item, path))
    except MeasureError as reason:
        wrong = reason.problem
        raise error([Problem(wrong.path, wrong.message + named)]) from None
    except ValidationError as reason:
        told = (problem_of(one) for one in reason.errors()[:MOST_PROBLEMS])
        raise error([Problem(f"{path}{one.path}", one.message + named) for one in told]) from None


def written_listed(name: str, items: list[ItemT]) -> str:
    """A list as TOML, which `read_listed` reads back as the same."""
    return tomli_w.dumps({name: [written(item) for item in items]})
