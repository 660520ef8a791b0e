"""Made-up jobs that show what the program does."""

from __future__ import annotations

from importlib import resources

from calm_basin.plan import Plan, read_plan


def demo_plans() -> list[Plan]:
    """The demo jobs, in the order in which they are added."""
    files = sorted(resources.files(__name__).iterdir(), key=lambda file: file.name)
    return [read_plan(file.read_bytes()) for file in files if file.name.endswith(".json")]
