"""The forms of the site log: which fields each kind has."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import Result
from calm_basin.plan import PlanError, Problem

FieldType = Literal[
    "length",
    "number",
    "text",
    "long text",
    "yes or no",
    "choice",
    "place",
    "photo",
    "readings",
    "series",
]


class FormField(Result):
    """One field: how it is typed, its ``unit`` where that is not the job's, and whether it may be
    left empty; the ``device`` that may read it, and the field that says what is expected, or where
    that is no field's name the expected value itself (``near``)."""

    name: str
    label: str
    type: FieldType
    unit: str = ""
    needed: bool = True
    choices: tuple[str, ...] = ()
    device: str = ""
    near: str = ""


class Form(Result):
    """A kind of entry with its fields; one with a ``step`` is written in that step."""

    kind: str
    title: str
    hint: str
    fields: tuple[FormField, ...]
    step: str = ""


def _length(name: str, label: str, *, needed: bool = True, near: str = "") -> FormField:
    device = "distance" if near else ""
    return FormField(name=name, label=label, type="length", needed=needed, device=device, near=near)


def _number(
    name: str, label: str, unit: str, *, needed: bool = True, device: str = "", near: str = ""
) -> FormField:
    return FormField(
        name=name, label=label, type="number", unit=unit, needed=needed, device=device, near=near
    )


def _text(name: str, label: str, *, long: bool = False, needed: bool = True) -> FormField:
    return FormField(name=name, label=label, type="long text" if long else "text", needed=needed)


def _yes(name: str, label: str) -> FormField:
    return FormField(name=name, label=label, type="yes or no")


NOTE = _text("note", "Note", long=True, needed=False)

