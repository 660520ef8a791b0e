"""JSON Schemas of the documents that go in and come out, generated from their models."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter

from calm_basin.core.answer.result import Part
from calm_basin.core.as_built.result import AsBuilt
from calm_basin.core.card import Card
from calm_basin.core.site_log.handover import Handover
from calm_basin.core.solution import Solution
from calm_basin.core.tile.result import BestOrigin
from calm_basin.core.water.result import TrialResult
from calm_basin.plan import Plan


def schemas() -> dict[str, str]:
    """File name and text of each schema."""
    kinds = {
        "plan.schema.json": Plan.model_json_schema(mode="validation"),
        "solution.schema.json": Solution.model_json_schema(mode="serialization"),
        "part.schema.json": TypeAdapter(Part).json_schema(),
        "card.schema.json": Card.model_json_schema(mode="serialization"),
        "hand-over.schema.json": Handover.model_json_schema(mode="serialization"),
        "as-built.schema.json": AsBuilt.model_json_schema(mode="serialization"),
        "best-origin.schema.json": BestOrigin.model_json_schema(mode="serialization"),
        "trial.schema.json": TrialResult.model_json_schema(mode="serialization"),
    }
    return {name: written(schema) for name, schema in kinds.items()}


def written(schema: dict[str, Any]) -> str:
    """A schema as the text of its file."""
    return json.dumps(_tidied(schema), indent=2) + "\n"


def _tidied(node: Any) -> Any:
    """Drop the titles pydantic repeats on every field; write a pair as two equal items."""
    if isinstance(node, list):
        return [_tidied(item) for item in node]
    if not isinstance(node, dict):
        return node
    tidy = {
        key: _tidied(value)
        for key, value in node.items()
        if not (key == "title" and isinstance(value, str) and "properties" not in node)
    }
    pair = tidy.get("prefixItems")
    if pair and all(item == pair[0] for item in pair):
        del tidy["prefixItems"]
        tidy["items"] = pair[0]
    return tidy


def main(folder: Path) -> None:
    """Write the schemas into a folder."""
    folder.mkdir(parents=True, exist_ok=True)
    for name, text in schemas().items():
        (folder / name).write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
