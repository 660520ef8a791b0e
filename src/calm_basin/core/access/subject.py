"""Getting in as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.access.answer import access
from calm_basin.core.access.clear import clear_floors, entries
from calm_basin.core.access.doors import door_steps, doors_inwards, doors_that_hit, narrow_doors
from calm_basin.core.access.fixtures import heights, in_shower, placed, reaches
from calm_basin.core.access.turning import turning_space
from calm_basin.core.access.way_in import way_in
from calm_basin.core.access.wc import free_beside, transfers, wc_sides
from calm_basin.core.answer.question import Subject

ACCESS = Subject(
    "access",
    fields={"access": access},
    checks=(
        turning_space,
        narrow_doors,
        door_steps,
        way_in,
        entries,
        clear_floors,
        wc_sides,
        free_beside,
        transfers,
        heights,
        reaches,
        placed,
        in_shower,
        doors_that_hit,
        doors_inwards,
    ),
)
