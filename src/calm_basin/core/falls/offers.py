"""The ways in which a shower's floor can fall."""

from __future__ import annotations

from calm_basin.core.answer.result import Change
from calm_basin.core.falls.drains import (
    ChannelSide,
    channel_at,
    drain_put,
    middle_drain,
    pair_for,
    put_pair,
    with_family,
)
from calm_basin.core.falls.result import Arrangement
from calm_basin.core.kinds import drain_kind
from calm_basin.plan import Plan


def arrangements(plan: Plan) -> tuple[Arrangement, ...]:
    """The ways in which this shower's floor can fall: about a point, two, or along a channel."""
    shower = plan.shower
    point = drain_kind(shower.drain).point is not None
    one = point and shower.second_drain is None
    even = shower.fall.edge == "even"
    there = shower.drain if point else middle_drain(shower)
    alone = with_family(plan, there, (drain_put("second_drain", None), drain_put("drain", there)))
    found = [
        Arrangement(
            code="point",
            label="Point, level edge",
            chosen=one and not even,
            changes=(*alone, Change(path="/shower/fall/edge", value="level")),
        )
    ]
    if shower.rest is None or shower.rest.walls == "rising":
        changes = (*alone, Change(path="/shower/fall/edge", value="even"))
        found.append(
            Arrangement(code="even", label="Point, even fall", chosen=one and even, changes=changes)
        )
    pair = pair_for(shower)
    if shower.second_drain is not None or pair is not None:
        found.append(
            Arrangement(
                code="two",
                label="Two drains",
                chosen=shower.second_drain is not None,
                changes=put_pair(plan, pair) if pair else (),
            )
        )
    if shower.rest is not None and shower.rest.walls == "level":
        return tuple(found)
    sides: tuple[tuple[ChannelSide, str], ...] = (
        ("back", "Channel at the back"),
        ("left", "Channel on the left"),
        ("right", "Channel on the right"),
        ("middle", "Channel in the middle"),
        ("entry", "Channel at the entry"),
    )
    for code, label in sides:
        channel = channel_at(shower, code)
        if channel is not None:
            found.append(
                Arrangement(
                    code=code,
                    label=label,
                    chosen=channel == shower.drain,
                    changes=with_family(
                        plan,
                        channel,
                        (drain_put("second_drain", None), drain_put("drain", channel)),
                    ),
                )
            )
    return tuple(found)
