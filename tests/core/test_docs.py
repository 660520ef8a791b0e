"""The documentation says what the program does."""

import json
import re
import shlex
import tomllib
import unittest
from pathlib import Path
from typing import ClassVar, get_args

from click.testing import CliRunner

from calm_basin.cli import main
from calm_basin.core.codes import Code
from calm_basin.demo import demo_plans
from calm_basin.formats import wording
from calm_basin.formats.codes import listed
from calm_basin.formats.rules_page import rules_page
from calm_basin.rules import rule_sets
from tests.plans import offering
from tests.sweeps import each

ROOT = Path(__file__).parents[2]
FORMAT = (ROOT / "docs" / "plan-format.md").read_text("utf-8")
README = (ROOT / "README.md").read_text("utf-8")
ARCHITECTURE = (ROOT / "docs" / "architecture.md").read_text("utf-8")


UNSPOKEN = (
    "whoever",
    "is asked",
    "are asked",
    "asked of",
    "comes by",
    "heed",
    "so it is with",
    "such as it is",
    "stands against",
    "take it along",
    "put it into the plan",
    "build it with",
    "in none of",
    "up the plan",
    "on the plan",
    "it will do or not",
    "to stop for",
    "thereof",
    "is advised",
    "asked for",
    "fall asked",
    "in the corridor",
    "the corridor of",
    "follows when",
    "not looked at",
    "its middle",
    "floor beyond",
    "take another",
    "turned round",
    "where the depth",
    "can go",
    "read a file",
    "high to low",
)
"""What no sentence says: the voice has another word for each."""


class PlanFormatTest(unittest.TestCase):
    def test_names_every_field_of_the_documents(self) -> None:
        for name in ("plan", "solution"):
            schema = json.loads(
                (ROOT / "docs" / "schema" / f"{name}.schema.json").read_text("utf-8")
            )
            for field in schema["properties"]:
                self.assertRegex(FORMAT, rf"`{field}\b", f"{name}: {field}")
        figures = schema["$defs"]["Figures"]["properties"]
        for figure in figures:
            self.assertIn(f"`{figure}`", FORMAT)

    def test_names_every_code_of_a_finding(self) -> None:
        self.assertEqual(FORMAT, listed(FORMAT), "docs/plan-format.md is stale: run script/format")
        told = FORMAT.split("Codes of findings:")[1].split("\n\n")[0]
        named = set(re.findall(r"`(\w+)`", told))
        self.assertEqual(named, set(get_args(Code)))
        # None is listed that nothing finds.
        files = (ROOT / "src" / "calm_basin" / "core").rglob("*.py")
        built = "".join(file.read_text("utf-8") for file in files if file.name != "codes.py")
        self.assertEqual([code for code in get_args(Code) if f'"{code}"' not in built], [])
        # What the demo jobs and hard plans find is among them.
        found = {f.code for plan in demo_plans() for f in offering(plan).findings}
        self.assertTrue(found)
        self.assertLessEqual(found, named)

    def test_the_page_of_rules_is_the_one_that_ships(self) -> None:
        page = (ROOT / "docs" / "rules.md").read_text("utf-8")
        self.assertEqual(page, rules_page(), "docs/rules.md is stale: run script/format")
        for rules in rule_sets().values():
            for item in (*rules.limits, *rules.facts):
                self.assertIn(f"| {item.applies_to} |", page)

    def test_the_page_of_sentences_is_that_of_the_code(self) -> None:
        written = (ROOT / "docs" / "wording.md").read_text("utf-8")
        self.assertEqual(written, wording.page(), "docs/wording.md is stale: run script/format")
        # All but a few codes of findings have their sentences beside them: those are put together
        # elsewhere.
        told = set(re.findall(r"`(\w+)`", written))
        self.assertLess(len(set(get_args(Code)) - told), 5)

    def test_no_sentence_has_a_name_of_the_code_in_it(self) -> None:
        said = [
            f"{file}: {text}"
            for file, of in wording.sentences().items()
            for _, text in of
            if re.search(
                r"\b(?!WebP)[A-Z][a-z]+[A-Z]\w* [a-z]|[a-z] (?!WebP)[A-Z][a-z]+[A-Z]", text
            )
        ]
        self.assertEqual(said, [])

    def test_no_sentence_uses_a_word_that_the_voice_has_another_for(self) -> None:
        said = [
            f"{file}: {text}"
            for file, of in wording.sentences().items()
            for _, text in of
            if re.search(rf"(?i)\b({'|'.join(UNSPOKEN)})\b", text)
        ]
        self.assertEqual(said, [])

    def test_names_every_rule_set(self) -> None:
        for name in rule_sets():
            self.assertIn(f"`{name}`", FORMAT)

    def test_its_command_works(self) -> None:
        command = re.findall(r"^    calm-basin (solve src.*)$", FORMAT, re.M)[0]
        words = [str(ROOT / w) if w.startswith("src/") else w for w in shlex.split(command)]
        result = CliRunner().invoke(main, words)
        self.assertEqual(result.exit_code, 0, result.output)
        self.assertIn("Recess needed", result.output)


