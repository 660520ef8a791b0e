"""The tests, those first that take longest: what is begun last is then short on every core."""

import unittest
from pathlib import Path

HERE = Path(__file__).parent
PARTS = ("browser", "web", "store", "reference", "core")


def load_tests(
    loader: unittest.TestLoader, _found: unittest.TestSuite, pattern: str | None
) -> unittest.TestSuite:
    """What unittest asks a package for; ``pattern`` is that of its files."""
    return unittest.TestSuite(
        loader.discover(str(HERE / part), pattern or "test*.py", str(HERE.parent)) for part in PARTS
    )
