"""What a built floor is off by, on few cells, for the chart."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil

import numpy as np

from calm_basin.core.as_built.floor import BuiltFloor
from calm_basin.core.as_built.result import DifferenceGrid
from calm_basin.core.geometry.surface import Array

CELLS = 36
"""Cells along the longer side."""


def difference(floor: BuiltFloor, off_at: Callable[[Array], Array]) -> DifferenceGrid | None:
    """The cells with what ``off_at`` says of them; None where no surface is known."""
    if floor.relief is None:
        return None
    left, bottom, right, top = floor.surface.outline.bounds
    size = max(right - left, top - bottom) / CELLS
    columns, rows = ceil((right - left) / size - 1e-9), ceil((top - bottom) / size - 1e-9)
    xs, ys = np.meshgrid(np.arange(columns) + 0.5, np.arange(rows) + 0.5)
    points = np.column_stack([xs.ravel(), ys.ravel()]) * size + (left, bottom)
    there = (floor.surface.located(points) >= 0) & floor.known(points)
    off = off_at(points)
    return DifferenceGrid(
        left=left,
        bottom=bottom,
        size=size,
        columns=columns,
        rows=rows,
        off=tuple(
            round(float(value), 2) if known else None
            for value, known in zip(off, there, strict=True)
        ),
    )
