"""What is wrong with a membrane: a school that the floor is not built for."""

from __future__ import annotations

from calm_basin.core.answer.build import unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.kinds import former_of
from calm_basin.plan.sources import COMMON


def school_and_floor(case: Case) -> list[Found]:
    """A sheet between lifts where the bed is one, and boards that are sealed round no tray."""
    plan = case.plan
    former, school = former_of(plan.shower), plan.days.membrane
    if school == "lifts" and former.lower is None:
        title = "A sheet between two lifts needs a bed in two lifts"
        detail = "This floor has no lower lift for the sheet to lie on. Use a bonded sheet on top."
    elif school == "boards" and not former.one_piece:
        title = "Boards with sealant need a foam or board tray"
        detail = "Sealant joins boards to a tray. A bed or panels take a sheet or a liquid on top."
    else:
        return []
    cure = Cure(
        text="Use bonded sheet and bands", changes=(Change(path="/days/membrane", value="sheet"),)
    )
    finding = unmeasured(
        "membrane_school",
        "stop",
        title,
        detail,
        applies_to="the membrane",
        source=COMMON,
        field="/days/membrane",
    )
    return [Found(finding, lambda: [cure])]
