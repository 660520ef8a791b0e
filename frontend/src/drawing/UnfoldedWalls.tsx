import type { ReactNode } from "react";
import type { WallBox } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { useSize, type XY } from "./view";

/** Between two walls, round all of them, and under each for its name, pixels. */
const GAP = 24;
const EDGE = { side: 20, top: 64 };
const NAME = 36;
/** A letter of a name and the distance of its two lines, pixels. */
const LETTER = 8.2;
const LINE = 16;

/** How places on one wall, mm from its left end and up from the floor, lie on the drawing. */
export interface Placed {
  scale: number;
  at: (place: XY) => XY;
  rect: (one: WallBox) => { x: number; y: number; width: number; height: number };
}

interface Unfolded {
  name: string;
  length: number;
}

interface Props<Wall extends Unfolded> {
  walls: readonly Wall[];
  /** From how low all are drawn, mm; below 0 under the floor. */
  low: number;
  /** How high up one is drawn, mm. */
  top: (wall: Wall) => number;
  label: string;
  children: (wall: Wall, place: Placed) => ReactNode;
}

/** Walls from inside, side by side at one scale, from left to right as somebody turns; benches and
 * half walls follow, in a second row where all are larger for it. */
export function UnfoldedWalls<Wall extends Unfolded>(props: Props<Wall>) {
  const { walls, low, top, label, children } = props;
  const [box, { width, height }] = useSize<SVGSVGElement>();
  const { rows, scale } = laidOut(walls, low, top, width, height);
  let base = EDGE.top;
  return (
    <svg ref={box} className="size-full block" role="img" aria-label={label}>
      {width > 0 &&
        rows.map((row) => {
          const slots = row.map((wall) => slot(wall, scale));
          const across = slots.reduce((sum, one) => sum + one + GAP, -GAP);
          base += Math.max(...row.map(top)) * scale;
          const floorY = base;
          base += NAME - low * scale;
          let from = (width - across) / 2;
          return row.map((wall, i) => {
            const own = slots[i] ?? 0;
            const left = from + (own - wall.length * scale) / 2;
            from += own + GAP;
            const at = ([x, y]: XY): XY => [left + x * scale, floorY - y * scale];
            const rect = (one: WallBox) => {
              const [x, y] = at([one.x, one.y + one.height]);
              return { x, y, width: one.width * scale, height: one.height * scale };
            };
            const [, foot] = at([0, low]);
            return (
              <g key={wall.name}>
                {children(wall, { scale, at, rect })}
                <line
                  x1={left}
                  x2={left + wall.length * scale}
                  y1={floorY}
                  y2={floorY}
                  stroke="var(--entry)"
                  strokeWidth={2}
                />
                {wall.name.split(", ").map((part, line) => (
                  <HaloText
                    key={part}
                    at={[left + (wall.length * scale) / 2, foot + 12 + line * LINE]}
                    ink="var(--ink)"
                    size={14}
                    bold={line === 0}
                  >
                    {part}
                  </HaloText>
                ))}
              </g>
            );
          });
        })}
    </svg>
  );
}

/** How wide a wall's place is: no narrower than its name. */
const slot = (wall: Unfolded, scale: number) =>
  Math.max(wall.length * scale, ...wall.name.split(", ").map((part) => part.length * LETTER));

/** The rows in which all walls are drawn largest, and the scale. */
function laidOut<Wall extends Unfolded>(
  walls: readonly Wall[],
  low: number,
  top: (wall: Wall) => number,
  width: number,
  height: number,
) {
  // A face of a bench or half wall is called after it.
  const first = walls.findIndex((wall) => wall.name.includes(", "));
  const ways = first > 0 ? [[walls], [walls.slice(0, first), walls.slice(first)]] : [[walls]];
  const scaled = ways.map((rows) => ({ rows, scale: largest(rows, low, top, width, height) }));
  return scaled.reduce((best, one) => (one.scale > best.scale ? one : best));
}

function largest<Wall extends Unfolded>(
  rows: readonly (readonly Wall[])[],
  low: number,
  top: (wall: Wall) => number,
  width: number,
  height: number,
) {
  const high = rows.reduce((sum, row) => sum + Math.max(...row.map(top)) - low, 0);
  let scale = Math.max((height - EDGE.top - rows.length * NAME) / high, 0.01);
  for (const row of rows) {
    const names = (of: number) =>
      row.reduce((sum, wall) => sum + slot(wall, of) + GAP, 2 * EDGE.side - GAP);
    // Each round takes what names are wider by than their walls from the others.
    for (let round = 0; round < 8 && names(scale) > width; round++) {
      const long = row.reduce((sum, wall) => sum + wall.length, 0);
      scale = Math.max(scale - (names(scale) - width) / long, 0.01);
    }
  }
  return scale;
}
