"""Plan and section as SVG: what is drawn on paper, by the same hand."""

from __future__ import annotations

from typing import Any
from xml.etree import ElementTree

from reportlab.pdfbase.pdfmetrics import stringWidth

from calm_basin.core.solution import Solution
from calm_basin.formats.sheet.floor_plan import FloorPlan
from calm_basin.formats.sheet.page import PAPERS, Sheet
from calm_basin.formats.sheet.section import Cut
from calm_basin.formats.sheet.style import BOLD, SPARE_BOLD
from calm_basin.plan import Plan

NAMESPACE = "http://www.w3.org/2000/svg"
FAMILY = "'Atkinson Hyperlegible Next', sans-serif"
MM = 25.4 / 72
"""Millimetres a point."""


def write_plan(plan: Plan, solution: Solution) -> str:
    """The plan to scale, on a drawing as large as large paper."""
    width, height = PAPERS["a3"]
    return _drawn(FloorPlan(Sheet(plan, solution, height, width), width))


def write_section(solution: Solution) -> str:
    """The section; empty where there is none."""
    if solution.section is None:
        return ""
    return _drawn(Cut(solution.section, PAPERS["a3"][1]))


def _drawn(drawing: Any) -> str:
    pen = Pen(drawing.width, drawing.height)
    drawing.canv = pen
    drawing.draw()
    return pen.svg()


class Pen:
    """Takes the strokes of a drawing of the sheet and writes them as SVG.

    It has those methods of reportlab's canvas that the drawings use, with their names; there y
    grows upwards, here the whole is turned over once and each word back again.
    """

    def __init__(self, width: float, height: float) -> None:
        self.root = ElementTree.Element(
            "svg",
            {
                "xmlns": NAMESPACE,
                "width": f"{width * MM:.2f}mm",
                "height": f"{height * MM:.2f}mm",
                "viewBox": f"0 0 {width:.2f} {height:.2f}",
            },
        )
        turned = {"transform": f"matrix(1 0 0 -1 0 {height:.2f})"}
        self._groups = [ElementTree.SubElement(self.root, "g", turned)]
        self._states: list[tuple[int, dict[str, str], tuple[str, float]]] = []
        self._style = {"stroke": "#000000", "stroke-width": "1", "fill": "#000000"}
        self._font = ("", 10.0)
        self._clips = 0

    def svg(self) -> str:
        """The document as text."""
        return ElementTree.tostring(self.root, encoding="unicode") + "\n"

    def setStrokeColor(self, colour: Any) -> None:  # noqa: N802
        self._style["stroke"] = _hex(colour)

    def setFillColor(self, colour: Any) -> None:  # noqa: N802
        self._style["fill"] = _hex(colour)

    def setLineWidth(self, width: float) -> None:  # noqa: N802
        self._style["stroke-width"] = f"{width:g}"

    def setDash(self, *dashes: Any) -> None:  # noqa: N802
        lengths = dashes[0] if dashes and isinstance(dashes[0], list) else dashes
        self._style.pop("stroke-dasharray", None)
        if lengths:
            self._style["stroke-dasharray"] = " ".join(f"{one:g}" for one in lengths)

    def setFont(self, name: str, size: float) -> None:  # noqa: N802
        self._font = (name, size)

    def stringWidth(self, words: str, font: str, size: float) -> float:  # noqa: N802
        return float(stringWidth(words, font, size))

    def saveState(self) -> None:  # noqa: N802
        self._states.append((len(self._groups), dict(self._style), self._font))

    def restoreState(self) -> None:  # noqa: N802
        depth, self._style, self._font = self._states.pop()
        del self._groups[depth:]

    def translate(self, x: float, y: float) -> None:
        self._group({"transform": f"translate({x:.3f} {y:.3f})"})

    def rotate(self, degrees: float) -> None:
        self._group({"transform": f"rotate({degrees:.3f})"})

    def line(self, x0: float, y0: float, x1: float, y1: float) -> None:
        ends = {"x1": x0, "y1": y0, "x2": x1, "y2": y1}
        self._add("line", {name: f"{value:.3f}" for name, value in ends.items()}, fill=False)

    def rect(
        self, x: float, y: float, width: float, height: float, stroke: int = 1, fill: int = 0
    ) -> None:
        box = {"x": x, "y": y, "width": width, "height": height}
        texts = {name: f"{value:.3f}" for name, value in box.items()}
        self._add("rect", texts, stroke=bool(stroke), fill=bool(fill))

    def circle(self, x: float, y: float, radius: float, stroke: int = 1, fill: int = 0) -> None:
        texts = {"cx": f"{x:.3f}", "cy": f"{y:.3f}", "r": f"{radius:.3f}"}
        self._add("circle", texts, stroke=bool(stroke), fill=bool(fill))

    def beginPath(self) -> Path:  # noqa: N802
        return Path()

    def drawPath(self, path: Path, stroke: int = 1, fill: int = 0) -> None:  # noqa: N802
        self._add("path", {"d": path.text()}, stroke=bool(stroke), fill=bool(fill))

    def clipPath(self, path: Path, stroke: int = 1, fill: int = 0) -> None:  # noqa: N802
        self._clips += 1
        name = f"clip{self._clips}"
        clip = ElementTree.SubElement(self._groups[-1], "clipPath", {"id": name})
        ElementTree.SubElement(clip, "path", {"d": path.text()})
        self._group({"clip-path": f"url(#{name})"})

    def drawString(self, x: float, y: float, words: str) -> None:  # noqa: N802
        self._words(x, y, words, "start")

    def drawCentredString(self, x: float, y: float, words: str) -> None:  # noqa: N802
        self._words(x, y, words, "middle")

    def drawRightString(self, x: float, y: float, words: str) -> None:  # noqa: N802
        self._words(x, y, words, "end")

    def _group(self, attributes: dict[str, str]) -> None:
        self._groups.append(ElementTree.SubElement(self._groups[-1], "g", attributes))

    def _add(
        self, tag: str, attributes: dict[str, str], *, stroke: bool = True, fill: bool = True
    ) -> None:
        style = dict(self._style)
        if not fill:
            style["fill"] = "none"
        if not stroke:
            style = {"fill": style["fill"]}
        ElementTree.SubElement(self._groups[-1], tag, {**attributes, **style})

    def _words(self, x: float, y: float, words: str, anchor: str) -> None:
        font, size = self._font
        attributes = {
            "transform": f"matrix(1 0 0 -1 {x:.3f} {y:.3f})",
            "font-family": FAMILY,
            "font-size": f"{size:g}",
            "text-anchor": anchor,
            "fill": self._style["fill"],
        }
        if font in (BOLD, SPARE_BOLD):
            attributes["font-weight"] = "700"
        # A control character is no part of XML, whoever typed it.
        plain = "".join(sign if sign.isprintable() else " " for sign in words)
        ElementTree.SubElement(self._groups[-1], "text", attributes).text = plain


class Path:
    """A way of straight lines."""

    def __init__(self) -> None:
        self._parts: list[str] = []

    def moveTo(self, x: float, y: float) -> None:  # noqa: N802
        self._parts.append(f"M{x:.3f} {y:.3f}")

    def lineTo(self, x: float, y: float) -> None:  # noqa: N802
        self._parts.append(f"L{x:.3f} {y:.3f}")

    def close(self) -> None:
        self._parts.append("Z")

    def text(self) -> str:
        """The way as SVG writes it."""
        return "".join(self._parts)


def _hex(colour: Any) -> str:
    return "#" + "".join(f"{round(255 * part):02x}" for part in colour.rgb())
