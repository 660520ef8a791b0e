"""Shapes that were cut, without what has no area."""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray


def solid(shapes: NDArray[np.object_]) -> NDArray[np.object_]:
    """Shapes, (n,), without the points and lines in which they only touch what they were cut with:
    in a room that is turned, two that touch seem to overlap."""
    found = shapes.copy()
    for i in np.flatnonzero(~np.isin(shapely.get_type_id(shapes), (3, 6))):
        parts = shapely.get_parts(shapes[i])
        found[i] = shapely.union_all(parts[shapely.get_dimensions(parts) == 2])
    return found
