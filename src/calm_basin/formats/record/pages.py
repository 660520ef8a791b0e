"""The pages of the record, in the order in which they are read."""

from __future__ import annotations

import io
from collections.abc import Callable, Mapping
from functools import partial
from pathlib import Path
from typing import Any

from PIL import Image as Picture
from reportlab.graphics.barcode.qr import QrCodeWidget
from reportlab.graphics.shapes import Drawing
from reportlab.lib.units import mm
from reportlab.platypus import Image, KeepTogether, Spacer, Table

from calm_basin.core.as_built.result import AsBuilt
from calm_basin.formats.record.data import Recorded
from calm_basin.formats.sheet.floor_plan import FLOOR_PLAN
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.section import SECTION
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text
from calm_basin.formats.sheet.texts import FIGURES, shares

CODE = 34 * mm
"""The side of the code with the seal."""

WIDEST = 900
"""Photos are printed from so many pixels across."""

STATES = {"holds": "holds", "fails": "DOES NOT HOLD", "open": "OPEN"}


def pages_of(recorded: Recorded) -> list[Page]:
    """The pages; one that there is nothing for is left out."""
    made: tuple[tuple[str, str, Callable[[Recorded, Sheet], list[Any]]], ...] = (
        ("record", "Record of the work", _front),
        ("holds", "Hold points", _holds),
        ("built", "The floor as built", _built),
        ("tests", "Tests and readings", _tests),
        ("changes", "Changes from the plan", _changes),
        ("trades", "Licensed trades", _trades),
        ("photos", "Photos", _photos),
        ("care", "Care of the floor", _care),
    )
    own = [
        Page(name, title, partial(story, recorded), whole=name == "record")
        for name, title, story in made
    ]
    return [own[0], FLOOR_PLAN, SECTION, FIGURES, *own[1:]]


def _front(recorded: Recorded, sheet: Sheet) -> list[Any]:
    """What is open, in bold, and the seal."""
    told = recorded.handover
    lines: list[Any] = []
    if recorded.broken:
        lines += [text("The log is not what it was:", STRONG)]
        lines += [text(f"• {line}", STRONG) for line in recorded.broken]
    if told.open:
        lines += [text("Open when this record was made:", STRONG)]
        lines += [text(f"• {line}", STRONG) for line in told.open]
    else:
        lines += [text("Every hold point is signed, and every test that was written down holds.")]
    count = len(recorded.entries)
    many = f"{count} entries" if count != 1 else "1 entry"
    seal = recorded.seal or "none: nothing is written down"
    lines += [
        Spacer(1, 8),
        text(f"Site log: {many}, each bound to the one before it. Seal of the last:", STRONG),
        text(seal),
        text(
            "Anybody who has the zip of this record can check it without a server: calm-basin "
            f"verify FILE --seal {recorded.seal[:12] or '…'}",
            SMALL,
        ),
        text(
            "What was planned follows from the plan; local code, the inspector and each product's "
            "own text come first. Structure is an engineer's, connections are licensed trades'.",
            SMALL,
        ),
    ]
    if not recorded.seal:
        return lines
    code = Drawing(CODE, CODE)
    widget = QrCodeWidget(f"calm-basin seal {recorded.seal}", barWidth=CODE, barHeight=CODE)
    code.add(widget)
    beside = Table([[lines, code]], colWidths=[sheet.width - CODE - 12, CODE + 12])
    beside.setStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (0, 0), 0)])
    return [beside]


def _holds(recorded: Recorded, sheet: Sheet) -> list[Any]:
    holds = recorded.handover.holds
    if not holds:
        return []
    rows: list[list[Any]] = [["Hold point", "Signed by", "When", "Entry"]]
    for hold in holds:
        if hold.by:
            entry = str(hold.entry) if hold.entry else "in the days"
            rows.append([hold.name, hold.by, _when(hold.at), entry])
        else:
            rows.append([text(hold.name, STRONG), text("OPEN", STRONG), "", ""])
    return [table(rows, shares(sheet, 0.46, 0.2, 0.22, 0.12))]


def _built(recorded: Recorded, sheet: Sheet) -> list[Any]:
    found: list[Any] = []
    for built in recorded.built:
        found += [KeepTogether(_layer(built, sheet)), Spacer(1, 8)]
    return found


def _layer(built: AsBuilt, sheet: Sheet) -> list[Any]:
    said = STATES.get(built.state or "", "not judged")
    rows: list[list[Any]] = [["Plane", "Planned", "Built", "Off the plan", "Verdict"]]
    rows += [
        [
            plane.name,
            plane.planned_text,
            [text(plane.built_text or "—"), text(plane.spread_text, SMALL)],
            plane.off_text,
            text(plane.text, STRONG if plane.state == "fails" else SMALL),
        ]
        for plane in built.planes
    ]
    lines: list[Any] = [text(f"{built.layer}: {said}", STRONG), text(built.sentence)]
    lines += [
        text(f"{step.title}: {step.built_text}, planned {step.planned_text}. {step.text}.")
        for step in built.steps
    ]
    if built.puddles_text:
        lines.append(text(f"{built.puddles_text}."))
    return [
        *lines,
        *([table(rows, shares(sheet, 0.14, 0.16, 0.32, 0.2, 0.18))] if rows[1:] else []),
    ]


