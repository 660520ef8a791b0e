import type { ReactNode } from "react";
import type { WallBox } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { useSize, type XY } from "./view";

/** Between two walls, and round all of them, pixels. */
const GAP = 34;
const EDGE = { side: 20, top: 64, foot: 30 };

/** How places on one wall, mm from its left end and up from the floor, lie on the drawing. */
export interface Placed {
  scale: number;
  at: (place: XY) => XY;
  rect: (one: WallBox) => { x: number; y: number; width: number; height: number };
}

interface Props<Wall> {
  walls: readonly Wall[];
  /** From and to up the walls, mm. */
  low: number;
  top: number;
  label: string;
  children: (wall: Wall, place: Placed) => ReactNode;
}

/** Walls from inside, side by side at one scale, from left to right as somebody turns. */
export function UnfoldedWalls<Wall extends { name: string; length: number }>(props: Props<Wall>) {
  const { walls, low, top, label, children } = props;
  const [box, { width, height }] = useSize<SVGSVGElement>();
  const long = walls.reduce((sum, one) => sum + one.length, 0);
  const gaps = GAP * (walls.length - 1);
  const scale = Math.max(
    Math.min((width - 2 * EDGE.side - gaps) / long, (height - EDGE.top - EDGE.foot) / (top - low)),
    0.01,
  );
  const base = height - EDGE.foot + low * scale;
  const starts = walls.map((_, i) => {
    const before = walls.slice(0, i).reduce((sum, one) => sum + one.length * scale + GAP, 0);
    return (width - long * scale - gaps) / 2 + before;
  });
  return (
    <svg ref={box} className="size-full block" role="img" aria-label={label}>
      {width > 0 &&
        walls.map((wall, i) => {
          const at = ([x, y]: XY): XY => [(starts[i] ?? 0) + x * scale, base - y * scale];
          const rect = (one: WallBox) => {
            const [x, y] = at([one.x, one.y + one.height]);
            return { x, y, width: one.width * scale, height: one.height * scale };
          };
          const [left, floor] = at([0, 0]);
          const [right, foot] = at([wall.length, low]);
          const middle = (left + right) / 2;
          return (
            <g key={wall.name}>
              {children(wall, { scale, at, rect })}
              <line
                x1={left}
                x2={right}
                y1={floor}
                y2={floor}
                stroke="var(--entry)"
                strokeWidth={2}
              />
              <HaloText at={[middle, foot + 15]} ink="var(--ink)" size={14}>
                {wall.name}
              </HaloText>
            </g>
          );
        })}
    </svg>
  );
}
