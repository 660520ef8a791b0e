"""The command line: exit codes and errors that a script can use."""

import json
import os
import subprocess
import sys
import unittest

import click
from click.testing import CliRunner, Result

from calm_basin.cli import COMMANDS, main
from tests.core.test_structure import under
from tests.plans import channel, document, point


def run(*options: str, text: str) -> Result:
    return CliRunner().invoke(main, ["solve", "-", *options], input=text)


class SolveCommandTest(unittest.TestCase):
    def test_prints_the_solution(self) -> None:
        result = run(text=json.dumps(document()))
        self.assertEqual(result.exit_code, 0)
        self.assertEqual(json.loads(result.stdout)["format"], "calm-basin-solution")
        self.assertEqual(result.stderr, "")

    def test_prints_for_people(self) -> None:
        result = run("--text", "--at", "750,960", text=json.dumps(document()))
        self.assertIn("Recess needed      14.3 mm", result.stdout)
        self.assertIn("CHECK: ", result.stdout)
        self.assertRegex(result.stdout, r"750,960 +2 mm|750,960 +2")

    def test_works_out_water_and_marks_when_asked(self) -> None:
        result = run("--text", "--with", "water", "--with", "marks", text=json.dumps(document()))
        self.assertIn("Every drop reaches the drain", result.stdout)
        self.assertIn("6.6 L", result.stdout)
        self.assertRegex(result.stdout, r"(?m)^ +pin 2: rim, cut to 16,")
        self.assertIn("Rounding never reverses the fall", result.stdout)
        self.assertNotIn("Water\n", run("--text", text=json.dumps(document())).stdout)
        self.assertEqual(run("--with", "ponds", text="{}").exit_code, 2)

    def test_tells_what_lies_under_the_floor(self) -> None:
        doc = under(document(drain=point(600, 1350)))
        doc["waste"] |= {"stack": [800, 300], "branch": -190}
        result = run("--text", "--check", "--with", "drain_map", text=json.dumps(doc))
        self.assertEqual(result.exit_code, 3)
        self.assertRegex(result.stdout, r"hole +sits on joist \d")
        self.assertIn("Riser: Plain drain with a bonded flange", result.stdout)
        self.assertIn("Places for the drain: No place works on a 25 mm grid", result.stdout)
        self.assertIn("drain_on_timber", run(text=json.dumps(doc)).stdout)
        doc["shower"]["drain"]["centre"] = [800, 1350]
        self.assertIn("The waste gets away", run("--text", text=json.dumps(doc)).stdout)

    def test_refuses_with_the_path_and_the_cure(self) -> None:
        wrong = document()
        wrong["room"]["layers"][0]["thickness"] = -5
        for text, message in [
            (json.dumps(wrong), "calm-basin: /room/layers/0/thickness: −5 mm is too small"),
            (json.dumps(document() | {"version": 99}), "calm-basin: /version:"),
            ("{", "calm-basin: /: The file is not JSON"),
            ("x" * 10_000_000, "calm-basin: /: The file has"),
        ]:
            with self.subTest(message=message):
                result = run(text=text)
                self.assertEqual(result.exit_code, 2)
                self.assertIn(message, result.stderr)
                self.assertEqual(result.stdout, "")

    def test_a_drain_in_the_wall_has_no_solution_but_a_reason(self) -> None:
        result = run(text=json.dumps(document(drain=point(0, 1350))))
        self.assertEqual(result.exit_code, 1)
        self.assertIn("/shower/drain: The drain reaches outside the shower", result.stderr)
        self.assertFalse(json.loads(result.stdout)["complete"])

    def test_check_fails_on_open_stops_only(self) -> None:
        short = document(former={"kind": "bed", "least_thickness": 40})
        self.assertEqual(run(text=json.dumps(short)).exit_code, 0)
        self.assertEqual(run("--check", text=json.dumps(short)).exit_code, 3)
        fine = document(drain=channel(0, 1765, 1500, 1765), fall={"asked": 1 / 48})
        fine["floor"]["deck_thickness"] = 22
        self.assertEqual(run("--check", text=json.dumps(fine)).exit_code, 0)

    def test_places_and_files_that_are_none(self) -> None:
        result = run("--at", "here", text=json.dumps(document()))
        self.assertEqual(result.exit_code, 2)
        self.assertIn("X,Y", result.stderr)
        missing = CliRunner().invoke(main, ["solve", "/nowhere/plan.json"])
        self.assertEqual(missing.exit_code, 2)


def loaded(*modules: str) -> set[str]:
    """What a process of its own has loaded once it has loaded these."""
    lines = [*(f"import {name}" for name in modules), "import sys", "print(*sys.modules)"]
    run = subprocess.run(
        [sys.executable, "-c", "\n".join(lines)], capture_output=True, text=True, check=True
    )
    return set(run.stdout.split())


class StartTest(unittest.TestCase):
    """What starts loads what it needs: the list of commands little, the server no solver."""

    def test_linear_algebra_takes_one_thread(self) -> None:
        """On several it waits for itself where the cores are busy."""
        lines = "import calm_basin, numpy, os", "numpy.ones((400, 400)) @ numpy.ones((400, 400))"
        said = ["-c", "\n".join([*lines, "print(len(os.listdir('/proc/self/task')))"])]
        for threads, expected in (("", 1), ("2", min(2, len(os.sched_getaffinity(0))))):
            given = {"OPENBLAS_NUM_THREADS": threads} if threads else {}
            plain = {k: v for k, v in os.environ.items() if not k.endswith("_NUM_THREADS")}
            run = subprocess.run(
                [sys.executable, *said],
                env=plain | given,
                capture_output=True,
                text=True,
                check=True,
            )
            self.assertEqual(int(run.stdout), expected)

    def test_every_command_says_in_the_list_what_it_says_itself(self) -> None:
        context = click.Context(main)
        for name, (_, _, told) in COMMANDS.items():
            command = main.get_command(context, name)
            assert command is not None and command.help is not None
            said = " ".join(command.help.split("\n\n")[0].split())
            self.assertEqual(said, told, name)
            self.assertEqual(command.name, name)
        listed = CliRunner().invoke(main, ["--help"])
        self.assertEqual(listed.exit_code, 0)
        self.assertIn("Write all jobs with their histories into FILE", listed.stdout)
        unknown = CliRunner().invoke(main, ["ponds"])
        self.assertEqual(unknown.exit_code, 2)
        self.assertIn("ponds", unknown.stderr)

    def test_the_list_of_commands_loads_no_plan_and_no_server(self) -> None:
        self.assertFalse(
            loaded("calm_basin.cli") & {"numpy", "pydantic", "flask", "calm_basin.plan"}
        )

    def test_the_first_page_waits_for_no_plan_and_no_numbers(self) -> None:
        parts = ("app", "server", "work")
        have = loaded("calm_basin.cli.serving", *(f"calm_basin.web.{part}" for part in parts))
        self.assertFalse(have & {"numpy", "pydantic", "calm_basin.plan", "calm_basin.web.api"})

    def test_the_server_leaves_the_solver_to_its_workers(self) -> None:
        have = loaded("calm_basin.cli.serving", "calm_basin.web.api", "calm_basin.web.server")
        self.assertIn("calm_basin.web.heavy", have)
        self.assertFalse(
            have & {"calm_basin.core.solve", "calm_basin.core.falls", "scipy", "reportlab"}
        )

    def test_the_solver_loads_what_few_plans_need_when_they_do(self) -> None:
        have = loaded("calm_basin.core.solve")
        self.assertFalse(have & {"networkx", "scipy.stats", "scipy.optimize", "skimage.morphology"})
