"""How the pages are put on paper: the drawing on a page of its own, the rest one after the other in
columns, contents, and a title block at the foot of each."""

from __future__ import annotations

import io
from collections.abc import Callable, Sequence
from functools import partial
from typing import Any, NamedTuple

from reportlab.lib.colors import Color, black
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    CondPageBreak,
    Flowable,
    Frame,
    KeepTogether,
    NextPageTemplate,
    PageBreak,
    PageTemplate,
    Paragraph,
    Spacer,
)

from calm_basin.core.solution import Solution
from calm_basin.formats.sheet.page import HEAD, Page, Sheet
from calm_basin.formats.sheet.style import HEADING, STRONG, font_for, table, text
from calm_basin.plan import Plan

MARGIN, TITLE, GAP = 12 * mm, 11 * mm, 8 * mm
"""Round the page, of the title block, and between columns."""

COLUMN = 300 * mm
"""Paper that is wider, lying, takes two columns."""

MOST_WITHOUT = 4
"""A sheet of more pages has its contents."""

FEW = 3
"""Fewer parts need no contents however long they are."""

GREY = Color(0.4, 0.4, 0.4)

Size = tuple[float, float]


class Told(NamedTuple):
    """What stands in the title block."""

    job: str
    rules: str
    made: str
    kind: str = "job sheet"


def laid_out(
    plan: Plan,
    solution: Solution,
    pages: Sequence[Page],
    paper: Size,
    told: Told,
    *,
    named: bool,
) -> bytes:
    """The pages as a PDF document; what there is nothing for is left out, unless it was ``named``.

    What stands in the contents is known only once all is laid out: it is laid out again with it.
    """
    parts = [_part(plan, solution, page, paper, named=named) for page in pages]
    parts = [part for part in parts if part.story()]
    if len(parts) < FEW:
        return _Document(paper, told, parts, {}).made
    first = _Document(paper, told, parts, {part.page.title: 0 for part in parts})
    short = first.count <= MOST_WITHOUT
    return _Document(paper, told, parts, {} if short else first.found).made


class _Part(NamedTuple):
    """A page with its story, told anew each time that it is laid out, the room for it, and how its
    paper lies where it has one of its own."""

    page: Page
    story: Callable[[], list[Any]]
    room: Size
    lying: bool


def _part(plan: Plan, solution: Solution, page: Page, paper: Size, *, named: bool) -> _Part:
    lying = page.whole and not page.alone and _lies(plan)
    size = _inner(_turned(paper, lying=lying)) if page.whole else _column(paper)
    sheet = Sheet(plan, solution, *size)

    def story() -> list[Any]:
        told = page.story(sheet)
        if not told and named:
            return [text("There is nothing to tell here for this job.")]
        return told

    return _Part(page, story, size, lying)


def _lies(plan: Plan) -> bool:
    """Whether the room is wider than deep."""
    xs, ys = zip(*plan.room.outline, strict=True)
    return bool(max(xs) - min(xs) > max(ys) - min(ys))


def _turned(paper: Size, *, lying: bool) -> Size:
    return (max(paper), min(paper)) if lying else (min(paper), max(paper))


def _inner(paper: Size) -> Size:
    """The room inside margins and title block."""
    return paper[0] - 2 * MARGIN, paper[1] - 2 * MARGIN - TITLE


def _column(paper: Size) -> Size:
    """The room of one column of what flows."""
    wide, high = _inner(_flowing(paper))
    return ((wide - GAP) / 2 if _flowing(paper)[0] > COLUMN else wide), high


def _flowing(paper: Size) -> Size:
    """How the paper lies on which all but the drawing flows: large paper lies, in two columns."""
    return _turned(paper, lying=max(paper) > COLUMN and min(paper) > 240 * mm)


class _Document(BaseDocTemplate):  # type: ignore[misc]
    """One laying out: ``made`` is the document, ``count`` its pages, and ``found`` the page on
    which each part begins."""

    def __init__(
        self, paper: Size, told: Told, parts: Sequence[_Part], contents: dict[str, int]
    ) -> None:
        out = io.BytesIO()
        templates = [*_whole_templates(paper), _flow_template(paper)]
        first = _template(parts[0]) if parts else "flow"
        # The first page takes the first template, before the story is read.
        templates.sort(key=lambda one: one.id != first)
        super().__init__(
            out,
            pagesize=paper,
            title=f"{told.job} · {told.kind}",
            author="Calm Basin",
            pageTemplates=templates,
        )
        self.found: dict[str, int] = {}
        self.build(_story(parts, contents, _column(paper)[0]), canvasmaker=partial(_Numbered, told))
        self.count = self.page
        self.made = out.getvalue()

    def afterFlowable(self, flowable: Flowable) -> None:  # noqa: N802
        if isinstance(flowable, _Heading):
            self.found[flowable.title] = self.page


class _Heading(Paragraph):  # type: ignore[misc]
    """The heading of a part."""

    def __init__(self, title: str) -> None:
        super().__init__(title, HEADING)
        self.title = title


