import { area, edges, type XY } from "./view";

/** A wall of an outline: where it starts, its unit vectors along and inwards, its length, mm. */
export interface Wall {
  from: XY;
  along: XY;
  inward: XY;
  length: number;
}

/** The walls of an outline, whichever way round it goes. */
export function wallsOf(outline: XY[]): Wall[] {
  const way = area(outline) > 0 ? 1 : -1;
  return edges(outline).map(([a, b]) => {
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const along: XY = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const inward: XY = [-along[1] * way, along[0] * way];
    return { from: a, along, inward, length };
  });
}

/** Where a place lies along a wall, and how far off it. */
export function seenFrom({ from, along, inward }: Wall, [x, y]: XY): XY {
  const [dx, dy] = [x - from[0], y - from[1]];
  return [dx * along[0] + dy * along[1], dx * inward[0] + dy * inward[1]];
}

/** What comes nearer to a wall than this, mm, stands against it. */
export const SNAP = 80;
