"""The site log as CSV, an entry a row, the first first."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping
from typing import Any

from calm_basin.formats.cells import plain

COLUMNS = (
    "entry",
    "at",
    "by",
    "kind",
    "what",
    "verdict",
    "why",
    "do",
    "source",
    "written down",
    "hash",
)


def write_log(entries: Iterable[Mapping[str, Any]]) -> str:
    """Entries with their ``number``, ``made_at``, ``hash`` and ``body``."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(COLUMNS)
    for entry in entries:
        body = entry["body"]
        verdict = body.get("verdict", {})
        said = "; ".join(f"{label}: {text}" for label, text in body.get("lines", ()))
        told = (body.get("at", ""), body.get("by", ""), body.get("title", ""), said)
        judged = tuple(verdict.get(name, "") for name in ("text", "why", "cure", "source"))
        cells = (str(entry["number"]), *told, *judged, entry["made_at"], entry["hash"])
        table.writerow([plain(str(cell)) for cell in cells])
    return out.getvalue()