class SecurityTest(unittest.TestCase):
    def test_each_promise_names_the_tests_that_hold_it(self) -> None:
        page = (ROOT / "docs" / "security.md").read_text("utf-8")
        rows = re.findall(r"^\| \d.*\| (Met.*) \|$", page, re.M)
        self.assertGreater(len(rows), 35)
        there = {
            name
            for file in (ROOT / "tests").rglob("test_*.py")
            for name in re.findall(r"def (test_\w+)", file.read_text("utf-8"))
        }
        for state in rows:
            named = re.findall(r"`(test_\w+)`", state)
            self.assertTrue(named, state)
            self.assertLessEqual(set(named), there)


class GlossaryTest(unittest.TestCase):
    """One word for one thing: where the glossary says, and nowhere else in the core."""

    PACKAGE = ROOT / "src" / "calm_basin"

    def test_every_word_stands_where_it_says(self) -> None:
        page = (ROOT / "docs" / "glossary.md").read_text("utf-8")
        rows = [line for line in page.splitlines() if line.startswith("| ") and ".py`" in line]
        for row in each(rows, least=30):
            path, *names = re.findall(r"`([^`]+)`", row.rsplit("|", 2)[1])
            source = (self.PACKAGE / path).read_text("utf-8")
            for name in names:
                self.assertRegex(source, rf"(?m)^(class {name}\b|{name} ?[:=])", row)

    def test_no_two_classes_of_the_core_have_one_name(self) -> None:
        files = (self.PACKAGE / "core").rglob("*.py")
        named = [
            name
            for file in files
            for name in re.findall(r"(?m)^class ([A-Z]\w*)", file.read_text("utf-8"))
        ]
        twice = {name for name in each(named, least=100) if named.count(name) > 1}
        self.assertEqual(twice, set())


class ReadmeTest(unittest.TestCase):
    def test_every_link_leads_somewhere(self) -> None:
        for text, base in ((README, ROOT), (FORMAT, ROOT / "docs"), (ARCHITECTURE, ROOT / "docs")):
            for target in re.findall(r"\]\(([^)#]+)\)", text):
                self.assertTrue((base / target).exists(), target)

    def test_every_picture_is_linked(self) -> None:
        pictures = list((ROOT / "docs" / "screenshots").glob("*.png"))
        self.assertLess(len(pictures), 20)
        for picture in pictures:
            self.assertIn(picture.name, README)

    def test_every_file_of_the_core_has_its_line(self) -> None:
        # Each file in the lines of its own folder: a name that stands elsewhere is not enough.
        core = ARCHITECTURE.split("  core/\n")[1].split("  store/")[0]
        told: dict[str, list[str]] = {"": []}
        folder = ""
        for line in core.splitlines():
            if match := re.match(r" {4}(\w+)(/|\.py)", line):
                folder = match[1] if match[2] == "/" else ""
            told.setdefault(folder, []).extend(re.findall(r"(?<!\w)[a-z]\w*\.py", line))
        for name, files in told.items():
            there = [file.name for file in (ROOT / "src/calm_basin/core" / name).glob("[a-z]*.py")]
            self.assertEqual(sorted(files), sorted(there), name or "core")


