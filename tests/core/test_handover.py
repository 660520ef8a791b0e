"""What is handed over: what is open is told in bold, and the record says what the log says."""

import io
import re
import tempfile
import unittest
from pathlib import Path
from typing import Any

import pypdf

from calm_basin.core.answer.words import Words
from calm_basin.core.as_built.answer import as_built
from calm_basin.core.falls import surface_of
from calm_basin.core.site_log.forms import TITLES
from calm_basin.core.site_log.handover import Handover, handover, levels_of
from calm_basin.core.site_log.typed import lines_of, read_entry
from calm_basin.core.site_log.verdict import judged
from calm_basin.formats.record import Recorded, write_record
from calm_basin.plan import plan_from
from calm_basin.rules import chosen_rules
from tests.pictures import picture
from tests.plans import answered, document
from tests.sweeps import each, sweep

PLAN = plan_from(document())
WORDS, RULES = Words.of(PLAN), chosen_rules(PLAN)
DAYS = answered(PLAN, parts=("days",)).days

Body = dict[str, Any]


def body(kind: str, by: str = "AB", at: str = "2026-12-07T09:00", **typed: str) -> Body:
    """An entry as the server writes it."""
    entry = read_entry(kind, typed, WORDS)
    return {
        "kind": kind,
        "title": TITLES[kind],
        "by": by,
        "at": at,
        "values": entry.model_dump(mode="json"),
        "lines": [list(line) for line in lines_of(entry, PLAN.room.outline, WORDS)],
        "verdict": judged(entry, PLAN, RULES, WORDS).model_dump(mode="json"),
    }


def numbered(*bodies: Body) -> list[tuple[int, Body]]:
    return list(enumerate(bodies, start=1))


def of(*bodies: Body) -> Handover:
    return handover(DAYS, numbered(*bodies))


FLOOD = {"hours": "24", "first": "40", "moist_before": "8", "moist_after": "8"}


class OpenTest(unittest.TestCase):
    def test_a_hold_point_is_open_until_it_is_signed_in_the_log_or_in_the_days(self) -> None:
        names = [hold.name for hold in each(of().holds, least=3)]
        self.assertEqual(len(of().open), len(names))
        signed = of(body("hold", "RT", task=f"  {names[0].upper()} "))
        self.assertEqual((signed.holds[0].by, signed.holds[0].entry), ("RT", 1))
        self.assertEqual(len(signed.open), len(names) - 1)
        more = of(body("hold", task="customer chose the grate"))
        self.assertEqual(len(more.holds), len(names) + 1)
        self.assertEqual(more.holds[-1].by, "AB")

    def test_what_failed_is_open_until_a_later_one_of_its_kind_and_place_holds(self) -> None:
        bad = body("flood", closed_by="plug", last="30", **FLOOD)
        good = body("flood", closed_by="plug", last="39", **FLOOD)
        self.assertEqual((bad["verdict"]["state"], good["verdict"]["state"]), ("fails", "holds"))
        self.assertEqual([one.entry for one in of(bad).failing], [1])
        self.assertEqual(of(bad, good).failing, ())
        self.assertEqual([one.entry for one in of(good, bad).failing], [2])
        wet = body("moisture", where="bed", reading="9", limit="5")
        dry = body("moisture", where="wall", reading="3", limit="5")
        self.assertEqual([one.entry for one in of(wet, dry).failing], [1])
        self.assertEqual(
            of(wet, body("moisture", where=" Bed", reading="3", limit="5")).failing, ()
        )

    def test_an_entry_that_was_corrected_counts_no_more(self) -> None:
        bad = body("flood", closed_by="plug", last="30", **FLOOD)
        self.assertEqual(of(bad, body("correction", entry="1", right="it was 39")).failing, ())
        wrong = body("levels", layer="tile", readings="300 1200 -5\n600 1300 -6\n900 1700 -4")
        self.assertEqual(len(levels_of(numbered(wrong), "tile")), 1)
        mended = numbered(wrong, body("correction", entry="1", right="the staff was upside down"))
        self.assertEqual(levels_of(mended, "tile"), [])
        self.assertEqual(levels_of(numbered(wrong), "bed"), [])

    def test_trades_are_named_and_who_is_missing(self) -> None:
        told = of(body("trade", role="plumber", name="K. Marsh", licence="P 7", what="the trap"))
        self.assertEqual([one.name for one in told.trades], ["K. Marsh"])
        self.assertEqual(told.missing, ("engineer", "electrician"))
        self.assertGreater(len(told.care), 4)


