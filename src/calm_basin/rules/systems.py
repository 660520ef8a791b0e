"""Build systems: a TOML file each, those that ship and those of one's own."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from importlib import resources

import tomli_w
from pydantic import ValidationError

from calm_basin.plan.reading import MOST_PROBLEMS, Problem, and_more
from calm_basin.plan.system import BuildSystem, PanelForm, TrayForm
from calm_basin.plan.upgrades import with_roles
from calm_basin.plan.waste import DrainFamily
from calm_basin.rules.families import drain_families
from calm_basin.rules.measures import MeasureError, measured, written
from calm_basin.rules.reading import RuleFileError, loaded, problem_of
from calm_basin.rules.trade import TRADE


class SystemFileError(RuleFileError):
    """The file is no build system; each problem names the field and the cure."""

    title = "This is no build system"


@cache
def build_systems() -> dict[str, BuildSystem]:
    """The build systems that ship, by id, in the order of their file names."""
    folder = resources.files(__package__) / "systems"
    files = sorted(folder.iterdir(), key=lambda file: file.name)
    systems = [read_system(file.read_text("utf-8")) for file in files]
    wrong = [problem for one in systems for problem in of_family(one, drain_families())]
    if wrong:
        raise SystemFileError(wrong)
    return {system.id: system for system in systems}


def read_system(text: str | bytes) -> BuildSystem:
    """Read a build system from TOML, measures in any unit that people write.

    Raises
    ------
    SystemFileError
        Each problem names the field and the cure. Whether there is its drain family `of_family`
        says.
    """
    document = loaded(text, SystemFileError, "the file of a build system")
    for part in ("shower", "room"):
        # Files of before roles were known say by a layer's name what it is.
        document = with_roles(document, ("layers", part))
    try:
        system = BuildSystem.model_validate(measured(BuildSystem, document))
    except MeasureError as error:
        raise SystemFileError([error.problem]) from None
    except ValidationError as error:
        told = [problem_of(item) for item in error.errors()[:MOST_PROBLEMS]]
        told = [Problem(_without_kind(one.path), one.message) for one in told]
        raise SystemFileError([*told, *and_more(error.error_count() - len(told))]) from None
    wrong = _disagreements(system)
    if wrong:
        raise SystemFileError(wrong)
    return system


def written_system(system: BuildSystem) -> str:
    """A build system as TOML, which `read_system` reads back as the same."""
    return tomli_w.dumps(written(system))


def _without_kind(path: str) -> str:
    """A place in the file: the former's kind, which pydantic names, is no field there."""
    parts = path.split("/")
    if len(parts) > 2 and parts[1] == "former" and parts[2] in ("tray", "bed", "panels"):
        del parts[2]
    return "/".join(parts)


def of_family(system: BuildSystem, families: Mapping[str, DrainFamily]) -> list[Problem]:
    """What of the drain family that a system names is not so."""
    family = families.get(system.family)
    if family is None:
        named = ", ".join(families)
        return [Problem("/family", f"There is no drain family “{system.family}”: {named}.")]
    if family.drain != system.drain:
        message = f"“{family.id}” is for a {family.drain} drain. Choose another, or change “drain”."
        return [Problem("/family", message)]
    return []


def _disagreements(system: BuildSystem) -> list[Problem]:
    """What of a system does not go together."""
    found = []
    known = list(TRADE.bases.by_id)
    if system.base not in known:
        found.append(Problem("/base", f"Choose one of {', '.join(known)}."))
    former = system.former
    if system.drain == "linear" and system.channel is None:
        found.append(Problem("/channel", "Say where the channel lies, such as “back”."))
    if system.drain == "point" and system.channel is not None:
        found.append(Problem("/channel", "A point drain has no channel. Leave it out."))
    if isinstance(former, PanelForm) and former.thick_edge <= former.thin_edge:
        message = "The thick edge has to be thicker than the thin edge."
        found.append(Problem("/former/thick_edge", message))
    if isinstance(former, PanelForm) and system.drain == "point":
        found.append(Problem("/drain", "Panels fall to a channel: “drain” is “linear”."))
    if isinstance(former, TrayForm):
        found += _tray(system, former)
    return found


def _tray(system: BuildSystem, former: TrayForm) -> list[Problem]:
    found = []
    if former.sizes and system.drain == "linear":
        found.append(
            Problem("/former/sizes", "A tray of stock sizes has a point drain of its own.")
        )
    if not former.most_cut and former.trims:
        found.append(Problem("/former/trims", "Nothing may be cut off: name no side, or how much."))
    if former.extension is not None and not former.sizes:
        message = "An extension goes on from a tray of a known size. Give its sizes."
        found.append(Problem("/former/sizes", message))
    for i, size in enumerate(former.sizes):
        for name, at, whole in (
            ("drain_left", size.drain_left, size.width),
            ("drain_back", size.drain_back, size.length),
        ):
            if not 0 < at < whole:
                message = f"The tray's drain would lie at its edge: {at:g} of {whole:g} mm."
                found.append(Problem(f"/former/sizes/{i}/{name}", message))
    return found