class WhereTest(unittest.TestCase):
    """The lists of files that a change touches, and what keeps them short."""

    MOST: ClassVar[dict[str, int]] = {
        "A key figure": 4,
        "A finding on a new limit": 4,
        "A step with its drawing": 12,
        "A value of the trade": 2,
        "A build system": 1,
        "A former, a drain or what carries them": 4,
        "A file format": 3,
    }

    def test_the_lists_are_short_and_name_files_that_there_are(self) -> None:
        told = ARCHITECTURE.split("## Where a change goes")[1]
        lists = re.findall(r"\*\*([^*]+)\*\*\n((?:- .*\n)+)", told)
        self.assertEqual([name for name, _ in lists], list(self.MOST))
        for name, items in lists:
            files = re.findall(r"`([\w./-]+/[\w.-]+\.\w+)`", items)
            self.assertLessEqual(len(files), self.MOST[name], name)
            for file in files:
                self.assertTrue((ROOT / file).exists(), file)

    def test_a_key_figure_is_named_in_every_file_of_its_list(self) -> None:
        named = {
            str(file.relative_to(ROOT))
            for folder in ("src", "frontend/src", "docs")
            for file in (ROOT / folder).rglob("*.*")
            if file.suffix in (".py", ".ts", ".tsx", ".md")
            and not {"generated", "static"} & set(file.parts)
            and "step_at_entry" in file.read_text("utf-8")
        }
        listed = ARCHITECTURE.split("**A key figure**")[1].split("**A finding")[0]
        self.assertLessEqual(set(re.findall(r"`([\w./-]+/[\w.-]+\.\w+)`", listed)), named)

    def test_what_is_built_in_one_place_is_built_there_only(self) -> None:
        core = ROOT / "src" / "calm_basin" / "core"
        for call, home in (("Finding(", "build.py"), ("Working(", "build.py")):
            homes = {
                file.name
                for file in core.rglob("*.py")
                if re.search(rf"(?<!class )\b{re.escape(call)}", file.read_text("utf-8"))
            }
            self.assertLessEqual(homes, {home, "pipes.py"}, call)
        front = "".join(
            file.read_text("utf-8") for file in (ROOT / "frontend" / "src").rglob("*.ts*")
        )
        self.assertEqual(len(re.findall(r"changes\.reduce\(", front)), 1)

    def test_what_imports_no_words_is_held_to_that(self) -> None:
        project = tomllib.loads((ROOT / "pyproject.toml").read_text("utf-8"))
        contracts = project["tool"]["importlinter"]["contracts"]
        (held,) = (one for one in contracts if one["name"] == "Numbers know no words")
        core = ROOT / "src" / "calm_basin" / "core"
        free = []
        for file in each(core.rglob("[a-z]*.py"), 100):
            name = ".".join(file.relative_to(ROOT / "src").with_suffix("").parts)
            listed = any(f"{name}.".startswith(f"{one}.") for one in held["source_modules"])
            words = r"(?m)^from calm_basin\.core\.(answer|\w+\.result)\b"
            said = re.search(words, file.read_text("utf-8")) or file.parent.name == "answer"
            if not listed and not said:
                free.append(name)
        self.assertEqual(free, [], "list them in pyproject.toml")

    def test_no_room_is_too_large(self) -> None:
        for folder, kind in (("src/calm_basin", "*.py"), ("frontend/src", "*.ts*")):
            for file in (ROOT / folder).rglob(kind):
                if {"generated", "static"} & set(file.parts):
                    continue
                lines = len(file.read_text("utf-8").splitlines())
                self.assertLessEqual(lines, 100 if file.name == "solve.py" else 410, file)


class DemoTest(unittest.TestCase):
    def test_jobs_that_differ(self) -> None:
        plans = demo_plans()
        kinds = {(p.floor.kind, p.shower.drain.kind) for p in plans}
        self.assertEqual(kinds, {("joists", "linear"), ("joists", "point"), ("slab", "point")})
        self.assertGreaterEqual(len({p.rule_set for p in plans}), 3)
        self.assertTrue(any(p.shower.rest for p in plans))
        self.assertTrue(any(p.shower.second_drain for p in plans))
        narrow = next(p for p in plans if p.display.length == "in")
        steep = next(f for f in offering(narrow).findings if f.code == "fall_over_most")
        self.assertEqual(len(steep.places), 2)
