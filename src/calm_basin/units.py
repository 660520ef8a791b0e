"""Lengths and falls: parse what people type, print what people read.

Inside the program a length is a float in millimetres and a fall is rise over run, both without a
unit suffix in their names. Only this module turns either into words.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from fractions import Fraction
from functools import lru_cache
from typing import Literal, NamedTuple

LengthUnit = Literal["mm", "cm", "m", "in", "ft"]
FallForm = Literal["ratio", "percent", "in_per_ft", "mm_per_m", "degrees"]
Denominator = Literal[16, 32, 64]
Rounding = Literal["nearest", "up", "down"]

MM_PER_INCH = 25.4

LONGEST = 100_000.0
"""Longest length that is accepted, in mm: no bathroom is 100 m long, a slipped unit is."""

_METRIC = {"mm": 1.0, "cm": 10.0, "m": 1000.0}
_DECIMALS: dict[str, int] = {"mm": 1, "cm": 2, "m": 4}
_VULGAR = {
    sign: f"{top}/{bottom}"
    for sign, top, bottom in (
        ("¼", 1, 4),
        ("½", 1, 2),
        ("¾", 3, 4),
        ("⅛", 1, 8),
        ("⅜", 3, 8),
        ("⅝", 5, 8),
        ("⅞", 7, 8),
        ("⅓", 1, 3),
        ("⅔", 2, 3),
        ("⅙", 1, 6),
        ("⅚", 5, 6),
        ("⅕", 1, 5),
        ("⅖", 2, 5),
        ("⅗", 3, 5),
        ("⅘", 4, 5),
    )
}
MOST_TYPED = 60
"""Longer text is no length and no fall, and is not looked at."""


FINEST = 64
"""No tape parts an inch finer than into so many."""


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


_NUMBER = r"\d+(?:[.,]\d+)*|[.,]\d+"
_FRACTION = r"(?:\d+(?: ?- ?| ))?\d+ ?/ ?\d+"
_MIXED = rf"(?:{_FRACTION}|{_NUMBER})"
_METRIC_TEXT = re.compile(rf"^({_NUMBER}) ?(mm|cm|m|metres?|meters?)$")
_IMPERIAL_TEXT = re.compile(
    rf"^(?:(?P<feet>{_NUMBER}) ?(?:'|ft\.?|feet|foot)(?: ?- ?| )?)?"
    rf"(?:(?P<inches>{_MIXED}) ?(?P<mark>\"|in\.?|inch|inches)?)?$"
)
_FEET_INCHES = re.compile(r"^(\d+) ?- ?(\d+(?: \d+ ?/ ?\d+)?)$")
_BARE_NUMBER, _BARE_FRACTION = re.compile(rf"^(?:{_NUMBER})$"), re.compile(rf"^{_FRACTION}$")


def _plain(text: str) -> str:
    """Fold the many ways to write quotes, minus signs and fractions into one."""
    if len(text) > MOST_TYPED:
        raise UnitError(
            f"“{text[:20]}…” has {len(text)} characters. Type a length or a fall alone."
        )
    for sign, spelled in _VULGAR.items():
        text = text.replace(sign, f" {spelled}")
    for old, new in (
        ("’", "'"),
        ("′", "'"),
        ("”", '"'),
        ("″", '"'),
        ("''", '"'),
        ("−", "-"),
        ("⁄", "/"),
        ("∕", "/"),
    ):
        text = text.replace(old, new)
    return " ".join(text.lower().split())


def _mixed(text: str) -> float:
    """A whole number, a decimal, a fraction or a whole number and a fraction, such as ``1 3/8``."""
    if "/" not in text:
        return _decimal(text)
    *whole, top, bottom = (int(part) for part in re.findall(r"\d+", text))
    if bottom == 0:
        raise UnitError(f"“{text}” divides by zero.")
    if top >= bottom:
        value = Fraction(top, bottom) + (whole[0] if whole else 0)
        readings = [_spelled(value)]
        if not whole and len(str(top)) > 1:
            split = Fraction(int(str(top)[1:]), bottom)
            readings += [_spelled(int(str(top)[0]) + split)] if 0 < split < 1 else []
        ways = " or ".join(dict.fromkeys(readings))
        raise UnitError(f"“{text}” is no plain fraction. Type {ways}, whichever is meant.")
    value = (whole[0] if whole else 0) + Fraction(top, bottom)
    if FINEST % value.denominator:
        near = [_spelled(Fraction(way(value * 16), 16)) for way in (math.floor, math.ceil)]
        raise UnitError(f"“{text}” is on no tape. Type {' or '.join(near)}.")
    return float(value)


def _spelled(value: Fraction) -> str:
    whole, rest = divmod(value, 1)
    return " ".join(str(part) for part in (whole, rest) if part) or "0"


def _decimal(text: str, *, most: float = math.inf, unit: str = "", points: bool = False) -> float:
    """A number that may have a decimal point or comma.

    Three digits behind the only one may be thousands: where that would be no more than ``most`` it
    is refused with both readings. A point is looked at so only with ``points``: nobody parts
    thousands of inches by points.
    """
    marks = [mark for mark in text if mark in ".,"]
    last = max(text.rfind("."), text.rfind(","))
    if not marks:
        return float(text)
    if len(set(marks)) == 2 and marks.count(text[last]) == 1:
        # Both: the last one is the decimal mark, the others part thousands.
        whole = re.sub(r"[.,]", "", text[:last])
        if re.fullmatch(r"\d{1,3}(?:[.,]\d{3})+", text[:last]):
            return float(f"{whole}.{text[last + 1 :]}")
    if len(marks) > 1:
        raise UnitError(f"“{text}” has more than one decimal mark. Type it with one.")
    decimal = float(text.replace(",", "."))
    whole, rest = text[:last], text[last + 1 :]
    thousands = float(whole + rest) if whole else 0.0
    maybe = len(rest) == 3 and 1 <= len(whole) <= 3 and not whole.startswith("0")
    if maybe and thousands <= most and (points or marks == [","]):
        raise UnitError(
            f"“{text}” can be read as {_trim(decimal, 3)}{unit} or as {thousands:.0f}{unit}. "
            "Type the one that is meant, without the mark or with fewer digits behind it."
        )
    return decimal


def parse_length(text: str, display: Display = Display()) -> float:  # noqa: B008 (immutable)
    """Read a length as people type it.

    Parameters
    ----------
    text : str
        ``35``, ``3.5 cm``, ``1.2 m``, ``1 3/8``, ``5' 2 3/8"``, ``62 1/2 in``, ``5 ft 2``, in feet
        and inches ``5-2`` too.
        A bare number is in the display's unit; in feet and inches it is inches. A bare fraction
        is inches everywhere.
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
    plain = _plain(text)
    example = "5' 2 3/8\" or 62 3/8" if display.imperial else "1580, 158 cm or 1.58 m"
    if not plain:
        raise UnitError(f"Nothing is entered. Type a length such as {example}.")
    sign = -1.0 if plain.startswith("-") else 1.0
    body = plain.removeprefix("-").strip()
    bare = "in" if display.imperial else display.length
    if match := _METRIC_TEXT.match(body):
        value = _metric(match[1], match[2] if match[2] in _METRIC else "m")
    elif _BARE_FRACTION.match(body):
        # Nobody writes millimetres in fractions: without a unit they are inches everywhere.
        value = _mixed(body) * MM_PER_INCH
    elif _BARE_NUMBER.match(body):
        value = _inches_of(body) if display.imperial else _metric(body, bare)
    elif display.imperial and (match := _FEET_INCHES.match(body)) and float(match[1]) > 0:
        return sign * parse_length(f"{match[1]}' {match[2]}\"", display)
    elif (match := _IMPERIAL_TEXT.match(body)) and (match["feet"] or match["inches"]):
        feet, inches = match["feet"], match["inches"]
        value = _inches_of(inches) if inches else 0.0
        if feet and value >= 12 * MM_PER_INCH - 1e-9:
            raise UnitError(f"“{text}” has 12 inches or more after the feet. Write them as feet.")
        if feet and inches and not feet.isdigit():
            raise UnitError(
                f"“{text}” has parts of a foot and inches. Type whole feet, or no inches."
            )
        value += _decimal(feet, most=LONGEST / 304.8, unit=" ft") * 12 * MM_PER_INCH if feet else 0
    else:
        raise UnitError(f"“{text}” is not a length. Type one such as {example}.")
    if value > LONGEST:
        raise UnitError(f"“{text}” is longer than 100 m. Check the unit.")
    return sign * value


