"""Print figures in the plan's display units."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor

from calm_basin.amounts import CUBIC_FOOT_LITRES, GALLON_LITRES, KG_PER_POUND
from calm_basin.plan import Plan
from calm_basin.tolerances import SHARE_ROUNDED, UNSEEN
from calm_basin.units import (
    MM_PER_INCH,
    Display,
    Rounding,
    format_fall,
    format_fall_limit,
    format_fall_off,
    format_length,
    format_limit,
)


@dataclass(frozen=True)
class Words:
    """Prints lengths and falls the way the plan asks."""

    display: Display

    @classmethod
    def of(cls, plan: Plan) -> Words:
        return cls(plan.display.shown)

    def length(self, value: float, rounding: Rounding = "nearest") -> str:
        return format_length(value, self.display, rounding=rounding)

    def fall(self, value: float) -> str:
        return format_fall(value, self.display.fall)

    def fall_off(self, value: float, limit: float) -> str:
        """A fall that breaks a limit: never printed as the limit itself."""
        return format_fall_off(value, limit, self.display.fall)

    def limit(self, value: float) -> str:
        """A length that something is held against: never rounded to the wrong side."""
        return format_limit(value, self.display)

    def fall_limit(self, value: float) -> str:
        """A fall that planes are held against, likewise."""
        return format_fall_limit(value, self.display.fall)

    def bare(self, value: float) -> str:
        """A length without the name of its metric unit, for figures on a drawing."""
        return format_length(value, self.display, unit=False)

    def up(self, value: float) -> float:
        """A length, mm, rounded up to what is shown on site."""
        return ceil(value / self.display.step - SHARE_ROUNDED) * self.display.step

    def down(self, value: float) -> float:
        """A length, mm, rounded down to what is shown on site."""
        return floor(value / self.display.step + SHARE_ROUNDED) * self.display.step

    def step(self, down: float) -> str:
        """A step, mm, with its way as one who walks in meets it."""
        if abs(down) <= UNSEEN:
            return "flush"
        return f"{self.length(abs(down), 'up')} {'down' if down > 0 else 'up'}"

    def spare(self, left: float) -> str:
        """How much of a depth, mm, is over, or below 0 short."""
        if abs(left) < self.display.step / 2:
            return "just enough" if left >= -1e-6 else f"{self.length(-left, 'up')} short"
        return (
            f"{self.length(left, 'down')} over" if left > 0 else f"{self.length(-left, 'up')} short"
        )

    def run(self, length: float) -> str:
        """How much of what is sold by the metre, mm: in metres or feet; what is short, exactly."""
        if length < (304.8 if self.display.imperial else 1e3):
            return self.length(length, "up")
        if self.display.imperial:
            return f"{length / 304.8:.1f} ft"
        return f"{length / 1e3:.1f} m"

    def area(self, square: float) -> str:
        """An area, mm², in the units of the display."""
        if self.display.imperial:
            return f"{square / 304.8**2:.1f} sq ft"
        return f"{square / 1e6:.2f} m²"

    def patch(self, square: float) -> str:
        """A small area, mm²."""
        if square >= 1e5:
            return self.area(square)
        if self.display.imperial:
            return f"{square / MM_PER_INCH**2:.0f} sq in"
        return f"{square / 100:.0f} cm²"

    def volume(self, litres: float, decimals: int = 1) -> str:
        if self.display.imperial:
            return f"{litres / GALLON_LITRES:.{decimals}f} gal"
        return f"{litres:.{decimals}f} L"

    def bulk(self, litres: float, decimals: int = 0) -> str:
        """How much of what is solid."""
        if self.display.imperial:
            return f"{litres / CUBIC_FOOT_LITRES:.1f} cu ft"
        return f"{litres:.{decimals}f} L"

    def flow(self, litres: float) -> str:
        """What runs in a minute, litres."""
        if self.display.imperial:
            return f"{litres / GALLON_LITRES:.1f} gal/min"
        return f"{round(litres, 0 if litres >= 20 else 1):g} L/min"

    def weight(self, kilograms: float, decimals: int = 0) -> str:
        if self.display.imperial:
            return f"{kilograms / KG_PER_POUND:.{decimals}f} lb"
        return f"{kilograms:.{decimals}f} kg"

    def move(self, dx: float, dy: float) -> str:
        """A displacement on plan, such as ``38 mm left and 20 mm up the drawing``."""
        parts = []
        for distance, ways in (
            (dx, ("right", "left")),
            (dy, ("up the drawing", "down the drawing")),
        ):
            if abs(distance) >= self.display.step / 2:
                parts.append(f"{self.length(abs(distance))} {ways[0] if distance > 0 else ways[1]}")
        return " and ".join(parts)
