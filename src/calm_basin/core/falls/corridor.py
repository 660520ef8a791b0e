"""The corridor of gradients: what the rules allow between too flat and too steep, and what fits."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import XY, Severity
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import floors_by_rim, ring_of
from calm_basin.core.falls.cures import Asked
from calm_basin.core.falls.drains import all_places, movable
from calm_basin.core.falls.limits import bound_by, fall_limits, fitting
from calm_basin.core.falls.planes import broken_limit, fall_text, gathering, label_point
from calm_basin.core.falls.result import Corridor, FallSpan, PlaneRange
from calm_basin.core.geometry.surface import Array, Facet, Surface
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.plan import Plan
from calm_basin.plan.shower import PointDrain, Shower
from calm_basin.rules import Limit, RuleSet
from calm_basin.tolerances import SHARE_ROUNDED

RIMS = 40
"""How many sizes of a rim are tried between its smallest and the shower's width."""

LEAST_RIM = 40.0
"""Smallest rim that is tried, mm."""


def corridor(case: Case) -> Corridor:
    """Every plane and fold against the required limits, and the ranges in which all of them fit."""
    plan, rules, words, surface = case.plan, case.rules, case.words, case.surface
    shower = plan.shower
    planes = [
        _plane_range(plan, rules, words, facet)
        for facet in {f.name: f for f in surface.facets if not f.level}.values()
    ]
    for fold in [] if any(facet.stated for facet in surface.facets) else gathering(surface):
        limits = [x for x in _required(rules) if x.topic == "shower_fall" and x.binds == "at_least"]
        least = max((x.value for x in limits), default=None)
        under = least is not None and fold.gradient < least * (1 - SHARE_ROUNDED)
        planes.append(
            PlaneRange(
                name="fold",
                zone="shower",
                asked_text=words.fall(shower.fall.asked),
                gradient=fold.gradient,
                text=words.fall(fold.gradient),
                least=least,
                least_text="" if least is None else words.fall(least),
                most=None,
                most_text="",
                severity="caution" if under else None,
                at=((fold.start[0] + fold.end[0]) / 2, (fold.start[1] + fold.end[1]) / 2),
            )
        )
    spans = list(_falls_and_drops(plan, rules, words, surface))
    places: tuple[XY, ...] = ()
    stride = 0.0
    if (drain := movable(shower)) is not None:
        rest = surface.zone("rest")
        centres, gradients, _ = all_places(shower, words.display.step)
        good = fitting(rules, gradients, rest)
        stride = _stride(centres)
        places = tuple((float(x), float(y)) for x, y in centres[good])
        spans += _positions(drain, words, centres, good)
        spans.append(_rims(shower, drain, rules, words, rest))
    return Corridor(
        planes=tuple(planes),
        spans=tuple(spans),
        places=places,
        stride=stride,
        fits=not any(plane.severity == "stop" for plane in planes),
        source="; ".join(dict.fromkeys(limit.source for limit in _required(rules))),
    )


def _required(rules: RuleSet) -> list[Limit]:
    return [limit for limit in fall_limits(rules) if limit.weight == "required"]


def _bounds(rules: RuleSet, facet: Facet) -> tuple[float | None, float | None]:
    """Least and most gradient that the required limits allow a plane."""
    own = [limit for limit in _required(rules) if bound_by(limit, facet)]
    least = max((x.value for x in own if x.binds == "at_least"), default=None)
    most = min((x.value for x in own if x.binds == "at_most"), default=None)
    return least, most


def _plane_range(plan: Plan, rules: RuleSet, words: Words, facet: Facet) -> PlaneRange:
    least, most = _bounds(rules, facet)
    asked = Asked.of(plan, facet.zone).fall
    if facet.strip:
        asked = drain_kind(plan.shower.drain).strips
    severity: Severity | None = broken_limit(rules, facet)
    return PlaneRange(
        name=facet.name,
        zone=facet.zone,
        asked_text=words.fall(asked),
        gradient=facet.gradient,
        text=fall_text(words, facet),
        least=least,
        least_text="" if least is None else words.fall(least),
        most=most,
        most_text="" if most is None else words.fall(most),
        severity=severity,
        at=label_point(facet),
    )


