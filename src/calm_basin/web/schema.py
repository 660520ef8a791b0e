"""JSON Schemas of what the API takes and sends, generated from its models."""

from __future__ import annotations

import json
import re
import sys
from pathlib import Path
from typing import Any, get_args

from pydantic import BaseModel
from pydantic.json_schema import JsonSchemaMode, models_json_schema

from calm_basin.core.comparing import Compared
from calm_basin.core.site_log.forms import Form
from calm_basin.core.systems.result import Candidate
from calm_basin.core.water.settings import TrialSettings
from calm_basin.formats.outline_dxf import Outlines
from calm_basin.formats.schema import written
from calm_basin.web import asked, sent


def _of(module: object) -> list[type[BaseModel]]:
    return [one for one in vars(module).values() if _is_one(one, module)]


def _is_one(one: object, module: object) -> bool:
    name = getattr(module, "__name__", "")
    if not (isinstance(one, type) and issubclass(one, BaseModel) and one.__module__ == name):
        return False
    return one not in (asked.Asked, sent.Sent)


def schemas() -> dict[str, str]:
    """File name and text of each schema."""
    from_core = (Compared, Candidate, Form, Outlines, TrialSettings)
    kinds: tuple[tuple[str, JsonSchemaMode, list[type[BaseModel]]], ...] = (
        ("asked.schema.json", "validation", [*_of(asked)]),
        ("sent.schema.json", "serialization", [*_of(sent), *from_core]),
    )
    found = {}
    for name, mode, models in kinds:
        _, schema = models_json_schema([(one, mode) for one in models], by_alias=True)
        if models[0].__module__ == asked.__name__:
            refs = [{"$ref": f"#/$defs/{one.__name__}"} for one in get_args(asked.Edit)]
            schema["$defs"]["Edit"] = {"anyOf": refs}
        told = {one.__name__ for one in models} | {"Edit"}
        found[name] = written(_without(schema, told))
    return found


def _without(schema: dict[str, Any], told: set[str]) -> dict[str, Any]:
    """The schema with what is told and what that refers to."""
    kept: dict[str, Any] = {}
    left = [name for name in schema["$defs"] if name in told]
    while left:
        name = left.pop(0)
        if name not in kept:
            kept[name] = schema["$defs"][name]
            left += re.findall(r'"#/\$defs/(\w+)"', json.dumps(kept[name]))
    return {"$defs": dict(sorted(kept.items()))}


def main(folder: Path) -> None:
    """Write the schemas into a folder."""
    for name, text in schemas().items():
        (folder / name).write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
