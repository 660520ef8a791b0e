"""The outlines of a DXF drawing, layer by layer, from which a room's is chosen."""

from __future__ import annotations

import io
from collections import Counter
from collections.abc import Iterable
from typing import Literal

import numpy as np
import shapely
from ezdxf import filemanagement
from ezdxf.document import Drawing
from ezdxf.entities.dxfentity import DXFEntity
from pydantic import BaseModel, ConfigDict
from shapely.geometry import LineString, Polygon

from calm_basin.plan import PlanError, Problem
from calm_basin.plan.base import MOST_CORNERS
from calm_basin.units import Display, format_length

Unit = Literal["mm", "cm", "m", "in", "ft"]

MILLIMETRES: dict[Unit, float] = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8}

CALLED: dict[Unit, str] = {
    "mm": "millimetres",
    "cm": "centimetres",
    "m": "metres",
    "in": "inches",
    "ft": "feet",
}

NAMED: dict[int, Unit] = {1: "in", 2: "ft", 4: "mm", 5: "cm", 6: "m"}
"""Units by the number that a drawing names them by ($INSUNITS, DXF reference; from memory)."""

LARGEST = 4_000_000
"""Most signs of a drawing."""

MOST_ENTITIES, MOST_LAYERS, MOST_OUTLINES = 50_000, 60, 8
"""Of a drawing, of the answer, of a layer: the largest come first."""

MOST_LINES, MOST_CROSSED = 20_000, 200
"""Of a layer: lines that are joined at their ends, and lines that are parted where they cross; of
more the crossings alone would be too many."""

SAME_END = 1.0
"""Ends of lines no farther apart, mm, meet."""

LEAST_SIZE = 300.0
"""What is smaller, mm, is no room."""


class Found(BaseModel):
    """An outline that may be a room's: its corners, mm, from its own lower left corner, and its
    size in words."""

    model_config = ConfigDict(frozen=True)

    points: tuple[tuple[float, float], ...]
    text: str


class Layer(BaseModel):
    """A layer with its outlines, the largest first, and what on it is none, and why."""

    model_config = ConfigDict(frozen=True)

    name: str
    outlines: tuple[Found, ...]
    told: tuple[str, ...]


class Outlines(BaseModel):
    """What a drawing holds: the unit that it was read in, null where it names none and none was
    chosen; then there are no layers yet."""

    model_config = ConfigDict(frozen=True)

    unit: Unit | None
    said: str
    layers: tuple[Layer, ...]


def read_outlines(text: str, unit: Unit | None, display: Display) -> Outlines:
    """The outlines of a DXF drawing.

    Parameters
    ----------
    text : str
        The drawing, as text (ASCII DXF).
    unit : Unit or None
        What its numbers are; None: what the drawing says.
    display : Display
        How sizes are printed.

    Raises
    ------
    PlanError
        Where it is no drawing, or too large a one; the message says what to do.
    """
    drawing = _opened(text)
    entities = list(drawing.modelspace())
    if len(entities) > MOST_ENTITIES:
        raise _refused(
            f"The drawing has {len(entities)} things; at most {MOST_ENTITIES} are read. Save the "
            "room alone."
        )
    # The reader supposes metres where a drawing does not say.
    named = NAMED.get(drawing.units) if "$INSUNITS" in text else None
    chosen = unit or named
    if chosen is None:
        said = "The drawing does not name its unit: choose the unit."
        return Outlines(unit=None, said=said, layers=())
    said = f"Read in {CALLED[chosen]}."
    if named is not None:
        said = f"The drawing is in {CALLED[named]}."
        if chosen != named:
            said = f"The drawing says {CALLED[named]}; read in {CALLED[chosen]}, as chosen."
    by_layer: dict[str, list[DXFEntity]] = {}
    for entity in entities:
        by_layer.setdefault(str(entity.dxf.get("layer", "0")), []).append(entity)
    factor = MILLIMETRES[chosen]
    layers = [_layer(name, held, factor, display) for name, held in sorted(by_layer.items())]
    layers.sort(key=lambda layer: not layer.outlines)
    return Outlines(unit=chosen, said=said, layers=tuple(layers[:MOST_LAYERS]))


def _refused(message: str) -> PlanError:
    return PlanError([Problem("/dxf", message)])


def _opened(text: str) -> Drawing:
    if len(text) > LARGEST:
        raise _refused(
            f"The drawing is over {LARGEST // 1_000_000} MB. Save the room alone, as DXF."
        )
    try:
        drawing = filemanagement.read(io.StringIO(text))
    # Whatever the reader stumbles over, it is the file that is not what it should be.
    except Exception:
        raise _refused("This is no drawing that can be read. Save it as DXF in text form.") from (
            None
        )
    return drawing


