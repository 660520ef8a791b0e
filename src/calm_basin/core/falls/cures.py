"""Other falls, trays and panels, as changes of the plan."""

from __future__ import annotations

from math import ceil
from typing import Any, NamedTuple

from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import (
    ring_of,
    turned_edge,
)
from calm_basin.core.falls.stock import tray_entry_cut
from calm_basin.core.geometry.surface import Zone
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.plan import Plan
from calm_basin.plan.shower import (
    MortarBed,
    SideCut,
)
from calm_basin.rules import TRADE, steepest_floor


class Asked(NamedTuple):
    """A fall that the plan asks for in one zone, and where it stands in the document."""

    fall: float
    path: str

    @classmethod
    def of(cls, plan: Plan, zone: Zone = "shower") -> Asked:
        if zone == "rest" and plan.shower.rest is not None:
            return cls(plan.shower.rest.asked, "/shower/rest/asked")
        if former_of(plan.shower).panels is not None:
            return cls(plan.shower.built_fall, "/shower/former/thick_edge")
        return cls(plan.shower.fall.asked, "/shower/fall/asked")


def ask_for(words: Words, fall: float, asked: Asked, *, steeper: bool) -> Cure | None:
    """Ask for another fall, rounded to a whole ratio on the side that mends; panels have theirs."""
    if fall <= 0 or not asked.path.endswith("/asked"):
        return None
    run = 1 / fall
    run = float(int(run + 1e-6) if steeper else ceil(run - 1e-6))
    if not 1 / steepest_floor().value - 1e-6 <= run <= 200:
        return None
    return Cure(
        text=f"Plan a fall of {words.fall(1 / run)}"
        + (" in the rest of the room" if "rest" in asked.path else ""),
        changes=(Change(path=asked.path, value=1 / run),),
    )


def thicker_panels(plan: Plan, words: Words, fall: float) -> Cure | None:
    """Panels that have another fall built in, their thick edge rounded to what is shown on site."""
    former = former_of(plan.shower).panels
    if former is None or drain_kind(plan.shower.drain).channel is None:
        return None
    rise = fall * former.length
    whole = (words.up if fall > former.fall else words.down)(former.thin_edge + rise)
    if whole <= former.thin_edge:
        return None
    new = (whole - former.thin_edge) / former.length
    changes = [Change(path="/shower/former/thick_edge", value=whole)]
    if abs(plan.shower.fall.asked - former.fall) <= 1e-3 * former.fall:
        # Where the panels' own fall is what is asked for, it goes on being so.
        changes.append(Change(path="/shower/fall/asked", value=new))
    return Cure(
        text=f"Take panels that are {words.length(whole)} at the thick edge: {words.fall(new)}",
        changes=tuple(changes),
    )


def even_fall(plan: Plan) -> Cure | None:
    """Let the edge follow the floor instead of the floor the edge."""
    shower = plan.shower
    made_on_site = former_of(shower).cast
    if drain_kind(shower.drain).point is None or shower.fall.edge == "even" or not made_on_site:
        return None
    return Cure(
        text="Let the same fall run everywhere; only the entry stays level",
        changes=(Change(path="/shower/fall/edge", value="even"),),
    )


def without_rest(plan: Plan) -> Cure | None:
    """Let only the shower fall."""
    if plan.shower.rest is None:
        return None
    return Cure(
        text="Keep the rest of the room flat",
        changes=(Change(path="/shower/rest", value=None),),
    )


def bed_instead(least: float = 12.0) -> Cure:
    """A setting bed in place of a tray or panels; it takes any fall."""
    bed = MortarBed(least_thickness=least)
    return Cure(
        text="Lay a setting bed instead",
        changes=(Change(path="/shower/former", value=bed.model_dump(mode="json")),),
    )


def strips_of_their_own(plan: Plan, words: Words) -> Cure | None:
    """Let the floor beyond a channel's ends fall to it as the rest does."""
    drain, asked = drain_kind(plan.shower.drain).channel, plan.shower.built_fall
    if drain is None or drain.strips:
        return None
    return Cure(
        text=f"Give the strips beside it a fall of {words.fall(asked)} of their own",
        changes=(Change(path="/shower/drain/strips", value=asked),),
    )


def cut_elsewhere(plan: Plan) -> list[Cure | None]:
    """Cut the side across from the entry instead of the entry's own."""
    former, outline = former_of(plan.shower).tray, plan.shower.outline
    if former is None or former.stock or tray_entry_cut(plan.shower) <= 0:
        return []
    ring, n = ring_of(plan.shower), len(outline)
    entry = next(cut for cut in former.cuts if cut.edge in plan.shower.entries)
    facing = ring.outwards[turned_edge(entry.edge, outline)]
    across = min(range(n), key=lambda i: float(ring.outwards[turned_edge(i, outline)] @ facing))
    kept = [cut for cut in former.cuts if cut.edge not in (entry.edge, across)]
    already = sum(cut.width for cut in former.cuts if cut.edge == across)
    moved = [*kept, SideCut(edge=across, width=entry.width + already)]
    return [
        Cure(
            text=f"Cut side {across + 1}, across from the entry, instead",
            changes=(
                Change(
                    path="/shower/former/cuts",
                    value=[cut.model_dump(mode="json") for cut in moved],
                ),
            ),
        )
    ]


def pack_tray(plan: Plan, words: Words, by: float) -> Cure | None:
    """Pack a tray up until its entry edge meets the room again."""
    former = former_of(plan.shower)
    if not former.one_piece:
        return None
    raised = float(former.raised + by)
    return Cure(
        text=f"Pack the whole tray up {words.length(raised)}",
        changes=(Change(path="/shower/former/raised", value=raised),),
    )


def raised_by(plan: Plan, words: Words, by: float) -> float:
    """How far the room's floor is raised where it has to be by so much, mm: by boards as they are
    sold, or where the rest of a wet room is cast to its falls by just that."""
    if plan.shower.rest is not None:
        return words.up(by)
    return TRADE.practice.boards.at_least(by, inches=plan.display.length in ("in", "ft"))


def raised_layers(plan: Plan, by: float) -> list[dict[str, Any]]:
    """The room's layers, made thicker by a board under them. Where the rest of a wet room falls,
    its lowest layer is the bed that takes the fall and carries the membrane: that is made thicker,
    and stays what it is."""
    rows = [layer.model_dump(mode="json") for layer in plan.room.layers]
    if plan.shower.rest is not None and rows:
        rows[-1]["thickness"] += by
        return rows
    return [*rows, {"role": "board", "name": "board that raises the floor", "thickness": by}]