def _falls_and_drops(
    plan: Plan, rules: RuleSet, words: Words, surface: Surface
) -> Sequence[FallSpan]:
    """The falls that may be asked for, and the drops that follow: gradients are in proportion."""
    shower = plan.shower
    own = [f for f in surface.zone("shower") if not f.level and not f.strip]
    if not own or (shower.rest is not None and shower.rest.walls == "level") or own[0].stated:
        return []
    least, most = _bounds(rules, own[0])
    asked, drop = shower.built_fall, surface.drop + surface.edge
    flattest, steepest = (pick(f.gradient for f in own) for pick in (min, max))
    high = None if most is None else asked * most / steepest

    def span(label: str, flat: float, scale: float, show: Callable[[float], str]) -> FallSpan:
        """From where the flattest of what falls keeps the least, to where the planes are too
        steep; ``scale`` makes a fall what is shown."""
        low = 0.0 if least is None else asked * least / flat
        fits = high is None or low <= high * (1 + SHARE_ROUNDED)
        under = high is None or asked <= high * (1 + SHARE_ROUNDED)
        ends = [show(x * scale) for x in (low, high) if x is not None]
        text = " to ".join(dict.fromkeys(ends)) if high is not None else f"{ends[0]} or more"
        return FallSpan(
            label=label,
            low=low * scale if fits else None,
            high=high * scale if fits and high is not None else None,
            now=asked * scale,
            text=text if fits else "none fits",
            inside=fits and under and low * (1 - SHARE_ROUNDED) <= asked,
        )

    panels = former_of(shower).panels is not None
    label = "Fall of the panels" if panels else "Fall to plan"
    found = [span(label, flattest, 1.0, words.fall)]
    fold = min((fold.gradient for fold in gathering(surface)), default=0.0)
    if least is not None and 0 < fold < flattest * (1 - SHARE_ROUNDED):
        found.append(span("Fall that keeps the folds too", fold, 1.0, words.fall))
    if drop > 0:
        found.append(span("Drop at drain", flattest, drop / asked, words.length))
    return found


def _positions(
    drain: PointDrain,
    words: Words,
    centres: Array,
    good: np.ndarray[tuple[int], np.dtype[np.bool_]],
) -> list[FallSpan]:
    """How far the drain may move each way from where it is: every stretch of each line."""
    found = []
    for axis, label, names in (
        (0, "Drain, left to right", ("left", "right")),
        (1, "Drain, down to up", ("down", "up")),
    ):
        now = drain.centre[axis]
        on_line = np.abs(centres[:, 1 - axis] - drain.centre[1 - axis]) < 1e-6
        order = np.argsort(centres[on_line][:, axis])
        along = centres[on_line][order, axis]
        fits = _stretches(along, good[on_line][order])
        here = any(low - 1e-6 <= now <= high + 1e-6 for low, high in fits)
        moves = (
            " to ".join(dict.fromkeys(_moved(words, x - now, names) for x in ends)) for ends in fits
        )
        text = ", or ".join(moves) or "nowhere on this line"
        low, high = (fits[0][0], fits[-1][1]) if fits else (None, None)
        found.append(FallSpan(label=label, low=low, high=high, now=now, text=text, inside=here))
    return found


def _stretches(
    values: Array, good: np.ndarray[tuple[int], np.dtype[np.bool_]]
) -> list[tuple[float, float]]:
    """The stretches of values, in order, over which all are good: (first, last) of each."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], good, [False]]).astype(int)))
    return [
        (float(values[a]), float(values[b - 1]))
        for a, b in zip(edges[::2], edges[1::2], strict=True)
    ]


def _moved(words: Words, by: float, names: tuple[str, str]) -> str:
    """How far along a line, such as ``38 mm left``."""
    if abs(by) < words.display.step / 2:
        return "here"
    return f"{words.length(abs(by), 'down')} {names[0] if by < 0 else names[1]}"


def _stride(centres: Array) -> float:
    steps = np.diff(np.unique(np.round(centres[:, 0], 6)))
    return float(steps.min()) if len(steps) else 0.0


def _rims(
    shower: Shower, drain: PointDrain, rules: RuleSet, words: Words, rest: Sequence[Facet]
) -> FallSpan:
    """The sizes of a square rim, at the drain's place, with which every plane fits."""
    ring, fall = ring_of(shower), shower.fall
    now = max(drain.width, drain.length)
    widest = max(float(np.ptp(ring.points, axis=0).min()) * 0.8, LEAST_RIM)
    sizes = np.unique([*np.linspace(LEAST_RIM, widest, RIMS), now])
    unit = drain_kind(drain.model_copy(update={"width": 1.0, "length": 1.0})).rim
    rims = drain.centre + (unit - drain.centre) * sizes[:, None, None]
    gradients, _ = floors_by_rim(ring, rims, fall.asked, fall.measured)
    good = fitting(rules, gradients, rest)
    fits = _stretches(sizes, good)
    texts = (f"{words.length(low, 'up')} to {words.length(high, 'down')}" for low, high in fits)
    low, high = (fits[0][0], fits[-1][1]) if fits else (None, None)
    return FallSpan(
        label="Rim of the drain",
        low=low,
        high=high,
        now=now,
        text=", or ".join(texts) or "no size fits here",
        inside=any(first <= now <= last for first, last in fits),
    )
