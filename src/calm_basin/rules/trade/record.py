"""A table of the trade as one record: every value of it has its field."""

from __future__ import annotations

import tomllib
from importlib import resources
from typing import Any, Self

from pydantic import BaseModel, ConfigDict


class Record(BaseModel):
    """A table; a value without a field, or a field without a value, is refused."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    @classmethod
    def read(cls, name: str) -> Self:
        """The table that ships by this name."""
        file = resources.files("calm_basin.rules") / "tables" / f"{name}.toml"
        return cls.model_validate(tomllib.loads(file.read_text("utf-8")))


def with_ids(rows: dict[str, Any]) -> dict[str, Any]:
    """Rows by name, each of which knows its name as its ``id``."""
    return {name: {"id": name, **row} for name, row in rows.items()}
