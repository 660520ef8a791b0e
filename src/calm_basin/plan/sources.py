"""Where a value is from."""

from __future__ import annotations

from calm_basin.plan.base import Name, Part

COMMON = "Common practice, no source"
"""The source of what the trade does and no document states."""


class Stated(Part):
    """What has a source: the document that states it."""

    document: Name
    from_memory: bool = False

    @property
    def source(self) -> str:
        """Whose values these are."""
        return f"{self.document} (from memory)" if self.from_memory else self.document

    @property
    def common(self) -> bool:
        """Whether no product's text states it: it has to be looked up on what is bought."""
        return self.document == COMMON
