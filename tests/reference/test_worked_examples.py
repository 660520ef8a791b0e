"""The main job against figures from outside, through the command line as a script would read it."""

import json
import tempfile
import unittest
from pathlib import Path

from click.testing import CliRunner

from calm_basin.cli import main
from tests.plans import Document, channel, document, moved, point

LIES = [{}, {"turn": 90}, {"turn": 33}, {"mirror": True}, {"mirror": True, "turn": -71, "dx": 900}]


def cli(doc: Document, *options: str) -> Document:
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "plan.json"
        file.write_text(json.dumps(doc), "utf-8")
        result = CliRunner().invoke(main, ["solve", str(file), *options])
    assert result.exit_code == 0, result.output
    return json.loads(result.stdout)


class WorkedExamplesTest(unittest.TestCase):
    """Each holds to 0.1 mm however the plan lies on the paper."""

    def figure(self, solution: Document, name: str, expected: float) -> None:
        self.assertAlmostEqual(solution["figures"][name]["value"], expected, delta=0.05, msg=name)

    def runs(self, solution: Document) -> list[float]:
        return sorted(round(1 / p["gradient"], 1) for p in solution["surface"]["planes"])

    def test_corner_run(self) -> None:
        # 1500 × 900, rim 120 × 120 centred, 1:60: corner run 792.6, D 13.2, end planes 1:52, side
        # planes 1:29.5 (common practice, no source).
        for lie in LIES:
            with self.subTest(**lie):
                solution = cli(moved(document(), **lie))
                self.figure(solution, "drop_at_drain", 13.2)
                self.assertEqual(self.runs(solution), [29.5, 29.5, 52.2, 52.2])
                run = solution["figures"]["drop_at_drain"]["working"]["inputs"][1]["text"]
                self.assertEqual(run, "792.6 mm")

    def test_plane_run(self) -> None:
        # The same over the plane run: 690, D 11.5, side planes 1:34, along the corner line 1:69
        # (common practice, no source).
        for lie in LIES:
            with self.subTest(**lie):
                doc = document(fall={"asked": 1 / 60, "measured": "plane_run"})
                solution = cli(moved(doc, **lie))
                self.figure(solution, "drop_at_drain", 11.5)
                self.assertEqual(self.runs(solution), [33.9, 33.9, 60, 60])
                folds = {round(1 / fold["gradient"]) for fold in solution["surface"]["folds"]}
                self.assertEqual(folds, {69})

    def test_square_floor_that_holds_little(self) -> None:
        # 900 × 900, rim 150, 1:50: D 10.6 (common practice, no source).
        doc = document(
            outline=[[0, 900], [900, 900], [900, 1800], [0, 1800]],
            drain=point(450, 1350, rim=150),
            fall={"asked": 1 / 50},
        )
        self.figure(cli(doc), "drop_at_drain", 10.6)

    def test_tray(self) -> None:
        # Room 10 + 4 + 10, shower 8 + 4 + 1, tray edge 25, flush: recess 14; an 18 deck gives 18,
        # pack 4 (common practice, no source).
        for lie in LIES:
            with self.subTest(**lie):
                doc = document(former={"kind": "tray", "edge_thickness": 25})
                solution = cli(moved(doc, **lie))
                self.figure(solution, "recess_needed", 14)
                self.figure(solution, "recess_available", 18)
                self.figure(solution, "recess_left_to_find", 0)
                packing = [b for b in solution["section"]["bands"] if b["kind"] == "packing"]
                heights = [z for _, z in packing[0]["outline"]]
                self.assertAlmostEqual(max(heights) - min(heights), 4, delta=0.05)

    def test_bed_with_a_channel(self) -> None:
        # Bed 12, channel 70 across the back of a 900 deep shower, 1:48: D 17.3, recess 18.3, an 18
        # deck is 0.3 short (common practice, no source).
        for lie in LIES:
            with self.subTest(**lie):
                doc = document(drain=channel(0, 1765, 1500, 1765), fall={"asked": 1 / 48})
                solution = cli(moved(doc, **lie))
                self.figure(solution, "drop_at_drain", 17.3)
                self.figure(solution, "recess_needed", 18.3)
                self.figure(solution, "recess_left_to_find", 0.3)
                self.assertEqual(solution["findings"][0]["code"], "recess_over_available")

    def test_cut_edge_of_a_fall(self) -> None:
        # 150 mm in from the edge at 1:48 lies 3.1 mm lower (common practice, no source).
        doc = document(drain=channel(0, 1765, 1500, 1765), fall={"asked": 1 / 48})
        solution = cli(doc, "--at", "700,1050", "--at", "9000,0")
        self.assertAlmostEqual(solution["asked"][0]["depth"], 3.1, delta=0.05)
        self.assertIsNone(solution["asked"][1]["depth"])
