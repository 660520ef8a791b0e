"""Kinds of layer with their usual ranges: the table that ships, and files of one's own."""

from __future__ import annotations

from functools import cache
from importlib import resources
from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator

from calm_basin.plan.base import Name, Thickness
from calm_basin.plan.layers import LayerRole, role_by_name
from calm_basin.plan.sources import Stated
from calm_basin.plan.system import SystemId
from calm_basin.rules.listed import read_listed, written_listed
from calm_basin.rules.reading import RuleFileError

Place = Literal["shower", "room", "wall"]


class LayerKind(Stated):
    """A kind of layer: what it is in a build-up, how thick it usually is, and where it lies."""

    id: SystemId
    role: LayerRole
    name: Name
    least: Thickness
    usual: Thickness
    most: Thickness
    places: Annotated[tuple[Place, ...], Field(min_length=1, max_length=3)]
    note: str = Field(default="", max_length=300)

    @model_validator(mode="before")
    @classmethod
    def _known_by_name(cls, item: Any) -> Any:
        # So it was before roles were written.
        named = isinstance(item, dict) and isinstance(item.get("name"), str)
        return {"role": role_by_name(item["name"]), **item} if named else item

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if not self.least <= self.usual <= self.most:
            raise ValueError("“usual” has to lie from “least” to “most”")
        return self


class LayerFileError(RuleFileError):
    """The file holds no kinds of layer; each problem names the field and the cure."""

    title = "These are no kinds of layer"


@cache
def layer_kinds() -> dict[str, LayerKind]:
    """The kinds that ship, by id, in the file's order."""
    file = resources.files(__package__) / "tables" / "layers.toml"
    return {kind.id: kind for kind in read_layers(file.read_text("utf-8"))}


def read_layers(text: str | bytes) -> list[LayerKind]:
    """Read kinds of layer from TOML. Raises `LayerFileError`."""
    return read_listed(text, "layers", LayerKind, LayerFileError, "kinds of layer")


def written_layers(kinds: list[LayerKind]) -> str:
    """Kinds of layer as TOML, which `read_layers` reads back as the same."""
    return written_listed("layers", kinds)
