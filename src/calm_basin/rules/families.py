"""Drain families: the table that ships, files of one's own read and written as TOML."""

from __future__ import annotations

from functools import cache
from importlib import resources
from typing import Literal

from calm_basin.plan.waste import DrainFamily
from calm_basin.rules.listed import read_listed, written_listed
from calm_basin.rules.reading import RuleFileError


class FamilyFileError(RuleFileError):
    """The file holds no drain families; each problem names the field and the cure."""

    title = "These are no drain families"


@cache
def drain_families() -> dict[str, DrainFamily]:
    """The families that ship, by id: point drains, then channels, each in its file's order."""
    tables = resources.files(__package__) / "tables"
    texts = [(tables / f"drains-{kind}.toml").read_text("utf-8") for kind in ("point", "linear")]
    return {family.id: family for text in texts for family in read_families(text)}


def usual_family(drain: Literal["point", "linear"], former: str) -> DrainFamily:
    """The family that a plan starts from for a kind of drain and of what makes the falls."""
    if drain == "linear":
        return drain_families()["narrow-channel"]
    return drain_families()["gasket-hub-foam-tray" if former == "tray" else "bonded-flange"]


def read_families(text: str | bytes) -> list[DrainFamily]:
    """Read drain families from TOML. Raises `FamilyFileError`."""
    return read_listed(text, "families", DrainFamily, FamilyFileError, "drain families")


def written_families(families: list[DrainFamily]) -> str:
    """Families as TOML, which `read_families` reads back as the same."""
    return written_listed("families", families)