def _metric(number: str, unit: str) -> float:
    scale = _METRIC[unit]
    return _decimal(number, most=LONGEST / scale, unit=f" {unit}", points=True) * scale


def _inches_of(text: str) -> float:
    if "/" in text:
        return _mixed(text) * MM_PER_INCH
    return _decimal(text, most=LONGEST / MM_PER_INCH, unit=" in") * MM_PER_INCH


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


@lru_cache(maxsize=4096)
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


def format_limit(value: float, display: Display = Display()) -> str:  # noqa: B008 (immutable)
    """Print a limit in mm so that what it allows stays allowed and what it forbids forbidden.

    A limit is never rounded to what is shown on site: it is printed to as many decimals, or to as
    fine a fraction, as it needs, and one that was worked out to 0.01 mm. In inches one that is no
    fraction stands in mm beside the nearest.
    """
    if not display.imperial:
        unit = _METRIC[display.length]
        finest = _DECIMALS[display.length] + 1
        for decimals in range(finest + 3):
            if abs(round(value / unit, decimals) * unit - value) < 1e-6:
                return f"{_trim(value / unit, decimals)} {display.length}"
        return f"{_trim(value / unit, finest)} {display.length}"
    for denominator in (display.fraction, 32, 64):
        part = MM_PER_INCH / denominator
        if abs(round(value / part) * part - value) < 1e-6:
            return format_length(value, display._replace(fraction=denominator))
    nearest = format_length(value, display)
    side = "under" if parse_length(nearest.replace("−", "-"), display) > value else "over"
    return f"{format_limit(value, Display())} (just {side} {nearest})"


