"""Dates as people read them."""

from __future__ import annotations

from datetime import date

MONTHS = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)


def format_date(day: date) -> str:
    """A date that is read in one way everywhere, such as ``25 November 2026``."""
    return f"{day.day} {MONTHS[day.month - 1]} {day.year}"
