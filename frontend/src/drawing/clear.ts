import type { XY } from "./view";

export type Box = [x: number, y: number, half: number, tall: number];

/** Pixels that a figure of the soundings' size takes for each of its letters. */
const LETTER = 10;
const [HALF_TALL, GAP] = [12, 5];

/** Half the width of a sounding, pixels: the tenth after the point is small. */
const halfOf = (text: string) => (text.replace(/\.\d$/, "·").length * LETTER) / 2;

/** What is taken on a drawing already: figures that would run into it are left out. */
export function clearance(taken: Box[]) {
  return ([x, y]: XY, text: string): boolean => {
    const half = halfOf(text) + GAP;
    const hits = ([tx, ty, w, h]: Box) =>
      Math.abs(tx - x) < w + half && Math.abs(ty - y) < h + HALF_TALL;
    if (taken.some(hits)) return false;
    taken.push([x, y, halfOf(text), HALF_TALL]);
    return true;
  };
}