_RATIO = re.compile(rf"^1 ?(?::|in) ?({_NUMBER})$")
_AS_RATIO = re.compile(r"^1 ?/ ?(1[0-57-9]|[2-9]\d|\d{3,})$")
_OF_AN_INCH = ("32", "64")
_PERCENT = re.compile(rf"^({_NUMBER}) ?%$")
_DEGREES = re.compile(rf"^({_NUMBER}) ?(?:°|deg|degrees?)$")
_PER_FOOT = re.compile(rf"^({_MIXED}) ?(?:\"|in\.?|inch|inches)? ?(?:/|per) ?(?:ft\.?|foot)$")
_PER_METRE = re.compile(rf"^({_NUMBER}) ?mm ?(?:/|per) ?(?:m|metre|meter)$")


def parse_fall(text: str) -> float:
    """Read a fall: ``1:48``, ``2.1 %``, ``1/4 in per ft``, ``20 mm/m`` or ``1.2°``.

    A bare fraction such as ``1/4`` is inches in the foot, as it is said on site, and ``1/48``, of
    which no rule has a mark, the ratio. Returns rise over run. Raises `UnitError` where the form is
    not plain: a bare ``48`` could be a ratio or a percentage, ``1/32`` inches or a ratio.
    """
    plain = _plain(text)
    if plain in ("level", "flat"):
        return 0.0
    readings: tuple[tuple[re.Pattern[str], Callable[[float], float]], ...] = (
        (_PERCENT, lambda n: n / 100),
        (_DEGREES, lambda n: math.tan(math.radians(min(n, 89.0)))),
        (_PER_FOOT, lambda n: n / 12),
        (_PER_METRE, lambda n: n / 1000),
        (_BARE_FRACTION, lambda n: n / 12),
    )
    slashed = _AS_RATIO.match(plain)
    if slashed and (run := slashed[1]) in _OF_AN_INCH:
        raise UnitError(f"“{text}” may be 1:{run} or inches in the foot. Type 1:{run}.")
    if plain.isdecimal() and int(plain) > 1:
        raise UnitError(f"“{text}” may be 1:{plain} or {plain} %. Type it as one of them.")
    if match := slashed or _RATIO.match(plain):
        ratio = _decimal(match[1])
        if ratio == 0:
            raise UnitError(f"“{text}” has no run. Type a fall such as 1:48.")
        fall = 1 / ratio
    else:
        for pattern, reading in readings:
            if match := pattern.match(plain):
                fall = reading(_mixed(match[1] if match.lastindex else match[0]))
                break
        else:
            raise UnitError(
                f"“{text}” is not a fall. Type one such as 1:48, 2.1 % or 1/4 in per ft."
            )
    if fall > 1:
        raise UnitError(f"“{text}” is steeper than 1:1. Check the form.")
    return fall


def format_fall_limit(fall: float, form: FallForm = "ratio") -> str:
    """Print a limit on falls, rise over run, in the user's form, with its ratio where that form
    would round it."""
    text, ratio = format_fall(fall, form), format_fall(fall)
    if (
        not fall
        or abs(parse_fall(text) / fall - 1) < 1e-6
        or abs(parse_fall(ratio) / fall - 1) > 1e-6
    ):
        return text
    return f"{text} ({ratio})"


def _trim(value: float, decimals: int) -> str:
    text = f"{value:.{decimals}f}"
    return text.rstrip("0").rstrip(".") if "." in text else text


def format_fall(fall: float, form: FallForm = "ratio", finer: int = 0) -> str:
    """Print rise over run in the user's form, with ``finer`` more decimals than is usual; no fall
    at all reads ``level``."""
    if abs(fall) < 1e-7:
        return "level"
    if form == "ratio":
        run = 1 / fall
        usual = 0 if run >= 99.95 else 1 if run >= 1 else 2
        return f"1:{_trim(run, finer + usual)}"
    if form == "percent":
        return f"{_trim(fall * 100, 2 + finer)} %"
    if form == "mm_per_m":
        return f"{_trim(fall * 1000, 1 + finer)} mm/m"
    if form == "degrees":
        return f"{_trim(math.degrees(math.atan(fall)), 2 + finer)}°"
    inches = fall * 12
    count = round(inches * 32)
    if not finer and count and abs(inches - count / 32) < 5e-4:
        return f"{_inches(count, 32)} in per ft"
    return f"{_trim(inches, 2 + finer)} in per ft"


MOST_FINER = 6
"""Falls that agree in so many more decimals than is usual are one."""


@lru_cache(maxsize=1024)
def format_fall_off(fall: float, limit: float, form: FallForm = "ratio") -> str:
    """Print a fall that breaks a limit, both rise over run, so finely that it does not read as the
    limit."""
    bound = format_fall(limit, form)
    texts = (format_fall(fall, form, finer) for finer in range(MOST_FINER))
    # Half an inch in the foot may be printed as a fraction and as decimals.
    return next((text for text in texts if not _same_fall(text, bound)), bound)


def _same_fall(text: str, other: str) -> bool:
    try:
        return parse_fall(text) == parse_fall(other)
    except UnitError:
        return text == other
