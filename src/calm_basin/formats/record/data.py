"""What the record is made from, beside the plan and its solution."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any, NamedTuple

from calm_basin.core.as_built.result import AsBuilt
from calm_basin.core.site_log.handover import Handover


class Recorded(NamedTuple):
    """The entries of the log, the oldest first, each with its number and its body; the hash of the
    last, and where the log is not what it was; what is handed over; each layer that was read as
    built; and the file of each photo by its hash."""

    entries: Sequence[tuple[int, Mapping[str, Any]]]
    seal: str
    broken: list[str]
    handover: Handover
    built: list[AsBuilt]
    photos: dict[str, Path]
