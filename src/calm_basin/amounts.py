"""What runs, stands and weighs: litres a minute, litres and kilograms, typed and read.

Beside `units`, which does the same for lengths and falls; inside the program all are metric.
"""

from __future__ import annotations

import re

from calm_basin.units import Display, UnitError

GALLON_LITRES = 3.785411784
CUBIC_FOOT_LITRES = 28.316846592
KG_PER_POUND = 0.45359237

_FLOW = re.compile(r"(\d+(?:[.,]\d+)?)\s*(l/min|lpm|gal/min|gpm)?", re.IGNORECASE)


def parse_flow(text: str, display: Display) -> float:
    """Read a flow as people type it: ``9``, ``9 L/min``, ``2.5 gal/min``; a bare number is in the
    display's unit. Returns litres a minute.

    Raises
    ------
    UnitError
        With a message that names what was typed and what would be understood.
    """
    match = _FLOW.fullmatch(text.strip())
    if match is None:
        raise UnitError(f"“{text}” is not a flow. Type one such as 9 L/min or 2.5 gal/min.")
    unit = (match[2] or ("gal/min" if display.imperial else "l/min")).lower()
    return float(match[1].replace(",", ".")) * (GALLON_LITRES if unit.startswith("g") else 1.0)


def format_flow(litres: float, display: Display) -> str:
    """Print litres a minute in the display's unit, without its name."""
    return f"{round(litres / GALLON_LITRES if display.imperial else litres, 2):g}"
