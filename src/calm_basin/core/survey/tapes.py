"""The taped room in words."""

from __future__ import annotations

from calm_basin.core.answer.build import broken, listed, unmeasured
from calm_basin.core.answer.case import Found
from calm_basin.core.answer.result import Change
from calm_basin.core.answer.words import Words
from calm_basin.core.codes import Code
from calm_basin.core.survey.ground import READINGS, adjusted
from calm_basin.core.survey.result import (
    CornerResult,
    TapeMisfit,
    TapeResult,
)
from calm_basin.core.survey.tape import TapedCorner, angle_text
from calm_basin.plan.survey import Tape


def doubt(code: Code, title: str, detail: str) -> Found:
    return Found(
        unmeasured(
            code,
            "caution",
            title,
            detail,
            applies_to="the survey",
            source=READINGS,
            field="/survey/levels",
        )
    )


def tape_findings(words: Words, tape: Tape) -> list[Found]:
    """What the tapes leave open, and the one that does not fit, where they can tell it."""
    room = adjusted(tape)
    source, field = "Least squares over all tapes", "/survey/tape"
    if room.open:
        return [
            Found(
                unmeasured(
                    "tape_open",
                    "caution",
                    "These measures leave the room's shape open",
                    "Walls alone can be pushed askew like a folding rule. Tape a diagonal, or say "
                    "which corners are square; until then the outline is a guess and is not "
                    "used.",
                    applies_to="the room's outline",
                    source=source,
                    field=field,
                )
            )
        ]
    if len(room.suspects) > 1:
        names = listed(list(room.suspects))
        return [
            Found(
                unmeasured(
                    "tape_blunder",
                    "caution",
                    "The tapes do not fit each other",
                    f"One of them is off, but nothing tells which: {names} would each explain it. "
                    "Tape these again, or one more diagonal.",
                    applies_to="the room's outline",
                    source=source,
                    field=field,
                )
            )
        ]
    found = []
    for misfit in room.misfits:
        if misfit.suspect and misfit.likely is not None:
            off = misfit.measured - misfit.likely
            finding = broken(
                words,
                code="tape_blunder",
                severity="caution",
                title=f"{misfit.name.capitalize()} does not fit the other tapes",
                detail=f"It was taped {words.length(misfit.measured)}; the others say "
                f"{words.length(misfit.likely)}, {words.length(abs(off))} "
                f"{'less' if off > 0 else 'more'}. Tape it again.",
                value=misfit.measured,
                shown=words.length(misfit.measured),
                limit=misfit.likely,
                asked=f"about {words.length(misfit.likely)}",
                applies_to="the room's outline",
                source=source,
                field=field,
            )
            found.append(Found(finding))
    return found


def tape_result(words: Words, tape: Tape) -> TapeResult:
    room = adjusted(tape)
    outline = [[round(float(x), 1), round(float(y), 1)] for x, y in room.outline]
    corners = [
        CornerResult(
            number=number,
            angle_text=angle_text(corner),
            gap=corner.gap,
            text=_corner_text(words, corner),
        )
        for number, corner in enumerate(room.corners, start=1)
    ]
    return TapeResult(
        outline=tuple((x, y) for x, y in outline),
        misfits=tuple(
            TapeMisfit(
                name=m.name,
                measured=m.measured,
                adjusted=m.adjusted,
                misfit=m.misfit,
                text=words.length(m.misfit),
                suspect=m.suspect,
            )
            for m in room.misfits
        ),
        corners=tuple(corners),
        closes=room.closes,
        closes_text=words.length(room.closes),
        changes=() if room.open else (Change(path="/room/outline", value=outline),),
    )


def _corner_text(words: Words, corner: TapedCorner) -> str:
    """What a corner out of square does to a square tray. An inner corner juts into the room, and
    the tray is cut round it."""
    gap = words.length(abs(corner.gap))
    if abs(corner.gap) < words.display.step / 2:
        return "square"
    if corner.inner and corner.off > 0:
        return f"sharper than square: a square notch leaves {gap} at the wall's end"
    if corner.inner:
        return f"blunter than square: a square notch is {gap} too tight at the wall's end, widen it"
    if corner.off > 0:
        return f"wider than square: a square tray leaves {gap} at the wall's end"
    return f"tighter than square: a square tray is {gap} too wide, undercut it"
