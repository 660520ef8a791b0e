"""Trays and panels: what their makers and their geometry allow."""

from __future__ import annotations

from calm_basin.core.cures import (
    Asked,
    ask_for,
    bed_instead,
    channel_along,
    cut_elsewhere,
    offered,
    pack_tray,
    step_of,
    tray_entry_cut,
)
from calm_basin.core.findings.common import (
    GEOMETRY,
    unmeasured,
)
from calm_basin.core.solution import Change, Cure, Finding
from calm_basin.core.surface import Surface
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.plan.model import PointDrain, SlopePanels, Tray
from calm_basin.rules import RuleSet


def thin_tray(plan: Plan, words: Words, surface: Surface) -> list[Finding]:
    """A tray that is thinner than its own fall."""
    former = plan.shower.former
    drop = surface.drop + surface.edge
    if not isinstance(former, Tray) or former.edge_thickness > drop:
        return []
    flat = plan.shower.fall.asked * former.edge_thickness / drop * 0.5
    return [
        Finding(
            code="tray_too_thin",
            severity="stop",
            title="The tray is thinner than its fall",
            detail=f"Its edge is {words.length(former.edge_thickness)} thick, but the floor drops "
            f"{words.length(drop)} to the drain: nothing is left under it.",
            measured=former.edge_thickness,
            measured_text=words.length(former.edge_thickness),
            limit=drop,
            limit_text=f"more than {words.length(drop)}",
            unit="mm",
            applies_to="the tray",
            source=GEOMETRY,
            field="/shower/former/edge_thickness",
            cures=offered(
                plan,
                [
                    ask_for(words, flat, Asked.of(plan), steeper=False),
                    bed_instead(),
                ],
                lambda mended, floor: (
                    not isinstance(mended.shower.former, Tray)
                    or mended.shower.former.edge_thickness > floor.drop + floor.edge
                ),
            ),
        )
    ]


def tray_cuts(plan: Plan, words: Words) -> list[Finding]:
    """More cut off a side of a tray than its maker allows."""
    former = plan.shower.former
    if not isinstance(former, Tray):
        return []
    far = [cut for cut in former.cuts if cut.width > former.most_cut + 1e-6]
    if not far:
        return []
    worst = max(far, key=lambda cut: cut.width)
    place = former.cuts.index(worst)
    rows = [cut.model_dump(mode="json") for cut in former.cuts]
    rows[place]["width"] = former.most_cut
    return [
        Finding(
            code="tray_cut_too_far",
            severity="stop",
            title=f"{words.length(worst.width)} is cut off the tray's side {worst.edge + 1}",
            detail=f"At most {words.length(former.most_cut)} a side: beyond that the tray's own "
            "build is cut into. Take a smaller tray, or cut the opposite side too. Cut the edge's "
            "rebate anew afterwards.",
            measured=worst.width,
            measured_text=words.length(worst.width),
            limit=former.most_cut,
            limit_text=f"at most {words.length(former.most_cut)}",
            unit="mm",
            applies_to="each side of the tray",
            source="Common practice, no source",
            field=f"/shower/former/cuts/{place}/width",
            cures=(
                Cure(
                    text=f"Take a tray that needs only {words.length(former.most_cut)} cut off",
                    changes=(Change(path="/shower/former/cuts", value=rows),),
                ),
            ),
        )
    ]


def entry_cut(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    """A tray whose entry side was cut, where the step that makes keeps every limit."""
    cut, step = tray_entry_cut(plan), step_of(plan, surface)
    low = step - plan.shower.set_down
    over = any(abs(step) > limit.value + 1e-6 for limit in rules.on("entry_step"))
    if cut <= 0 or low <= 0.05 or over:
        return []
    return [
        Finding(
            code="tray_entry_cut",
            severity="caution",
            title=f"The tray's cut entry edge lies {words.length(low, 'up')} low",
            detail=f"Cutting {words.length(cut)} off its entry side took its high edge away: "
            "fall times cut width. Cut a wall side, where it does no harm. Packing the tray up "
            "helps only where the cut edge is low all along.",
            measured=low,
            measured_text=words.length(low, "up"),
            limit=0.0,
            limit_text="flush as planned",
            unit="mm",
            applies_to="the tray",
            source=GEOMETRY,
            field="/shower/former/cuts",
            cures=offered(
                plan,
                [*cut_elsewhere(plan), pack_tray(plan, words, low)],
                lambda mended, floor: abs(step_of(mended, floor) - mended.shower.set_down) <= 0.05,
            ),
        )
    ]


def panels(plan: Plan, words: Words, surface: Surface) -> list[Finding]:
    """Panels whose own fall or length is not what is asked for."""
    former = plan.shower.former
    if not isinstance(former, SlopePanels):
        return []
    if isinstance(plan.shower.drain, PointDrain):
        return [
            unmeasured(
                "panels_need_channel",
                "stop",
                "Slope panels need a channel",
                "A panel falls one way, and a floor round a point drain falls from every side.",
                applies_to="the slope panels",
                source=GEOMETRY,
                field="/shower/former",
                cures=offered(
                    plan,
                    [channel_along(plan, "back"), bed_instead()],
                    lambda mended, _surface: (
                        not isinstance(mended.shower.drain, PointDrain)
                        or not isinstance(mended.shower.former, SlopePanels)
                    ),
                ),
            )
        ]
    asked = plan.shower.fall.asked
    run = max((facet.run for facet in surface.zone("shower")), default=0.0)
    found = []
    if abs(asked - former.fall) > 1e-3 * asked:
        word = "less" if former.fall < asked else "more"
        found.append(
            Finding(
                code="panel_fall",
                severity="caution",
                title=f"The panels fall {words.fall(former.fall)}, not {words.fall(asked)}",
                detail=f"From {words.length(former.thin_edge)} to "
                f"{words.length(former.thick_edge)} over {words.length(former.length)} is "
                f"{words.fall(former.fall)}: {word} than is asked for. The floor follows the "
                "panels.",
                measured=former.fall,
                measured_text=words.fall(former.fall),
                limit=asked,
                limit_text=f"{words.fall(asked)} asked for",
                unit="rise_per_run",
                applies_to="the slope panels",
                source=GEOMETRY,
                field="/shower/former/thick_edge",
                cures=offered(
                    plan,
                    [
                        Cure(
                            text=f"Ask for the panels' own fall of {words.fall(former.fall)}",
                            changes=(Change(path="/shower/fall/asked", value=former.fall),),
                        )
                    ],
                    lambda _plan, _surface: True,
                ),
            )
        )
    if run > former.length + 1e-6:
        found.append(
            Finding(
                code="panel_short",
                severity="caution",
                title=f"The panels end {words.length(run - former.length)} before the floor does",
                detail=f"The fall runs {words.length(run)}, a panel {words.length(former.length)}. "
                "A second row is packed up by what the first one rises.",
                measured=run,
                measured_text=words.length(run),
                limit=former.length,
                limit_text=f"at most {words.length(former.length)}",
                unit="mm",
                applies_to="the slope panels",
                source=GEOMETRY,
                field="/shower/former/length",
            )
        )
    return found