FORMS: tuple[Form, ...] = (
    Form(
        kind="hold",
        title="Hold point signed",
        hint="Nothing behind it goes on before.",
        fields=(_text("task", "Hold point"), NOTE),
    ),
    Form(
        kind="fall",
        title="Fall checked",
        hint="A level with its wedge: how far it falls from the edge over so long a run.",
        fields=(
            _text("where", "Where"),
            _length("run", "Run"),
            _length("drop", "It falls"),
            _length("error", "Read to", needed=False),
            NOTE,
        ),
    ),
    Form(
        kind="leak",
        title="Leak test of the waste",
        hint="Water over the highest joint, or air, before anything covers the joints.",
        fields=(
            _length("head", "Water over the highest joint", needed=False),
            _number("pressure", "Air", "kPa", needed=False),
            _number("after", "Air at the end", "kPa", needed=False),
            _number("minutes", "Held", "min"),
            _yes("dry", "Every joint is dry"),
            NOTE,
        ),
    ),
    Form(
        kind="connection",
        title="Connection test",
        hint="One connection alone, apart from the flood test of the floor.",
        fields=(_number("minutes", "Under water", "min"), _yes("dry", "It is dry"), NOTE),
    ),
    Form(
        kind="flood",
        title="Flood test of the floor",
        hint="The outlet closed, the entry dammed. A litre weighs 1 kg: the floor carries it.",
        fields=(
            FormField(
                name="closed_by",
                label="Outlet closed by",
                type="choice",
                choices=("plug", "insert turned over"),
            ),
            _number("hours", "Stood", "h"),
            _length("first", "Height at the drain, first"),
            _length("last", "Height at the drain, last"),
            FormField(
                name="between",
                label="In between: hours, height, a line each",
                type="series",
                needed=False,
            ),
            _length("evaporated", "Lost by a dish beside it", needed=False),
            _number(
                "moist_before", "Moisture before", "%", needed=False, device="moisture", near="12"
            ),
            _number(
                "moist_after",
                "Moisture after",
                "%",
                needed=False,
                device="moisture",
                near="moist_before",
            ),
            NOTE,
        ),
    ),
    Form(
        kind="drainage",
        title="Drainage test",
        hint="A gallon, about 4 litres, poured out at the edge.",
        fields=(
            _number("litres", "Poured", "L"),
            _number("minutes", "Gone in", "min"),
            _length("stands", "What still stands", needed=False),
            NOTE,
        ),
    ),
    Form(
        kind="cable",
        title="Cable resistance",
        hint="Before laying, after laying, after tiling. An electrician's work.",
        fields=(
            _number("label", "By its label", "Ω"),
            _number("tolerance", "Tolerance of the label", "%", needed=False),
            _number("before", "Before laying", "Ω", device="resistance", near="label"),
            _number("laid", "Laid", "Ω", needed=False, device="resistance", near="label"),
            _number("tiled", "Tiled", "Ω", needed=False, device="resistance", near="label"),
            NOTE,
        ),
    ),
    Form(
        kind="moisture",
        title="Moisture of the bed",
        hint="The limit is that of the product that goes on it.",
        fields=(
            _text("where", "Where"),
            _number("reading", "Read", "%", device="moisture", near="limit"),
            _number("limit", "At most", "%"),
            NOTE,
        ),
    ),
    Form(
        kind="delivered",
        title="Part that came",
        hint="Measured before anything is cut: tray, drain, channel, trap.",
        fields=(
            _text("part", "Part and size"),
            _length("planned", "Planned"),
            _length("measured", "Measured", near="planned"),
            NOTE,
        ),
    ),
    Form(
        kind="pocket",
        title="Pocket accepted",
        hint="Before the unit is carried in: width and depth, square, plumb.",
        fields=(
            _length("width", "Width", near="asked_width"),
            _length("asked_width", "Width required"),
            _length("depth", "Depth", near="asked_depth"),
            _length("asked_depth", "Depth required"),
            _length("diagonal", "One diagonal", needed=False),
            _length("other_diagonal", "Other diagonal", needed=False),
            _length("lean", "Studs out of plumb", needed=False),
            NOTE,
        ),
    ),
    Form(
        kind="riser",
        title="Riser as found",
        hint="Its top over the deck that the drain stands on; below it is minus.",
        fields=(
            _length("top", "Top"),
            _length("asked", "Top the drain needs"),
            _length("off", "Centre off the plan", needed=False),
            _length("lean", "Leans by", needed=False),
            NOTE,
        ),
    ),
    Form(
        kind="levels",
        title="Levels read",
        hint="Read and judged in As built.",
        step="as-built",
        fields=(
            FormField(
                name="layer",
                label="On",
                type="choice",
                choices=("recess", "bed", "membrane", "tile"),
            ),
            _length("zero", "Reads at the finished level", needed=False),
            _length("error", "Read to", needed=False),
            FormField(name="readings", label="Readings", type="readings"),
            NOTE,
        ),
    ),
    Form(
        kind="photo",
        title="Photo",
        hint="What is covered next: pipes, bands, cable, the bed before it is tiled.",
        fields=(
            FormField(name="photo", label="Picture", type="photo"),
            _text("shows", "It shows"),
            FormField(name="place", label="Taken at", type="place", needed=False),
            _number("before", "The same before, entry", "number", needed=False),
            NOTE,
        ),
    ),
    Form(
        kind="trade",
        title="Licensed trade",
        hint="Who decided or connected what is theirs alone to decide or connect.",
        fields=(
            FormField(
                name="role",
                label="Trade",
                type="choice",
                choices=("engineer", "plumber", "electrician", "inspector"),
            ),
            _text("name", "Name"),
            _text("licence", "Licence", needed=False),
            _text("what", "What they did or decided"),
            NOTE,
        ),
    ),
    Form(
        kind="change",
        title="Change from the plan",
        hint="What is built otherwise, and why.",
        fields=(_text("what", "What"), _text("reason", "Why"), NOTE),
    ),
    Form(
        kind="note",
        title="Note",
        hint="Anything worth keeping.",
        fields=(_text("note", "Note", long=True),),
    ),
    Form(
        kind="correction",
        title="Correction",
        hint="The entry that was wrong stays; this one says what is right.",
        fields=(
            _number("entry", "Entry", "number"),
            _text("right", "What is right", long=True),
            NOTE,
        ),
    ),
)

TITLES = {form.kind: form.title for form in FORMS}


def form_of(kind: str) -> Form:
    """The form of a kind. Raises `PlanError` where there is none."""
    found = next((form for form in FORMS if form.kind == kind), None)
    if found is None:
        names = ", ".join(TITLES)
        raise PlanError([Problem("/kind", f"There is no such kind. Choose one of: {names}.")])
    return found