def _story(parts: Sequence[_Part], contents: dict[str, int], width: float) -> list[Any]:
    story: list[Any] = []
    whole = [part for part in parts if part.page.whole]
    flowing = [part for part in parts if not part.page.whole]
    listed = contents
    for part in whole:
        story += [NextPageTemplate(_template(part)), *([PageBreak()] if story else [])]
        told = [_Heading(part.page.title), *part.story()]
        # Under the first drawing, where there is room for them.
        more = _contents(listed, part.room[0]) if listed else []
        if more and _height([*told, *more], part.room) <= part.room[1]:
            told, listed = [*told, *more], {}
        story += told
    story.append(NextPageTemplate("flow"))
    if whole and flowing:
        story.append(PageBreak())
    if listed:
        story += _contents(listed, width)
    for part in flowing:
        story += _headed(_Heading(part.page.title), part.story())
    return story


def _headed(heading: _Heading, told: list[Any]) -> list[Any]:
    """A part under its heading, which never stands alone at the foot of a column."""
    first = told[0]
    if isinstance(first, KeepTogether):
        return [KeepTogether([heading, *first._content]), *told[1:]]
    return [CondPageBreak(HEAD), heading, *told]


def _template(part: _Part) -> str:
    if not part.page.whole:
        return "flow"
    return "lying" if part.lying else "standing"


def _height(story: Sequence[Any], room: Size) -> float:
    """How much a story takes of a page, points; a little more than it may be."""
    return float(
        sum(one.wrap(*room)[1] + one.getSpaceBefore() + one.getSpaceAfter() for one in story)
    )


def _contents(found: dict[str, int], width: float) -> list[Any]:
    """Where each part begins, in two columns."""
    rows = [[title, str(page)] for title, page in found.items()]
    half = -(-len(rows) // 2)
    both = [
        [*left, *(rows[half + i] if half + i < len(rows) else ["", ""])]
        for i, left in enumerate(rows[:half])
    ]
    shares = [share * width for share in (0.42, 0.08, 0.42, 0.08)]
    return [
        Spacer(1, 10),
        text("Contents", STRONG),
        Spacer(1, 4),
        table(both, shares, head=False),
        Spacer(1, 8),
    ]


def _frame(x: float, size: Size) -> Frame:
    return Frame(
        x,
        MARGIN + TITLE,
        *size,
        leftPadding=0,
        rightPadding=0,
        topPadding=0,
        bottomPadding=6,
    )


def _whole_templates(paper: Size) -> list[PageTemplate]:
    return [
        PageTemplate(
            id=name,
            frames=[_frame(MARGIN, _inner(_turned(paper, lying=lying)))],
            pagesize=_turned(paper, lying=lying),
        )
        for name, lying in (("standing", False), ("lying", True))
    ]


def _flow_template(paper: Size) -> PageTemplate:
    size, whole = _column(paper), _flowing(paper)
    count = 2 if whole[0] > COLUMN else 1
    frames = [_frame(MARGIN + i * (size[0] + GAP), size) for i in range(count)]
    return PageTemplate(id="flow", frames=frames, pagesize=whole)


class _Numbered(Canvas):  # type: ignore[misc]
    """A canvas that writes the title blocks when it knows how many pages there are."""

    def __init__(self, told: Told, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.told = told
        self._states: list[dict[str, Any]] = []

    def showPage(self) -> None:  # noqa: N802
        self._states.append(dict(self.__dict__))
        self._startPage()

    def save(self) -> None:
        for number, state in enumerate(self._states, start=1):
            self.__dict__.update(state)
            self._title_block(f"{number} of {len(self._states)}")
            super().showPage()
        super().save()

    def _title_block(self, number: str) -> None:
        """A ruled row: the job, the rules that it is held against, when it was made, which page."""
        width = self._pagesize[0] - 2 * MARGIN
        self.setStrokeColor(black)
        self.setDash()
        self.setLineWidth(1.0)
        self.rect(MARGIN, MARGIN - 4, width, TITLE, stroke=1, fill=0)
        self.setLineWidth(0.5)
        x = MARGIN
        cells = (
            ("job", self.told.job, 0.42, True),
            ("held against", self.told.rules, 0.28, False),
            ("made", self.told.made, 0.18, False),
            (self.told.kind.removeprefix("job "), number, 0.12, True),
        )
        for caption, words, share, bold in cells:
            if x > MARGIN:
                self.line(x, MARGIN - 4, x, MARGIN - 4 + TITLE)
            self.setFillColor(GREY)
            self.setFont(font_for(caption), 6.5)
            self.drawString(x + 4, MARGIN + TITLE - 12, caption)
            self.setFillColor(black)
            self._fitting(x + 4, share * width - 8, words, bold=bold)
            x += share * width

    def _fitting(self, x: float, room: float, words: str, *, bold: bool) -> None:
        """Words in the room that there is, cut off where they are longer."""
        font, size = font_for(words, bold=bold), 10.0
        while words and self.stringWidth(words, font, size) > room:
            words = f"{words[:-2].rstrip()}…" if len(words) > 2 else ""
        self.setFont(font, size)
        self.drawString(x, MARGIN + 1, words)
