"""Loaded once, in the process that workers are forked from: what a first answer would have to load
and build is there in each of them, before anybody asks."""

from __future__ import annotations

import gc

from calm_basin.core.solve import solve
from calm_basin.demo import demo_plans

# A demo job with a floor that was read and a waste's run: it goes through most of the solver.
solve(demo_plans()[0]).model_dump_json()

# What is loaded stays: neither the workers' collector looks through it nor are its pages copied.
gc.collect()
gc.freeze()
