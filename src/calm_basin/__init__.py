"""Calm Basin: plans curbless showers and wet rooms before any build starts."""

import os

# Matrices are small here, and all cores are at work: on several threads linear algebra only waits
# for itself, for seconds where the machine is busy. Read once, when numpy is first loaded.
for _name in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "MKL_NUM_THREADS"):
    os.environ.setdefault(_name, "1")

__version__ = "0.1.0"
