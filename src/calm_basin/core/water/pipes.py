"""The way out: what shower heads give, and what drain and waste pipe can take."""

from __future__ import annotations

from math import pi

from calm_basin.core.answer.result import Input, Working
from calm_basin.core.answer.words import Words
from calm_basin.core.water.result import Capacity
from calm_basin.plan.sources import COMMON
from calm_basin.plan.water import Water
from calm_basin.rules import TRADE
from calm_basin.rules.trade.pipes import Pipe


def flow_of(water: Water) -> float:
    """What all shower heads give together, litres a minute."""
    return sum(head.flow_l_min for head in water.heads)


def full_pipe(diameter: float, fall: float) -> float:
    """Flow in a full round pipe by Manning's formula, litres a minute.

    Parameters
    ----------
    diameter : float
        Inside, mm.
    fall : float
        Rise over run.

    Notes
    -----
    ``v = R^(2/3) S^(1/2) / n`` with the hydraulic radius ``R = d / 4``. Half full it carries half.
    """
    bore = diameter / 1000
    speed = (bore / 4) ** (2 / 3) * fall**0.5 / TRADE.pipes.roughness.value
    return float(speed * pi * bore**2 / 4 * 60_000)


def capacities(given: Water, words: Words, *, table: bool = True) -> tuple[Capacity, ...]:
    """What pipe and drain take, and by the US code's ``table`` may be loaded with, against what the
    heads give."""
    flow, found = flow_of(given), []
    size: Pipe | None = next(
        (p for p in reversed(TRADE.pipes.pipes) if p.bore <= given.pipe_diameter + 2), None
    )
    if size is not None and table:
        found.append(
            _capacity(
                words,
                f"Waste of {size.name}, by the code's table",
                size.most_l_min,
                flow,
                "total flow of all heads that the table allows this pipe",
                [("inside diameter", words.length(given.pipe_diameter))],
                size.source,
                f"{size.note} This is the load that the code allows, not what the drain lets "
                "through. A licensed plumber decides.",
            )
        )
    if size is not None and size.maker_l_min is not None and given.drain_l_min is None:
        outlet = size.name if words.display.imperial else f"{size.bore:g} mm"
        found.append(
            _capacity(
                words,
                f"Drain with an outlet of {outlet}, as makers test it",
                size.maker_l_min,
                flow,
                "what a usual drain of this outlet lets through",
                [("inside diameter", words.length(given.pipe_diameter))],
                COMMON,
                "Type the drain's own figure where its text gives one.",
            )
        )
    half = full_pipe(given.pipe_diameter, given.pipe_fall) / 2
    found.append(
        _capacity(
            words,
            "The pipe, half full",
            half,
            flow,
            "half of R^(2/3) · S^(1/2) / n × area, R = diameter ÷ 4",
            [
                ("inside diameter", words.length(given.pipe_diameter)),
                ("fall S", words.fall(given.pipe_fall)),
                ("roughness n", f"{TRADE.pipes.roughness.value:g}"),
            ],
            f"Manning's formula; n: {TRADE.pipes.roughness.source}",
            "Half full leaves air in the pipe, so that the trap is not sucked empty.",
        )
    )
    if given.drain_l_min is not None:
        found.append(
            _capacity(
                words,
                "Drain and trap",
                given.drain_l_min,
                flow,
                "the drain's own figure",
                [],
                "The product's own text",
                "",
            )
        )
    return tuple(found)


def _capacity(
    words: Words,
    name: str,
    carries: float,
    flow: float,
    formula: str,
    inputs: list[tuple[str, str]],
    source: str,
    note: str,
) -> Capacity:
    return Capacity(
        name=name,
        carries=carries,
        text=words.flow(carries),
        enough=flow <= carries + 1e-9,
        working=Working(
            formula=formula,
            inputs=tuple(Input(name=n, text=t) for n, t in inputs),
            source=source,
            note=note,
        ),
    )
