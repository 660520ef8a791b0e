"""The heating cable, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Cure, Figure, Result


class HeatingResult(Result):
    """The cable on the floor; ``none_because`` says why it is not laid, ``field`` where that is
    cured."""

    none_because: str
    field: str
    state: Literal["fits", "too long", "too short", "none"]
    sentence: str
    detail: str
    cures: tuple[Cure, ...]
    length_text: str
    figures: tuple[Figure, ...]
    route: tuple[XY, ...]
    mats: tuple[tuple[XY, ...], ...]
    """The strips of a loose mat, in the order of laying; then there is no route."""

    start: XY
    end: XY
    sensor: tuple[XY, ...]
    """From the gap between start and end to the sensor."""

    kept_free: tuple[tuple[XY, ...], ...]
    notes: tuple[str, ...]
