"""Cells of a table that other people's programs open."""

from __future__ import annotations

FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""What a spreadsheet takes for the beginning of a formula (OWASP, CSV injection)."""


def plain(cell: str) -> str:
    """A cell as text, also where a spreadsheet would work it out."""
    return f"'{cell}" if cell.startswith(FORMULA) else cell