def _layer(name: str, entities: Iterable[DXFEntity], factor: float, display: Display) -> Layer:
    """What a layer holds."""
    closed: list[Polygon] = []
    lines: list[np.ndarray] = []
    told: list[str] = []
    others: Counter[str] = Counter()
    for entity in entities:
        kind = entity.dxftype()
        if kind == "LINE":
            ends = (entity.dxf.start, entity.dxf.end)
            lines.append(np.array([(end.x, end.y) for end in ends]) * factor)
        elif kind in ("LWPOLYLINE", "POLYLINE"):
            way = _way(entity, kind)
            if way is None:
                others["outline with arcs: walls are straight"] += 1
                continue
            points, is_closed = way
            points = points * factor
            if len(points) > 2 and (is_closed or np.hypot(*(points[0] - points[-1])) <= SAME_END):
                closed.append(Polygon(points))
            elif len(points) > 1:
                lines += list(np.stack([points[:-1], points[1:]], axis=1))
        else:
            others[f"{kind.lower()}: no outline"] += 1
    told += [f"{count} × {what}" for what, count in sorted(others.items())]
    joined, left = _joined(lines)
    if len(lines) > MOST_LINES:
        told.append(f"{len(lines)} lines: at most {MOST_LINES} are joined. Save the room alone")
    elif left:
        told.append(f"{left} lines do not close: their ends have to meet within {SAME_END:g} mm")
    found, unfit = [], Counter[str]()
    for shape in (*closed, *joined):
        why = _unfit(shape, display)
        if why:
            unfit[why] += 1
        else:
            found.append(_found(shape, display))
    told += [f"{count} × {why}" for why, count in sorted(unfit.items())]
    found.sort(key=lambda one: -Polygon(one.points).area)
    if len(found) > MOST_OUTLINES:
        told.append(f"{len(found) - MOST_OUTLINES} smaller outlines are not listed")
    shown = "".join(sign if sign.isprintable() else " " for sign in name)[:60]
    return Layer(name=shown, outlines=tuple(found[:MOST_OUTLINES]), told=tuple(told[:20]))


def _way(entity: DXFEntity, kind: str) -> tuple[np.ndarray, bool] | None:
    """The corners of a polyline, (n, 2), and whether it is closed; None where it has arcs."""
    if kind == "LWPOLYLINE":
        rows = np.array(list(entity.get_points("xyb")))  # type: ignore[attr-defined]
        points, bulges = rows.reshape(-1, 3)[:, :2], rows.reshape(-1, 3)[:, 2]
        is_closed = bool(entity.closed)  # type: ignore[attr-defined]
    else:
        vertices = list(entity.vertices)  # type: ignore[attr-defined]
        places = [v.dxf.location for v in vertices]
        points = np.array([(at.x, at.y) for at in places], dtype=float).reshape(-1, 2)
        bulges = np.array([v.dxf.get("bulge", 0.0) for v in vertices], dtype=float)
        is_closed = bool(entity.is_closed)  # type: ignore[attr-defined]
    return None if np.abs(bulges).max(initial=0.0) > 1e-9 else (points, is_closed)


def _joined(lines: list[np.ndarray]) -> tuple[list[Polygon], int]:
    """The faces that single lines close, and how many lines close none: where they are few those
    that cross are parted there, else they close at their ends alone."""
    kept = [
        line for line in lines if np.isfinite(line).all() and np.hypot(*(line[1] - line[0])) > 0
    ]
    if not kept or len(kept) > MOST_LINES:
        return [], len(lines)
    ends = np.concatenate(kept)
    # Ends that nearly meet are put together onto the first of them.
    tree = shapely.STRtree(shapely.points(ends))
    pairs = tree.query(shapely.points(ends), predicate="dwithin", distance=SAME_END)
    first = np.arange(len(ends))
    np.minimum.at(first, pairs[0], pairs[1])
    met = ends[first].reshape(-1, 2, 2)
    whole = shapely.multilinestrings(shapely.linestrings(met))
    noded = shapely.node(whole) if len(kept) <= MOST_CROSSED else whole
    faces, cuts, dangles, invalid = shapely.polygonize_full([noded])
    left = sum(shapely.get_num_geometries(one) for one in (cuts, dangles, invalid))
    return [face for face in shapely.get_parts(faces) if isinstance(face, Polygon)], int(left)


def _unfit(shape: Polygon, display: Display) -> str:
    """Why an outline is no room's; empty where it may be one."""
    coordinates = shapely.get_coordinates(shape)
    if not np.isfinite(coordinates).all():
        return "outline with a corner that is no place"
    if not shape.is_valid:
        return "outline that crosses itself"
    if len(_corners(shape)) > MOST_CORNERS:
        return f"outline with more than {MOST_CORNERS} corners"
    wide, deep = _size(shape)
    if min(wide, deep) < LEAST_SIZE:
        return f"outline under {format_length(LEAST_SIZE, display)} wide: check the unit"
    if max(wide, deep) > 20_000:
        return f"outline over {format_length(20_000.0, display)} long: check the unit"
    return ""


def _corners(shape: Polygon) -> np.ndarray:
    """The corners of an outline, (n, 2), those left out that stand on a straight line."""
    ring = shapely.get_coordinates(shape.exterior)[:-1]
    # Where the line begins is kept: a place that is a corner for certain.
    ring = np.roll(ring, -int(np.lexsort((ring[:, 1], ring[:, 0]))[0]), axis=0)
    line = LineString([*ring, ring[0]]).simplify(SAME_END / 10)
    points: np.ndarray = shapely.get_coordinates(line)[:-1]
    return points


def _size(shape: Polygon) -> tuple[float, float]:
    left, bottom, right, top = shape.bounds
    return right - left, top - bottom


def _found(shape: Polygon, display: Display) -> Found:
    corners = _corners(shape)
    corners = (corners - corners.min(axis=0)).round(3)
    wide, deep = _size(shape)
    text = f"{format_length(wide, display)} × {format_length(deep, display)}"
    count = f"{len(corners)} corners"
    return Found(points=tuple((float(x), float(y)) for x, y in corners), text=f"{text}, {count}")
