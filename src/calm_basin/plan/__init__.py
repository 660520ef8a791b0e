"""The plan document: its model, its reader and its JSON Schema."""

from calm_basin.plan.document import Plan
from calm_basin.plan.quantities import quantities
from calm_basin.plan.reading import PlanError, Problem, plan_from, read_plan

__all__ = ["Plan", "PlanError", "Problem", "plan_from", "quantities", "read_plan"]
