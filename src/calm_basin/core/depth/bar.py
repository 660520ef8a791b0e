"""Where the depth went: from the room's floor down, part by part."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.words import Words
from calm_basin.core.depth.result import DepthBar, Flush, Segment
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.geometry.levels import depth_available, depth_left, levels, shower_pour
from calm_basin.core.geometry.lifts import thicker_at_drain
from calm_basin.core.kinds import carrier_of, drain_kind, former_of
from calm_basin.core.kinds.bed import bed_form
from calm_basin.plan import Plan
from calm_basin.tolerances import ROUNDED, SAME_PLACE

Code = Literal["step", "fall", "layer", "former", "pour", "packed"]


def depth_bar(case: Case) -> DepthBar:
    """The parts of the depth from the room's floor to what carries the shower; their sum is
    ``room FFL − base``."""
    plan, words, surface = case.plan, case.words, case.surface
    stack = levels(plan, surface)
    segments = parts_of(case)
    total = stack.room - stack.base
    available = depth_available(plan)
    return DepthBar(
        segments=tuple(segments),
        total=total,
        total_text=words.length(total),
        above=stack.room,
        above_text=words.length(stack.room),
        below=-stack.base,
        below_text=words.length(stack.recess, "up") if stack.recess > 0 else "none",
        available=available,
        available_text=words.length(available, "down"),
        flush=tuple(_flush(case, available)),
    )


def _flush(case: Case, available: float) -> Iterator[Flush]:
    """The build-up solved for the recess, for what makes the falls, for the fall, and for what the
    shower builds up to the room's floor."""
    plan, words, surface = case.plan, case.words, case.surface
    stack, former = levels(plan, surface), former_of(plan.shower)
    yield Flush(
        code="layers",
        given="the layers and the fall",
        solved="recess needed",
        value=stack.recess,
        text=words.length(stack.recess, "up") if stack.recess > 0 else "none",
    )
    given = f"a recess of {words.length(available, 'down')}"
    most = former.thickness + available - stack.recess
    yield Flush(
        code="former",
        given=given,
        solved=f"{former.measure[0]}, at most",
        value=most if most >= 0 else None,
        text=words.length(most, "down") if most >= 0 else "nothing fits",
    )
    drop, steepest = stack.entry - stack.drain, "fall, at most"
    if former.cast and former.lower is None and drop > 0:
        fall = plan.shower.built_fall * (drop + available - stack.recess) / drop
        if fall <= 0:
            yield Flush(code="fall", given=given, solved=steepest, value=None, text="nothing fits")
        elif (taken := _taking_all(plan, fall)) is not None:
            text = words.fall(taken)
            yield Flush(code="fall", given=given, solved=steepest, value=taken, text=text)
    laid, carrier = plan.room.laid is not None, carrier_of(plan)
    lowered = carrier.lowered(stack.recess)
    yield Flush(
        code="room",
        given=f"the room's floor at {words.length(stack.room)}{', which is down' if laid else ''}",
        solved="the shower builds up at its entry, from the lowered deck"
        if carrier.refitted and stack.recess > 0
        else "the shower builds up at its entry, from the deck or slab",
        value=stack.entry + lowered,
        text=words.length(stack.entry + lowered),
    )


ROUNDS = 6


def _taking_all(plan: Plan, fall: float) -> float | None:
    """The fall, begun from about ``fall``, with which the plan takes all the depth there is; None
    where none was found: not all of a floor's drop is in proportion to the fall."""
    for _ in range(ROUNDS):
        falling = plan.model_copy(update={"shower": plan.shower.falling(fall)})
        try:
            surface = surface_of(falling)
        except NoSurfaceError:
            return None
        left, drop = depth_left(falling, surface), surface.drop + surface.edge
        if abs(left) < SAME_PLACE:
            return fall
        if drop + left <= 0 or drop <= 0:
            return None
        fall *= (drop + left) / drop
    return None


def parts_of(case: Case) -> list[Segment]:
    """All that lies between the room's floor and what carries the shower, from the top down."""
    plan, words, surface = case.plan, case.words, case.surface
    shower, former = plan.shower, former_of(plan.shower)
    stack = levels(plan, surface)
    step = stack.room - stack.entry
    rest = shower.rest is not None
    parts = [
        _part(
            words,
            "step",
            "rest of the room's fall, and set-down" if rest else "set-down at the entry",
            step,
            "" if rest else "/shower/set_down",
            None if rest or step <= 0 else 0.0,
        )
    ]
    if former.measured_at == "drain":
        panels = former.panels is not None and drain_kind(shower.drain).channel is not None
        path = "" if panels else "/shower/fall/asked"
        fall = stack.entry - stack.drain
        name = f"fall to the drain, {words.fall(shower.built_fall)}"
        parts.append(_part(words, "fall", name, fall, path, None, kind="fall"))
    else:
        parts.append(_part(words, "fall", "the extension's own rise", surface.extended, "", None))
    parts += [
        _part(
            words,
            "layer",
            layer.name,
            layer.thickness,
            f"/shower/layers/{i}/thickness",
            layer.least,
        )
        for i, layer in enumerate(shower.layers)
    ]
    parts += _former(case)
    parts.append(
        _part(
            words, "pour", "pour in the shower", shower_pour(plan), "/survey/correction/cover", None
        )
    )
    return [part for part in parts if abs(part.value) > ROUNDED]


def _former(case: Case) -> list[Segment]:
    words, former, system = case.words, former_of(case.plan.shower), case.plan.system
    (name, field), lower, at = former.measure, former.lower, "/shower/former"
    least = None if system is None else former.least_of(system.former)
    if lower is not None:
        name = "upper lift at the drain"
    more = thicker_at_drain(case.plan, case.surface)
    parts = [
        _part(words, "former", name, former.thickness, f"{at}/{field}", least),
        _part(words, "former", "upper lift, more at the drain", more, "", None),
        _part(words, "packed", "packed up", -former.raised, f"{at}/raised", None),
    ]
    if lower is not None:
        form = bed_form(system)
        own = form.lower.least_thickness if form is not None and form.lower else None
        of, thick = f"{at}/lower", lower.least_thickness
        parts += [
            _part(words, "layer", "membrane between", lower.membrane, f"{of}/membrane", None),
            _part(words, "former", "lower lift at the drain", thick, f"{of}/least_thickness", own),
        ]
    return parts


def _part(
    words: Words,
    code: Code,
    name: str,
    value: float,
    path: str,
    least: float | None,
    *,
    kind: Literal["length", "fall"] = "length",
) -> Segment:
    spare = 0.0 if least is None else max(value - least, 0.0)
    return Segment(
        code=code,
        name=name,
        value=value,
        text=words.length(value),
        path=path,
        kind=kind,
        least=least,
        spare_text=f"{words.length(spare, 'down')} could go" if spare >= words.display.step else "",
    )
