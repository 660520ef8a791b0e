"""Lengths and falls: parse what people type, print what people read.

Inside the program a length is a float in millimetres and a fall is rise over run, both without a
unit suffix in their names. Only this module turns either into words.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from fractions import Fraction
from typing import Literal, NamedTuple

LengthUnit = Literal["mm", "cm", "m", "in", "ft"]
FallForm = Literal["ratio", "percent", "in_per_ft", "mm_per_m", "degrees"]
Denominator = Literal[16, 32]
Rounding = Literal["nearest", "up", "down"]

MM_PER_INCH = 25.4
LONGEST = 100_000.0
"""Longest length that is accepted, in mm: no bathroom is 100 m long, a slipped unit is."""

_METRIC = {"mm": 1.0, "cm": 10.0, "m": 1000.0}
_DECIMALS: dict[str, int] = {"mm": 1, "cm": 2, "m": 4}
_VULGAR = {
    "¼": "1/4",
    "½": "1/2",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
}


class UnitError(ValueError):
    """What was typed is not a length or a fall; the message says what would be."""


class Display(NamedTuple):
    """How lengths and falls are printed, and what a bare number that is typed means."""

    length: LengthUnit = "mm"
    fraction: Denominator = 16
    fall: FallForm = "ratio"

    @property
    def imperial(self) -> bool:
        """Whether lengths are shown in inches or in feet and inches."""
        return self.length in ("in", "ft")

    @property
    def step(self) -> float:
        """Smallest length that is shown on site, in mm: 1 mm, or the chosen fraction of an inch."""
        return MM_PER_INCH / self.fraction if self.imperial else 1.0


_NUMBER = r"\d+(?:\.\d+)?|\.\d+"
_MIXED = rf"(?:\d+[ -]+\d+\s*/\s*\d+|\d+\s*/\s*\d+|{_NUMBER})"
_METRIC_TEXT = re.compile(rf"^({_NUMBER})\s*(mm|cm|m|metres?|meters?)$")
_IMPERIAL_TEXT = re.compile(
    rf"^(?:(?P<feet>{_NUMBER})\s*(?:'|ft\.?|feet|foot)\s*-?\s*)?"
    rf"(?:(?P<inches>{_MIXED})\s*(?P<mark>\"|in\.?|inch|inches)?)?$"
)
_BARE = re.compile(rf"^{_MIXED}$")


def _plain(text: str) -> str:
    """Fold the many ways to write quotes, minus signs and fractions into one."""
    for sign, spelled in _VULGAR.items():
        text = re.sub(rf"\s*{sign}", f" {spelled}", text).strip()
    for old, new in (("’", "'"), ("′", "'"), ("”", '"'), ("″", '"'), ("''", '"'), ("−", "-")):
        text = text.replace(old, new)
    return " ".join(text.lower().split())


def _mixed(text: str) -> float:
    total = 0.0
    for part in re.sub(r"\s*/\s*", "/", text).replace("-", " ").split():
        if "/" in part:
            top, bottom = part.split("/")
            if int(bottom) == 0:
                raise UnitError(f"“{part}” divides by zero.")
            total += int(top) / int(bottom)
        else:
            total += float(part)
    return total


def _decimal_comma(text: str) -> str:
    if re.search(r"\d,\d{3}(?!\d)", text):
        raise UnitError(
            f"“{text}” could mean thousands or decimals. Leave the comma out, or use a point."
        )
    return re.sub(r"(\d),(\d)", r"\1.\2", text)


def parse_length(text: str, display: Display = Display()) -> float:  # noqa: B008 (immutable)
    """Read a length as people type it.

    Parameters
    ----------
    text : str
        ``35``, ``3.5 cm``, ``1.2 m``, ``1 3/8``, ``5' 2 3/8"``, ``62 1/2 in``, ``5 ft 2``.
        A bare number is in the display's unit; in feet and inches it is inches.
    display : Display
        Says what a bare number means.

    Returns
    -------
    float
        Millimetres.

    Raises
    ------
    UnitError
        With a message that names what was typed and what would be understood.
    """
    plain = _decimal_comma(_plain(text))
    example = "5' 2 3/8\" or 62 3/8" if display.imperial else "1580, 158 cm or 1.58 m"
    if not plain:
        raise UnitError(f"Nothing is entered. Type a length such as {example}.")
    sign = -1.0 if plain.startswith("-") else 1.0
    body = plain.removeprefix("-").strip()
    if match := _METRIC_TEXT.match(body):
        unit = match[2] if match[2] in _METRIC else "m"
        value = float(match[1]) * _METRIC[unit]
    elif _BARE.match(body):
        value = _mixed(body) * (MM_PER_INCH if display.imperial else _METRIC[display.length])
    elif (match := _IMPERIAL_TEXT.match(body)) and (match["feet"] or match["inches"]):
        inches = _mixed(match["inches"]) if match["inches"] else 0.0
        if match["feet"] and inches >= 12:
            raise UnitError(f"“{text}” has 12 inches or more after the feet. Write them as feet.")
        value = (float(match["feet"] or 0) * 12 + inches) * MM_PER_INCH
    else:
        raise UnitError(f"“{text}” is not a length. Type one such as {example}.")
    if value > LONGEST:
        raise UnitError(f"“{text}” is longer than 100 m. Check the unit.")
    return sign * value


def _rounded(value: float, rounding: Rounding) -> int:
    if rounding == "up":
        return math.ceil(value - 1e-6)
    if rounding == "down":
        return math.floor(value + 1e-6)
    return math.floor(abs(value) + 0.5 + 1e-9) * (1 if value >= 0 else -1)


def _inches(sixteenths: int, denominator: int) -> str:
    whole, rest = divmod(sixteenths, denominator)
    fraction = str(Fraction(rest, denominator)) if rest else ""
    return " ".join(part for part in (str(whole) if whole or not rest else "", fraction) if part)


def format_length(
    value: float,
    display: Display = Display(),  # noqa: B008 (immutable)
    *,
    rounding: Rounding = "nearest",
    unit: bool = True,
) -> str:
    """Print a length in mm in the display's unit, to 0.1 mm or to the chosen fraction.

    ``rounding`` is for figures with a safe side: a recess that is needed is printed ``up``, one
    that is available ``down``. Without ``unit``, metric text has none (``1580``); inch and foot
    marks always stand, they are part of how the number is read.
    """
    if display.imperial:
        count = _rounded(value / MM_PER_INCH * display.fraction, rounding)
        sign = "−" if count < 0 else ""
        feet, rest = divmod(abs(count), 12 * display.fraction)
        if display.length == "in":
            return f'{sign}{_inches(abs(count), display.fraction)}"'
        inches = f'{_inches(rest, display.fraction)}"' if rest or not feet else ""
        return sign + " ".join(part for part in (f"{feet}'" if feet else "", inches) if part)
    decimals = _DECIMALS[display.length]
    count = _rounded(value / _METRIC[display.length] * 10**decimals, rounding)
    number = f"{abs(count) / 10**decimals:.{decimals}f}"
    number = number.rstrip("0").rstrip(".") if "." in number else number
    return f"{'−' if count < 0 else ''}{number}{' ' + display.length if unit else ''}"


_RATIO = re.compile(rf"^1\s*(?::|in)\s*({_NUMBER})$")
_PERCENT = re.compile(rf"^({_NUMBER})\s*%$")
_DEGREES = re.compile(rf"^({_NUMBER})\s*(?:°|deg|degrees?)$")
_PER_FOOT = re.compile(rf"^({_MIXED})\s*(?:\"|in\.?|inch|inches)?\s*(?:/|per)\s*(?:ft\.?|foot)$")
_PER_METRE = re.compile(rf"^({_NUMBER})\s*mm\s*(?:/|per)\s*(?:m|metre|meter)$")


def parse_fall(text: str) -> float:
    """Read a fall: ``1:48``, ``2.1 %``, ``1/4 in per ft``, ``20 mm/m`` or ``1.2°``.

    Returns rise over run. Raises `UnitError` where the form is not plain: a bare ``48`` could be
    a ratio or a percentage, so it is refused.
    """
    plain = _decimal_comma(_plain(text))
    if plain in ("level", "flat"):
        return 0.0
    readings: tuple[tuple[re.Pattern[str], Callable[[float], float]], ...] = (
        (_PERCENT, lambda n: n / 100),
        (_DEGREES, lambda n: math.tan(math.radians(min(n, 89.0)))),
        (_PER_FOOT, lambda n: n / 12),
        (_PER_METRE, lambda n: n / 1000),
    )
    if match := _RATIO.match(plain):
        run = float(match[1])
        if run == 0:
            raise UnitError(f"“{text}” has no run. Type a fall such as 1:48.")
        fall = 1 / run
    else:
        for pattern, reading in readings:
            if match := pattern.match(plain):
                fall = reading(_mixed(match[1]))
                break
        else:
            raise UnitError(
                f"“{text}” is not a fall. Type one such as 1:48, 2.1 % or 1/4 in per ft."
            )
    if fall > 1:
        raise UnitError(f"“{text}” is steeper than 1:1. Check the form.")
    return fall


def _trim(value: float, decimals: int) -> str:
    text = f"{value:.{decimals}f}"
    return text.rstrip("0").rstrip(".") if "." in text else text


def format_fall(fall: float, form: FallForm = "ratio") -> str:
    """Print rise over run in the user's form; no fall at all reads ``level``."""
    if abs(fall) < 1e-7:
        return "level"
    if form == "ratio":
        run = 1 / fall
        return f"1:{_trim(run, 0 if run >= 99.95 else 1)}"
    if form == "percent":
        return f"{_trim(fall * 100, 2)} %"
    if form == "mm_per_m":
        return f"{_trim(fall * 1000, 1)} mm/m"
    if form == "degrees":
        return f"{_trim(math.degrees(math.atan(fall)), 2)}°"
    inches = fall * 12
    count = round(inches * 32)
    if count and abs(inches - count / 32) < 5e-4:
        return f"{_inches(count, 32)} in per ft"
    return f"{_trim(inches, 2)} in per ft"
