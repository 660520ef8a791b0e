import type { XY } from "./view";

export type Box = [x: number, y: number, half: number, tall: number];

/** Of a letter's size: how wide it is, half of how tall its figures are, and what stays free. */
const [WIDE, HALF_TALL, GAP] = [0.6, 0.62, 0.14];
/** How closely boxes stand along a line, and how thick it counts, pixels. */
const [APART, THICK] = [8, 1.5];

/** The size of soundings on a drawing, and of figures beside pins, pixels. */
export const FIGURE = 17;

/** A figure of a drawing whose caption says that all are inches: shorter by their mark. */
export const short = (text: string) => (text.includes("'") ? text : text.replace(/"$/, ""));

/** Half the width of a figure, pixels: the tenth after the point is small. */
export const halfOf = (text: string, size = FIGURE) =>
  (text.replace(/\.\d$/, "·").length * WIDE * size) / 2;

/** Boxes along a line, so that no figure is put on it. */
export function along([ax, ay]: XY, [bx, by]: XY): Box[] {
  const count = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / APART));
  return Array.from({ length: count + 1 }, (_, i) => [
    ax + ((bx - ax) * i) / count,
    ay + ((by - ay) * i) / count,
    THICK,
    THICK,
  ]);
}

const HERE: readonly XY[] = [[0, 0]];

/** Of some shifts those that lead towards a middle, the farthest in first. */
export function inward(shifts: readonly XY[], [x, y]: XY, middle: XY): XY[] {
  const off = ([dx, dy]: XY) => Math.hypot(x + dx - middle[0], y + dy - middle[1]);
  return shifts.filter((shift) => off(shift) < off([0, 0])).toSorted((a, b) => off(a) - off(b));
}

/** The first of some places at which a box runs into nothing that is taken; it is taken then. */
export function put(
  taken: Box[],
  places: readonly XY[],
  half: number,
  tall: number,
  gap = 0,
): XY | null {
  for (const [x, y] of places) {
    const hits = ([tx, ty, w, h]: Box) =>
      Math.abs(tx - x) < w + half + gap && Math.abs(ty - y) < h + tall + gap;
    if (taken.some(hits)) continue;
    taken.push([x, y, half, tall]);
    return [x, y];
  }
  return null;
}

/** What is taken on a drawing already; a figure is put where it is free, or left out. */
export function clearance(taken: Box[]) {
  /** The first of the shifts from a place, in pixels, at which a figure runs into nothing. */
  return ([x, y]: XY, text: string, shifts: readonly XY[] = HERE, size = FIGURE): XY | null => {
    const places = shifts.map(([dx, dy]): XY => [x + dx, y + dy]);
    return put(taken, places, halfOf(text, size), HALF_TALL * size, GAP * size);
  };
}
