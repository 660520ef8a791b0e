"""A few of what can be thrown by the thousand."""

import unittest

from tests.siege import files, kills, requests
from tests.sweeps import some, sweep


class SiegeTest(unittest.TestCase):
    def test_killed_at_any_moment_what_was_told_is_there(self) -> None:
        seen = kills.killed(some(40))
        self.assertGreater(seen["saves"], 0)

    @sweep
    def test_spoilt_files_are_taken_or_named(self) -> None:
        seen = files.read_all(400)
        for name in ("plan", "job", "rules", "csv", "backup", "drain family", "build system"):
            self.assertGreater(seen[f"{name} refused"] + seen[f"{name} taken"], 40)
        self.assertGreater(sum(n for what, n in seen.items() if "refused" in what), 200)

    @sweep
    def test_requests_by_chance_are_answered(self) -> None:
        seen = requests.thrown(600)
        self.assertGreater(seen["422"], 50)
        self.assertGreater(seen["200"], 50)
