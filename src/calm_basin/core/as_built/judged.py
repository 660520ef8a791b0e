"""Each plane of a built floor against its limits, in words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import sqrt
from typing import Literal, get_args

import numpy as np

from calm_basin.core.answer.taped import place_text
from calm_basin.core.answer.words import Words
from calm_basin.core.as_built.floor import BuiltFloor, Group, PlaneFit
from calm_basin.core.as_built.result import (
    BuiltLimit,
    BuiltPlane,
    BuiltPuddle,
    BuiltReading,
    BuiltStep,
    State,
)
from calm_basin.core.falls.limits import bound_by, fall_limits, within
from calm_basin.core.falls.step import entry_steps
from calm_basin.core.geometry.grid import Grid
from calm_basin.core.geometry.levels import shower_layers
from calm_basin.core.geometry.surface import Array, Surface, xy
from calm_basin.core.water.runoff import exits_of
from calm_basin.plan import Plan
from calm_basin.plan.layers import first, thick
from calm_basin.rules import TRADE, Limit, RuleSet

LayerRead = Literal["recess", "bed", "membrane", "tile"]

LAYERS: tuple[LayerRead, ...] = get_args(LayerRead)

GRAVITY: tuple[State, ...] = ("fails", "open", "holds")


def above(plan: Plan, layer: LayerRead) -> float:
    """What is laid on a layer of the shower until the floor is finished, mm."""
    if layer == "tile":
        return 0.0
    if layer == "membrane":
        layers = plan.shower.layers
        membrane = first(layers, "membrane")
        return 0.0 if membrane is None else thick(layers[membrane + 1 :])
    return shower_layers(plan)


@dataclass
class Judged:
    """A built floor of one layer against the plan's limits."""

    plan: Plan
    rules: RuleSet
    words: Words
    surface: Surface
    layer: LayerRead
    floor: BuiltFloor

    @cached_property
    def grid(self) -> Grid:
        over = above(self.plan, self.layer)
        exits = [replace(one, level=one.level - over) for one in exits_of(self.plan)]
        return self.floor.grid(exits)

    def readings(self) -> list[BuiltReading]:
        floor, words = self.floor, self.words
        return [
            BuiltReading(
                at=xy(place),
                height=float(height),
                height_text=words.bare(float(height)),
                planned_text=words.bare(float(height - off)),
                off=float(off),
                off_text=off_text(words, float(off)),
            )
            for place, height, off in zip(floor.places, floor.heights, floor.off, strict=True)
        ]

    def plane(self, group: Group) -> BuiltPlane:
        words, floor = self.words, self.floor
        fit = floor.fit(group)
        mine = floor.of(group)
        off = floor.off[mine]
        middle = group.facets[len(group.facets) // 2].polygon.representative_point()
        planned = [facet.gradient for facet in group.facets]
        common = {
            "name": group.name,
            "at": (middle.x, middle.y),
            "readings": len(mine),
            "planned_text": fall_range(words, min(planned), max(planned)),
            "off_text": _between(words, off),
        }
        if fit is None:
            missing = max(3 - len(mine), 1)
            return BuiltPlane.model_validate(
                {
                    **common,
                    "built": None,
                    "built_text": "",
                    "spread_text": "",
                    "state": None,
                    "text": "Not judged yet",
                    "limits": (),
                    "hollow": None,
                    "hollow_text": "",
                    "hollow_from": None,
                    "hollow_to": None,
                    "unread": f"Read {missing} more {'place' if missing == 1 else 'places'} on it, "
                    "not all on one line.",
                }
            )
        flattest, steepest, spread = self.falls(group, fit)
        limits = [
            self.held(limit, group, flattest, steepest, spread)
            for limit in fall_limits(self.rules)
            if bound_by(limit, group.facets[0])
        ]
        state, text = self.verdict(limits, flattest, spread)
        gap = self.gap(group, fit)
        return BuiltPlane.model_validate(
            {
                **common,
                "built": (flattest, steepest),
                "built_text": fall_range(words, flattest, steepest),
                "spread_text": self.spread_text(flattest, steepest, spread),
                "state": state,
                "text": text,
                "limits": tuple(one for _, one in limits),
                **gap,
                "unread": "",
            }
        )

    def falls(self, group: Group, fit: PlaneFit) -> tuple[float, float, float]:
        """The least fall the way it was meant to, the steepest fall, and how far either may be off
        for the readings' error."""
        down = np.array([facet.downhill for facet in group.facets])
        tilts = np.array([facet.plane[:2] for facet in group.facets]) + fit.tilt
        flattest = float((-(down * tilts).sum(axis=1)).min())
        steepest = float(np.hypot(*tilts.T).max())
        along = np.einsum("ni,ij,nj->n", down, fit.spread, down)
        return flattest, steepest, self.floor.error * sqrt(float(along.max()))

    def held(
        self, limit: Limit, group: Group, flattest: float, steepest: float, spread: float
    ) -> tuple[Limit, BuiltLimit]:
        fall = flattest if limit.binds == "at_least" else steepest
        over = limit.value - fall if limit.binds == "at_least" else fall - limit.value
        state: State = "holds"
        if not within(limit, fall):
            # What is only recommended stops nobody.
            stops = over > spread and limit.weight == "required"
            state = "fails" if stops else "open"
        elif over > -spread:
            # What is built to the very limit is known no better than it was read.
            state = "open" if abs(over) > 1e-9 else "holds"
        bound = f"{limit.binds.replace('_', ' ')} {self.words.fall_limit(limit.value)}"
        by_plan = not all(within(limit, facet.gradient) for facet in group.facets)
        return limit, BuiltLimit(
            state=state, by_plan=by_plan, limit_text=bound, source=limit.source
        )

    def verdict(
        self, limits: list[tuple[Limit, BuiltLimit]], flattest: float, spread: float
    ) -> tuple[State, str]:
        if flattest + spread <= 0:
            return "fails", "It does not fall to the drain"
        limits = [row for row in limits if not row[1].by_plan]
        worst = gravest([one.state for _, one in limits]) or "holds"
        names = {
            "at_least": {"fails": "Too flat", "open": "It may be too flat"},
            "at_most": {"fails": "Too steep", "open": "It may be too steep"},
        }
        said = [
            names[limit.binds][one.state] for limit, one in limits if one.state == worst != "holds"
        ]
        return worst, said[0] if said else "The fall is kept"

    def spread_text(self, flattest: float, steepest: float, spread: float) -> str:
        low, high = max(flattest - spread, 0.0), steepest + spread
        if low < 1e-4:
            return f"no steeper than {self.words.fall(high)}"
        return f"between {self.words.fall(low)} and {self.words.fall(high)} for a reading's error"

    def gap(self, group: Group, fit: PlaneFit) -> dict[str, object]:
        """The widest gap under a straightedge, where one may be wider than it may be."""
        none: dict[str, object] = {
            "hollow": None,
            "hollow_text": "",
            "hollow_from": None,
            "hollow_to": None,
        }
        edge = None if fit.line else self.floor.hollow(group, TRADE.site_tests.flatness.value)
        if edge is None:
            return none
        return {
            "hollow": edge.gap,
            "hollow_text": f"Gap of {self.words.length(edge.gap, 'up')} under a "
            f"{self.words.length(TRADE.site_tests.straightedge.value)} straightedge",
            "hollow_from": edge.start,
            "hollow_to": edge.end,
        }

    def hollow_state(self, gap: float) -> State:
        over = gap - TRADE.site_tests.flatness.value
        if over > self.floor.error:
            return "fails"
        return "open" if over > 0 else "holds"

    def puddles(self, floor: BuiltFloor) -> list[BuiltPuddle]:
        least = TRADE.site_tests.stands.value
        return [
            BuiltPuddle(
                at=one.at,
                depth=one.depth,
                text=f"{self.words.length(one.depth, 'up')} deep, "
                f"{self.words.volume(one.litres)}, "
                f"{place_text(self.plan.room.outline, one.at, self.words)}",
            )
            for one in floor.standing(self.grid, least)
        ]

    def puddles_text(self, puddles: list[BuiltPuddle]) -> str:
        if self.floor.relief is None:
            return ""
        deep = self.words.length(TRADE.site_tests.stands.value)
        if not puddles:
            return f"No water deeper than {deep} stands"
        return f"{len(puddles)} {'puddle' if len(puddles) == 1 else 'puddles'} deeper than {deep}"

    def entries(self) -> tuple[Array, Array]:
        """Places along the entry, (n, 2), and the planned steps there, mm down."""
        sides = [side for side in entry_steps(self.plan, self.surface) if len(side[0])]
        if not sides:
            return np.empty((0, 2)), np.empty(0)
        return np.vstack([places for places, _ in sides]), np.concatenate([s for _, s in sides])

    def steps(self) -> list[BuiltStep]:
        """The step at the entry, once the tile is laid and read there."""
        places, planned = self.entries()
        if self.layer != "tile" or not len(places) or not self.floor.known(places).all():
            return []
        built = planned - self.floor.off_at(places)
        if np.isnan(built).any():
            return []
        worst = float(built[np.abs(built).argmax()])
        was = float(planned[np.abs(planned).argmax()])
        limits = self.rules.on("entry_step")
        state: State = "holds"
        said, source = "The step is kept", "; ".join(one.source for one in limits)
        for limit in limits:
            over = abs(worst) - limit.value
            if over > self.floor.error:
                state, said, source = "fails", "The step is too high", limit.source
                break
            if over > 1e-6:
                state, said, source = "open", "The step may be too high", limit.source
        return [
            BuiltStep(
                title="Step at the entry",
                state=state,
                planned_text=self.words.step(was),
                built_text=self.words.step(worst),
                text=said,
                source=source,
            )
        ]


def gravest(states: Sequence[State | None]) -> State | None:
    """The gravest of what is judged; None where nothing is, and nothing fails while something is
    not judged."""
    return next((state for state in GRAVITY if state in states), None)


def _between(words: Words, off: Array) -> str:
    """From what to what readings are off."""
    if not len(off):
        return ""
    low, high = off_text(words, float(off.min())), off_text(words, float(off.max()))
    return low if low == high else f"{low} to {high}"


def fall_range(words: Words, low: float, high: float) -> str:
    if low <= 0:
        return f"none to {words.fall(high)}"
    first, last = words.fall(low), words.fall(high)
    return first if first == last else f"{first} to {last}"


def off_text(words: Words, off: float) -> str:
    """A difference with its sign: above the plan is +."""
    text = words.bare(abs(off))
    if abs(off) < words.display.step / 2:
        return "0"
    return f"{'+' if off > 0 else '−'}{text}"
