"""The forms of the site log: which fields each kind has, read as they are typed and told again."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Literal, NamedTuple

from pydantic import ValidationError

from calm_basin.core.answer.result import Result
from calm_basin.core.answer.taped import place_text
from calm_basin.core.answer.words import Words
from calm_basin.core.site_log.entries import KINDS, Entry
from calm_basin.plan import PlanError, Problem
from calm_basin.plan.base import Outline
from calm_basin.plan.reading import problems_of
from calm_basin.units import UnitError, parse_length

FieldType = Literal[
    "length", "number", "text", "long text", "yes or no", "choice", "place", "photo", "readings"
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


class Line(NamedTuple):
    """What an entry says of one of its fields."""

    label: str
    text: str


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
            _length("asked_width", "Width asked"),
            _length("depth", "Depth", near="asked_depth"),
            _length("asked_depth", "Depth asked"),
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
            _length("asked", "Top asked by the drain"),
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


def read_entry(kind: str, typed: Mapping[str, Any], words: Words) -> Entry:
    """An entry out of what was typed into its form; a picture comes apart from that.

    Raises
    ------
    PlanError
        That names each field which cannot be read, and what would be understood.
    """
    form = form_of(kind)
    problems: list[Problem] = []
    values: dict[str, Any] = {}
    unknown = sorted(set(typed) - {field.name for field in form.fields})
    problems += [Problem(f"/fields/{name}", "There is no such field.") for name in unknown]
    for field in form.fields:
        if field.type == "photo":
            continue
        text = typed.get(field.name, "")
        if not isinstance(text, str) or len(text) > 4000:
            problems.append(Problem(f"/fields/{field.name}", f"{field.label}: type a text."))
            continue
        text = text.strip()
        if not text:
            if field.needed:
                problems.append(Problem(f"/fields/{field.name}", f"{field.label}: fill it in."))
            continue
        try:
            values[field.name] = _value(field, text, words)
        except ValueError as error:
            problems.append(Problem(f"/fields/{field.name}", f"{field.label}: {error}"))
    if problems:
        raise PlanError(problems)
    try:
        return KINDS[kind].model_validate(values)
    except ValidationError as error:
        labels = {field.name: field.label for field in form.fields}
        raise PlanError(
            [
                Problem(f"/fields{p.path}", f"{labels.get(p.path[1:], 'Entry')}: {p.message}")
                for p in problems_of(error)
            ]
        ) from None


def _value(field: FormField, text: str, words: Words) -> Any:
    """What was typed into one field. Raises `ValueError`, in words."""
    if field.type == "length":
        try:
            return parse_length(text, words.display)
        except UnitError as error:
            raise ValueError(str(error)) from None
    if field.type == "number":
        try:
            return float(text.replace(",", "."))
        except ValueError:
            raise ValueError(f"“{text[:40]}” is no number.") from None
    if field.type == "readings":
        return _readings(text, words)
    if field.type == "place":
        parts = text.split()
        if len(parts) != 2:
            raise ValueError("Touch the chart where it is.")
        return tuple(float(part) for part in parts)
    if field.type == "yes or no":
        if text not in ("yes", "no"):
            raise ValueError("Choose yes or no.")
        return text == "yes"
    if field.type == "choice" and text not in field.choices:
        raise ValueError(f"Choose one of: {', '.join(field.choices)}.")
    return text


def _readings(text: str, words: Words) -> tuple[tuple[float, float, float], ...]:
    """Readings out of lines of x and y, mm, and what was typed. Raises `ValueError`, in words."""
    found = []
    for number, line in enumerate(text.splitlines(), start=1):
        x, y, typed = [*line.split(maxsplit=2), "", "", ""][:3]
        try:
            found.append((float(x), float(y), parse_length(typed, words.display)))
        except ValueError as error:
            raise ValueError(f"reading {number}: {error}") from None
    return tuple(found)


def lines_of(entry: Entry, room: Outline, words: Words) -> tuple[Line, ...]:
    """What an entry says, field by field, in the units of the job; places from the room's walls."""
    found = []
    for field in form_of(entry.kind).fields:
        value = None if field.type == "photo" else getattr(entry, field.name)
        if value is None or value == "":
            continue
        if field.type == "length":
            text = words.length(value)
        elif field.type == "number":
            text = f"{value:g}" if field.unit == "number" else f"{value:g} {field.unit}"
        elif field.type == "readings":
            text = ", ".join(words.bare(read) for _, _, read in value)
        elif field.type == "place":
            text = place_text(room, value, words)
        elif field.type == "yes or no":
            text = "yes" if value else "no"
        else:
            text = str(value)
        found.append(Line(field.label, text))
    return tuple(found)
