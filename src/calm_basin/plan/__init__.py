"""The plan document: its model, its reader and its JSON Schema."""

from calm_basin.plan.model import Plan, quantities
from calm_basin.plan.reading import PlanError, Problem, plan_from, read_plan

__all__ = ["Plan", "PlanError", "Problem", "plan_from", "quantities", "read_plan"]
