"""The cards of the system that a plan was filled from."""

from __future__ import annotations

from math import ceil

from shapely.geometry import Polygon

from calm_basin.core.answer.result import Input
from calm_basin.core.answer.words import Words
from calm_basin.core.kinds.tray import tray_form
from calm_basin.core.systems.result import Instruction, SystemCards
from calm_basin.plan import Plan
from calm_basin.plan.system import Bedding, BuildSystem

BEDDING = {
    "trowel": "Trowel",
    "faces": "On which faces",
    "direction": "Which way it is combed",
    "adhesive": "Adhesive",
    "water": "Water",
    "quantity": "How much",
    "air": "How the air gets out",
    "fixing": "Fixed by",
    "holds": "Held down by",
    "stand": "Stepped on",
}


def cards(plan: Plan, words: Words) -> SystemCards | None:
    """The cards of the plan's system; None where none was chosen."""
    system = plan.system
    if system is None:
        return None
    area = float(Polygon(plan.shower.outline).area)
    told = [_bedding(school, words, area) for school in system.bedding]
    if system.waits:
        told.append(
            Instruction(
                title="Leave alone",
                named=tuple(Input(name=one.what, text=one.time) for one in system.waits),
                lines=("Cold slows all of it.",),
                source=_sources([wait.source for wait in system.waits]),
            )
        )
    practice = system.practice
    for title, lines in (
        ("Tools", practice.tools),
        ("Forgotten by most", practice.forgotten),
        ("Keep back", practice.hold_back),
        ("What goes wrong", practice.wrong),
    ):
        if lines:
            told.append(Instruction(title=title, lines=lines, source=practice.source))
    told += [
        Instruction(title=f"Watertight: {one.school}", lines=(one.says,), source=one.source)
        for one in system.membrane
    ]
    told.append(_allowed(system, words))
    return SystemCards(id=system.id, name=system.name, says=system.says, cards=tuple(told))


def _bedding(school: Bedding, words: Words, area: float) -> Instruction:
    said = [Input(name=name, text=getattr(school, field)) for field, name in BEDDING.items()]
    here = words.area(area)
    if school.takes is not None:
        amount = school.takes.over(area)
        # Adhesive is bought whole, and mixed a little over.
        here += f": {amount:.1f} {school.takes.unit}, have {ceil(amount - 1e-9)} ready"
    return Instruction(
        title=f"Bedding: {school.school}",
        named=(*said, Input(name="Under this shower", text=here)),
        source=school.source,
    )


def _allowed(system: BuildSystem, words: Words) -> Instruction:
    """What it stands on, and what may be cut off it."""
    former = system.former
    said = [Input(name="Stands on", text=" or ".join(system.floors))]
    for limit in system.deck:
        name = f"Joist centres under a {words.limit(limit.deck)} deck"
        said.append(Input(name=name, text=f"at most {words.limit(limit.centres)}"))
    said.append(Input(name="Falls", text=words.fall(former.fall)))
    sources = [former.source, system.layers.source, *(limit.source for limit in system.deck)]
    if (form := tray_form(system)) is not None:
        sides = ", ".join(form.trims) if form.most_cut else "none"
        said.append(Input(name="Sides that may be cut", text=sides))
        if form.most_cut:
            most = f"at most {words.limit(form.most_cut)}"
            said.append(Input(name="Off a side", text=most))
        if form.most_over is not None:
            text = f"at most {words.limit(form.most_over)}"
            said.append(Input(name="Over the floor before it", text=text))
        if form.rebate:
            text = f"{words.limit(form.rebate)} square, not on an open entry side"
            said.append(Input(name="Rebate, cut anew for a wall panel", text=text))
        if form.sizes:
            sizes = " · ".join(
                f"{words.length(size.width)} × {words.length(size.length)}, its drain "
                f"{words.length(size.drain_left)} from the left and "
                f"{words.length(size.drain_back)} from the back"
                for size in form.sizes
            )
            said.append(Input(name="Stock sizes", text=sizes))
        if form.extension is not None:
            piece = form.extension
            text = (
                f"{words.length(piece.length)}, rising {words.length(piece.rise)}: "
                f"{words.fall(piece.fall)}"
            )
            said.append(Input(name="Extension", text=text))
    if system.pour is not None:
        text = f"{words.length(system.pour.cover)} least, in the shower; it counts in the recess"
        said.append(Input(name="Poured under it", text=text))
        sources.append(system.pour.source)
    if system.zones is not None:
        said.append(Input(name="Rest of the room falls", text=words.fall(system.zones.rest)))
        sources.append(system.zones.source)
    return Instruction(title="What it allows", named=tuple(said), source=_sources(sources))


def _sources(sources: list[str]) -> str:
    return "; ".join(dict.fromkeys(sources))
