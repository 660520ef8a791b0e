"""Drain families: the table that ships, files of one's own read and written as TOML."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources
from typing import Any, Literal

import tomli_w
from pydantic import ValidationError

from calm_basin.plan.base import Quantity
from calm_basin.plan.reading import MOST_PROBLEMS, Problem
from calm_basin.plan.waste import DrainFamily
from calm_basin.rules.reading import LARGEST, RuleFileError, plain, problem_of
from calm_basin.units import UnitError, parse_length

DIGITS = 4
"""Lengths are read to so many digits of a mm."""

MOST = 60
"""More families are not in one file."""

LENGTHS = tuple(
    name
    for name, field in DrainFamily.model_fields.items()
    if any(isinstance(mark, Quantity) for mark in field.metadata) or name in ("riser", "outlet")
)
"""The fields that are lengths: written as on site in a file, in mm in a plan."""


class FamilyFileError(RuleFileError):
    """The file holds no drain families; each problem names the field and the cure."""

    title = "These are no drain families"


@cache
def drain_families() -> dict[str, DrainFamily]:
    """The families that ship, by id, in the file's order."""
    file = resources.files(__package__) / "tables" / "drains.toml"
    return {family.id: family for family in read_families(file.read_text("utf-8"))}


def usual_family(drain: Literal["point", "linear"], former: str) -> DrainFamily:
    """The family that a plan starts from for a kind of drain and of what makes the falls."""
    if drain == "linear":
        return drain_families()["narrow-channel"]
    return drain_families()["gasket-hub-foam-tray" if former == "tray" else "bonded-flange"]


def read_families(text: str | bytes) -> list[DrainFamily]:
    """Read drain families from TOML, lengths in any unit that people write.

    Raises
    ------
    FamilyFileError
        Each problem names the family's field and the cure.
    """
    if len(text) > LARGEST:
        message = f"A file of drain families has at most {LARGEST:,} bytes. Choose a smaller one."
        raise FamilyFileError([Problem("", message)])
    try:
        document = tomllib.loads(text if isinstance(text, str) else text.decode("utf-8"))
    except (ValueError, RecursionError) as error:
        reason = str(error) or "it is nested too deeply"
        message = f"The file is not TOML: {reason}. Choose a file of drain families."
        raise FamilyFileError([Problem("", message)]) from None
    strange = [name for name in document if name != "families"]
    if strange:
        message = f"There is no field “{strange[0]}”. Each family begins with [[families]]."
        raise FamilyFileError([Problem(f"/{strange[0]}", message)])
    items = document.get("families")
    if not isinstance(items, list) or not 1 <= len(items) <= MOST:
        message = f"Write 1 to {MOST} families, each beginning with [[families]]."
        raise FamilyFileError([Problem("/families", message)])
    return [_family(item, i) for i, item in enumerate(items)]


def _family(item: Any, place: int) -> DrainFamily:
    path = f"/families/{place}"
    if not isinstance(item, dict):
        raise FamilyFileError([Problem(path, "A family begins with [[families]].")])
    named = f" ({item.get('name') or item.get('id') or 'no name'})"
    read = dict(item)
    for name in LENGTHS:
        if name not in item:
            continue
        try:
            read[name] = _length(item[name])
        except UnitError as error:
            raise FamilyFileError([Problem(f"{path}/{name}", f"{error}{named}")]) from None
    try:
        return DrainFamily.model_validate(read)
    except ValidationError as error:
        raise FamilyFileError(
            [
                Problem(f"{path}{problem.path}", problem.message + named)
                for problem in (problem_of(one) for one in error.errors()[:MOST_PROBLEMS])
            ]
        ) from None


def _length(written: Any) -> float:
    if not isinstance(written, str):
        raise UnitError("A length is written with its unit, such as “165 mm” or “6 1/2 in”.")
    if not any(letter.isalpha() or letter in "\"'″′" for letter in written):
        raise UnitError(f"“{written}” has no unit. Write it such as “165 mm” or “6 1/2 in”.")
    return round(parse_length(written), DIGITS)


def written_families(families: list[DrainFamily]) -> str:
    """Families as TOML, which `read_families` reads back as the same."""
    return tomli_w.dumps({"families": [_written(family) for family in families]})


def _written(family: DrainFamily) -> dict[str, Any]:
    document: dict[str, Any] = plain(family.model_dump(mode="python", exclude_defaults=True))
    return {
        name: _printed(value) if name in LENGTHS else value
        for name, value in document.items()
        if value is not None
    }


def _printed(value: float) -> str:
    whole, _, digits = f"{value:.{DIGITS}f}".partition(".")
    shorter = digits.rstrip("0")
    # Three digits behind a mark could be thousands.
    shown = digits if len(shorter) == 3 else shorter
    return f"{whole}.{shown} mm" if shown else f"{whole} mm"
