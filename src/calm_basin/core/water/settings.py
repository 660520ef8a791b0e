"""How floors are made by hand: what can be set for trials."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field


class TrialSettings(BaseModel):
    """How the floors are made. Lengths in mm.

    95 % of places lie within ``tolerance`` of the plan; errors ``correlation`` apart are alike to
    1/e: the length of the trowel or the straightedge. A puddle counts from ``limit`` on.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    tolerance: float = Field(default=2.0, gt=0, le=20)
    correlation: float = Field(default=150.0, ge=50, le=3000)
    limit: float = Field(default=1.0, gt=0, le=20)
    floors: int = Field(default=200, ge=1, le=1000)
    seed: int = Field(default=1, ge=0, le=2**31)
