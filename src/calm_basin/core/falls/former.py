"""Trays and panels: what their makers and their geometry allow."""

from __future__ import annotations

from calm_basin.core.answer.build import GEOMETRY, broken, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.falls.cures import (
    Asked,
    ask_for,
    bed_instead,
    cut_elsewhere,
    pack_tray,
    thicker_panels,
    tray_entry_cut,
)
from calm_basin.core.falls.drains import channel_along
from calm_basin.core.falls.step import step_of
from calm_basin.core.geometry.surface import Surface
from calm_basin.plan.shower import PointDrain, SlopePanels, Tray


def own_fall(former: Tray, surface: Surface) -> float:
    """How far a tray falls from its edge to the drain, mm: packing it up changes nothing of it."""
    return surface.drop + surface.edge + former.raised


def thin_tray(case: Case) -> list[Found]:
    """A tray that is thinner than its own fall."""
    plan, words = case.plan, case.words
    former = plan.shower.former
    if not isinstance(former, Tray):
        return []
    fall = own_fall(former, case.surface)
    if former.edge_thickness > fall:
        return []
    flat = plan.shower.fall.asked * former.edge_thickness / fall * 0.5
    finding = broken(
        words,
        code="tray_too_thin",
        severity="stop",
        title="The tray is thinner than its fall",
        detail=f"Its edge is {words.length(former.edge_thickness)} thick, but the floor drops "
        f"{words.length(fall)} to the drain: nothing is left under it. Packing it up does not make "
        "it thicker.",
        value=former.edge_thickness,
        shown=words.length(former.edge_thickness, "down"),
        limit=fall,
        asked=f"more than {words.limit(fall)}",
        applies_to="the tray",
        source=GEOMETRY,
        field="/shower/former/edge_thickness",
    )
    return [
        Found(
            finding,
            lambda: [ask_for(words, flat, Asked.of(plan), steeper=False), bed_instead()],
        )
    ]


def tray_cuts(case: Case) -> list[Found]:
    """More cut off a side of a tray than its maker allows."""
    words, former = case.words, case.plan.shower.former
    if not isinstance(former, Tray):
        return []
    far = [cut for cut in former.cuts if cut.width > former.most_cut + 1e-6]
    if not far:
        return []
    worst = max(far, key=lambda cut: cut.width)
    place = former.cuts.index(worst)
    rows = [cut.model_dump(mode="json") for cut in former.cuts]
    for row in rows:
        row["width"] = min(row["width"], former.most_cut)
    finding = broken(
        words,
        code="tray_cut_too_far",
        severity="stop",
        title=f"{words.length(worst.width)} is cut off the tray's side {worst.edge + 1}",
        detail=f"At most {words.limit(former.most_cut)} a side: beyond that the tray's own "
        "build is cut into. Take a smaller tray, or cut the opposite side too. Cut the edge's "
        "rebate anew afterwards.",
        value=worst.width,
        limit=former.most_cut,
        applies_to="each side of the tray",
        source="Common practice, no source",
        field=f"/shower/former/cuts/{place}/width",
    )
    smaller = Cure(
        text=f"Take a tray that needs only {words.length(former.most_cut, 'down')} cut off",
        changes=(Change(path="/shower/former/cuts", value=rows),),
    )
    return [Found(finding, lambda: [smaller])]


def entry_cut(case: Case) -> list[Found]:
    """A tray whose entry side was cut, where the step that makes keeps every limit."""
    plan, words = case.plan, case.words
    cut = tray_entry_cut(plan)
    if cut <= 0:
        return []
    step = step_of(plan, case.surface)
    low = step - plan.shower.set_down
    over = any(abs(step) > limit.value + 1e-6 for limit in case.rules.on("entry_step"))
    if low <= 0.05 or over:
        return []
    finding = broken(
        words,
        code="tray_entry_cut",
        severity="caution",
        title=f"The tray's cut entry edge lies {words.length(low, 'up')} low",
        detail=f"Cutting {words.length(cut)} off its entry side took its high edge away: "
        "fall times cut width. Cut a wall side, where it does no harm. Packing the tray up "
        "helps only where the cut edge is low all along.",
        value=low,
        limit=0.0,
        asked="flush as planned",
        applies_to="the tray",
        source=GEOMETRY,
        field="/shower/former/cuts",
    )
    return [Found(finding, lambda: [*cut_elsewhere(plan), pack_tray(plan, words, low)])]


def panels(case: Case) -> list[Found]:
    """Panels whose own fall or length is not what is asked for."""
    plan, words, former = case.plan, case.words, case.plan.shower.former
    if not isinstance(former, SlopePanels):
        return []
    if isinstance(plan.shower.drain, PointDrain):
        finding = unmeasured(
            "panels_need_channel",
            "stop",
            "Slope panels need a channel",
            "A panel falls one way, and a floor round a point drain falls from every side.",
            applies_to="the slope panels",
            source=GEOMETRY,
            field="/shower/former",
        )
        return [Found(finding, lambda: [channel_along(plan, "back"), bed_instead()])]
    asked = plan.shower.fall.asked
    run = max((facet.run for facet in case.surface.zone("shower")), default=0.0)
    found = []
    if abs(asked - former.fall) > 1e-3 * asked:
        word = "less" if former.fall < asked else "more"
        finding = broken(
            words,
            code="panel_fall",
            severity="caution",
            title=f"The panels fall {words.fall(former.fall)}, not {words.fall(asked)}",
            detail=f"From {words.length(former.thin_edge)} to "
            f"{words.length(former.thick_edge)} over {words.length(former.length)} is "
            f"{words.fall(former.fall)}: {word} than is asked for. The floor follows the "
            "panels, and every figure here is worked out for them.",
            value=former.fall,
            limit=asked,
            asked=f"{words.fall(asked)} asked for",
            unit="rise_per_run",
            applies_to="the slope panels",
            source=GEOMETRY,
            field="/shower/former/thick_edge",
        )
        as_they_are = Cure(
            text=f"Ask for the panels' own fall of {words.fall(former.fall)}",
            changes=(Change(path="/shower/fall/asked", value=former.fall),),
        )
        found.append(Found(finding, lambda: [as_they_are, thicker_panels(plan, words, asked)]))
    if run > former.length + 1e-6:
        finding = broken(
            words,
            code="panel_short",
            severity="caution",
            title=f"The panels end {words.length(run - former.length, 'up')} before the floor does",
            detail=f"The fall runs {words.length(run)}, a panel {words.length(former.length)}. "
            "A second row is packed up by what the first one rises.",
            value=run,
            limit=former.length,
            applies_to="the slope panels",
            source=GEOMETRY,
            field="/shower/former/length",
        )
        found.append(Found(finding))
    return found