def _tests(recorded: Recorded, sheet: Sheet) -> list[Any]:
    apart = ("hold", "change", "photo", "trade")
    listed = [(n, body) for n, body in recorded.entries if body.get("kind") not in apart]
    if not listed:
        return []
    rows: list[list[Any]] = [["Entry", "When, who", "What", "Verdict"]]
    for number, body in listed:
        verdict: Mapping[str, str] = body.get("verdict") or {}
        state = str(verdict.get("state", "none"))
        said = [f"{label}: {value}" for label, value in body.get("lines") or ()]
        judged = [text(f"{STATES[state]}: {verdict['text']}", STRONG)] if state in STATES else []
        judged += [text(verdict[name], SMALL) for name in ("why", "source") if verdict.get(name)]
        rows.append(
            [
                str(number),
                [text(_when(str(body.get("at", "")))), text(str(body.get("by", "")))],
                [text(str(body.get("title", "")), STRONG), text("; ".join(said), SMALL)],
                judged or "",
            ]
        )
    return [table(rows, shares(sheet, 0.07, 0.17, 0.38, 0.38))]


def _changes(recorded: Recorded, sheet: Sheet) -> list[Any]:
    rows: list[list[Any]] = [["Entry", "What is built otherwise", "Why", "By"]]
    rows += [
        [str(number), body["values"]["what"], body["values"]["reason"], str(body.get("by", ""))]
        for number, body in recorded.entries
        if body.get("kind") == "change"
    ]
    told: list[Any] = [table(rows, shares(sheet, 0.08, 0.42, 0.38, 0.12))] if rows[1:] else []
    own = sheet.solution.own_values
    if own:
        limits: list[list[Any]] = [["Limit", "Kept at", "Why"]]
        limits += [[one.title, text(one.text, STRONG), one.note] for one in own]
        told += [
            text("Limits that this job keeps at values of its own", STRONG),
            table(limits, shares(sheet, 0.34, 0.2, 0.46)),
        ]
    return told


def _trades(recorded: Recorded, sheet: Sheet) -> list[Any]:
    told = recorded.handover
    rows: list[list[Any]] = [["Trade", "Name, licence", "What they did or decided", "Entry"]]
    rows += [
        [
            one.role,
            f"{one.name}{', ' if one.licence else ''}{one.licence}",
            one.what,
            str(one.entry),
        ]
        for one in told.trades
    ]
    nobody = (
        [text(f"Nobody is named as: {', '.join(told.missing)}.", SMALL)] if told.missing else []
    )
    if not rows[1:]:
        return nobody
    return [table(rows, shares(sheet, 0.15, 0.3, 0.45, 0.1)), Spacer(1, 4), *nobody]


def _photos(recorded: Recorded, sheet: Sheet) -> list[Any]:
    """Two in a row, each with what it shows; before and after stand beside each other."""
    told = {n: body for n, body in recorded.entries if body.get("photo")}
    order: list[int] = []
    for number, body in told.items():
        before = (body.get("values") or {}).get("before")
        if before in order and number not in order:
            order.insert(order.index(before) + 1, number)
        elif number not in order:
            order.append(number)
    half = (sheet.width - 12) / 2
    cells = [_photo(n, told[n], recorded.photos, half) for n in order]
    rows = [cells[i : i + 2] + [""] * (2 - len(cells[i : i + 2])) for i in range(0, len(cells), 2)]
    made: list[Any] = []
    for row in rows:
        pair = Table([row], colWidths=[half + 6, half + 6], hAlign="LEFT")
        pair.setStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)])
        made += [pair, Spacer(1, 6)]
    return made


def _photo(number: int, body: Mapping[str, Any], files: dict[str, Path], wide: float) -> list[Any]:
    said = dict(body.get("lines") or ())
    before = said.get("The same before, entry")
    words = f"Entry {number}, {_when(str(body.get('at', '')))}, {body.get('by', '')}: "
    words += said.get("It shows", "")
    if said.get("Taken at"):
        words += f"; {said['Taken at']}"
    if before:
        words += f"; after entry {before}"
    return [_image(files.get(str(body["photo"].get("hash"))), wide), text(words, SMALL)]


def _image(file: Path | None, wide: float) -> Any:
    if file is None or not file.exists():
        return text("The photo is gone.", STRONG)
    with Picture.open(file) as picture:
        picture.thumbnail((WIDEST, WIDEST))
        out = io.BytesIO()
        picture.convert("RGB").save(out, "JPEG", quality=80)
        width, height = picture.size
    high = min(wide * height / width, 95 * mm)
    out.seek(0)
    return Image(out, width=high * width / height, height=high, hAlign="LEFT")


def _care(recorded: Recorded, sheet: Sheet) -> list[Any]:
    told = recorded.handover
    return [*(text(f"• {line}") for line in told.care), text(told.care_source, SMALL)]


def _when(moment: str) -> str:
    return moment.replace("T", ", ")