def text_of(made: bytes) -> str:
    pages = pypdf.PdfReader(io.BytesIO(made)).pages
    return re.sub(r"\s+", " ", " ".join(page.extract_text() for page in pages))


class RecordTest(unittest.TestCase):
    def recorded(self, entries: list[tuple[int, Body]], **photos: Path) -> Recorded:
        surface = surface_of(PLAN)
        built = [
            as_built(PLAN, RULES, WORDS, surface, "tile", sets[0].heights, 1.0)
            for sets in [levels_of(entries, "tile")]
            if sets
        ]
        seal = "ab" * 32 if entries else ""
        return Recorded(entries, seal, [], handover(DAYS, entries), built, photos)

    @sweep
    def test_it_says_all_that_the_log_says(self) -> None:
        solution = answered(PLAN, parts=("days",))
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "one"
            file.write_bytes(picture(size=(900, 600)))
            shown = body("photo", shows="riser in its hole", place="400 1200")
            shown["photo"] = {"hash": "f" * 64, "media": "image/jpeg", "size": 1}
            gone = body("photo", shows="the same, sealed", before="5")
            gone["photo"] = {"hash": "e" * 64, "media": "image/jpeg", "size": 1}
            entries = numbered(
                body("flood", closed_by="plug", last="30", **FLOOD),
                body("hold", "RT", task="Leak test of the waste"),
                body("change", what="bed 3 mm thicker", reason="riser too high"),
                body("trade", role="engineer", name="L. Fenn", what="let the joist be cut"),
                shown,
                gone,
                body("levels", layer="tile", readings="300 1200 -5\n600 1300 -6\n900 1700 -4"),
            )
            recorded = self.recorded(entries, **{"f" * 64: file})
            for paper in ("a4", "letter", "a3"):
                made = write_record(PLAN, solution, recorded, paper=paper, made="30 November 2026")
                told = text_of(made)
                for said in (
                    "Record of the work",
                    "Entry 1, Flood test of the floor: Water is lost",
                    "DOES NOT HOLD: Water is lost",
                    "Hold point not signed",
                    "bed 3 mm thicker",
                    "riser too high",
                    "L. Fenn",
                    "let the joist be cut",
                    "riser in its hole",
                    "after entry 5",
                    "The photo is gone.",
                    "The floor as built",
                    "Tile:",
                    "Care of the floor",
                    "ab" * 32,
                    "calm-basin verify",
                ):
                    self.assertIn(said, told, paper)
                images = sum(len(p.images) for p in pypdf.PdfReader(io.BytesIO(made)).pages)
                self.assertEqual(images, 1)
        self.assertIn("1 of ", told)

    def test_without_a_log_it_says_so_and_has_no_seal(self) -> None:
        made = write_record(PLAN, answered(PLAN, parts=("days",)), self.recorded([]))
        told = text_of(made)
        self.assertIn("nothing is written down", told)
        self.assertNotIn("Tests and readings", told)

    def test_a_log_that_was_changed_is_told_first(self) -> None:
        recorded = self.recorded(numbered(body("note", note="dry")))
        changed = recorded._replace(broken=["Entry 1 was changed after it was written."])
        told = text_of(write_record(PLAN, answered(PLAN, parts=("days",)), changed))
        at = told.index("The log is not what it was")
        self.assertLess(at, told.index("Open when this record was made"))
