import type { Plan } from "../api/client";
import { type Box, put } from "./clear";
import { area, edges, type View, type XY } from "./view";

/** What is written along a side: outside it (a positive offset, pixels) or inside. */
export interface Side {
  edge: [XY, XY];
  text: string;
  /** Written instead where the side is too short for the whole text. */
  short?: string;
  offset: number;
  ink?: string;
}

/** A side's text where it stands. */
export interface SideLabel {
  side: number;
  at: XY;
  turn: number;
  text: string;
  ink: string;
  /** What it takes of the drawing. */
  box: Box;
}

/** How wide a letter is and half of how tall, pixels; a side shorter than the least has no text. */
const [LETTER, HALF, LEAST] = [8, 8, 34];

/** Whether the outline turns the other way at a corner. */
function inner(outline: XY[], corner: XY): boolean {
  const i = outline.indexOf(corner);
  if (i < 0) return false;
  const [p, q] = [outline.at(i - 1) as XY, outline[(i + 1) % outline.length] as XY];
  const turn = (corner[0] - p[0]) * (q[1] - corner[1]) - (corner[1] - p[1]) * (q[0] - corner[0]);
  return turn * area(outline) < 0;
}

/** What of each wall runs along the shower; the whole wall where nothing does. */
export function besideShower(plan: Plan): [XY, XY][] {
  return edges(plan.room.outline).map(([a, b]): [XY, XY] => {
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const on = ([x, y]: XY) =>
      Math.min(
        Math.max(((x - a[0]) * (b[0] - a[0]) + (y - a[1]) * (b[1] - a[1])) / length, 0),
        length,
      );
    const at = (s: number): XY => [
      a[0] + ((b[0] - a[0]) * s) / length,
      a[1] + ((b[1] - a[1]) * s) / length,
    ];
    const reach = plan.shower.outline.map(on);
    const [near, far] = [Math.min(...reach), Math.max(...reach)];
    return far - near > 1 ? [at(near), at(far)] : [a, b];
  });
}

/** Where texts along the sides of an outline stand clear of all that is taken; they take their
 * place then. One that finds none is left out. */
export function sideLabels(sides: Side[], outline: XY[], view: View, taken: Box[]): SideLabel[] {
  const way = area(outline) > 0 ? 1 : -1;
  return sides.flatMap(({ edge, text, short = text, offset, ink = "var(--ink)" }, side) => {
    const [a, b] = edge.map(view.at) as [XY, XY];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (length < LEAST || !text) return [];
    const said = length < text.length * LETTER ? short : text;
    const wide = said.length * LETTER;
    // Inside there is more to run into than paper.
    if (offset < 0 && length < wide) return [];
    const [u, v] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    // Two sides that meet in an inner corner would run into each other in front of it.
    const [first, last] = edge.map((corner) => inner(outline, corner)) as [boolean, boolean];
    const spare = Math.max(0, (length - wide) / 2);
    const shift = (Number(first) - Number(last)) * Math.min(spare, Math.abs(offset));
    let turn = (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI;
    if (turn > 90.5 || turn <= -89.5) turn += 180;
    const places = [shift, spare, -spare].map(
      (along): XY => [
        (a[0] + b[0]) / 2 - v * way * offset + u * along,
        (a[1] + b[1]) / 2 + u * way * offset + v * along,
      ],
    );
    const half = (one: number, other: number) =>
      Math.abs(one) * (wide / 2) * 0.9 + Math.abs(other) * HALF;
    const [across, tall] = [half(u, v), half(v, u)];
    const at = put(taken, places, across, tall);
    return at ? [{ side, at, turn, text: said, ink, box: [...at, across, tall] }] : [];
  });
}

export function SideText({ label: { at, turn, text, ink } }: { label: SideLabel }) {
  const [x, y] = at;
  return (
    <text
      x={x}
      y={y}
      dy="0.35em"
      textAnchor="middle"
      fontSize={15}
      fontWeight={550}
      fill={ink}
      className="halo"
      transform={`rotate(${turn.toFixed(2)} ${x} ${y})`}
    >
      {text}
    </text>
  );
}
