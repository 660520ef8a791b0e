"""What a cable takes: power, load, current, and the resistance that is read three times."""

from __future__ import annotations

from calm_basin.core.answer.build import figure
from calm_basin.core.answer.result import Figure
from calm_basin.core.answer.words import Words
from calm_basin.plan.heating import Heating
from calm_basin.rules import TRADE

LABEL = "By the cable's own label"


def electric(
    words: Words, cable: Heating, per: float, formula: str, over: tuple[str, str]
) -> tuple[Figure, ...]:
    """The figures of a cable or mat, a metre of which heats a width of ``per``, mm."""
    power = cable.watts_a_metre * cable.length / 1e3
    load, ohm = cable.watts_a_metre / (per / 1e3), cable.volts**2 / power
    tolerance = TRADE.site_tests.cable_tolerance
    share = tolerance.value / 100
    length = ("length", words.run(cable.length))
    return (
        figure(
            "Power",
            power,
            f"{power:.0f} W",
            "power a metre × length",
            [("power a metre", f"{cable.watts_a_metre:g} W"), length],
            source=LABEL,
            unit="watt",
        ),
        figure(
            "Load per area",
            load,
            _load(words, load),
            formula,
            [("power a metre", f"{cable.watts_a_metre:g} W"), over],
            source="Arithmetic",
            unit="watt_per_square_metre",
            note="Hold it against the cable's own text for the floor that it lies on.",
        ),
        figure(
            "Current",
            power / cable.volts,
            f"{power / cable.volts:.2f} A",
            "power ÷ voltage",
            [("power", f"{power:.0f} W"), ("voltage", f"{cable.volts:g} V")],
            source="Ohm's law",
            unit="ampere",
        ),
        figure(
            "Resistance, read three times",
            ohm,
            f"{ohm * (1 - share):.1f} to {ohm * (1 + share):.1f} Ω",
            f"voltage² ÷ power, ± {tolerance.value:g} %",
            [("voltage", f"{cable.volts:g} V"), ("power", f"{power:.0f} W")],
            source=tolerance.source,
            unit="ohm",
            note=tolerance.note,
        ),
    )


def _load(words: Words, load: float) -> str:
    if words.display.imperial:
        return f"{load * 0.3048**2:.1f} W/sq ft"
    return f"{load:.0f} W/m²"
