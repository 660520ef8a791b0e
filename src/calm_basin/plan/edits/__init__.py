"""Edits of a plan that move more than one value: what names a part by number follows it."""

from calm_basin.plan.edits.additions import Addition, add
from calm_basin.plan.edits.carrying import mirrored
from calm_basin.plan.edits.corners import (
    Which,
    remove_corner,
    split_side,
    stretch,
    stretch_at_studs,
    with_outline,
)
from calm_basin.plan.edits.lists import raise_item, remove_item
from calm_basin.plan.edits.readings import level_read
from calm_basin.plan.edits.screws import joists_from_screws
from calm_basin.plan.edits.walls import measured_at_faces, measured_at_studs

__all__ = [
    "Addition",
    "Which",
    "add",
    "joists_from_screws",
    "level_read",
    "measured_at_faces",
    "measured_at_studs",
    "mirrored",
    "raise_item",
    "remove_corner",
    "remove_item",
    "split_side",
    "stretch",
    "stretch_at_studs",
    "with_outline",
]
