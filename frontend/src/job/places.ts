import type { PlaceWay } from "../api/generated/solution";

type XY = [number, number];
/** How one of a place's two measures hangs on it, as the core says. */
export type Way = Pick<PlaceWay, "way" | "offset" | "move">;

/** The measure at a place, mm. */
export const measureAt = ({ way, offset }: Way, [x, y]: XY) => way[0] * x + way[1] * y + offset;

/** The place at which the measure is another, and the other one as it was. */
export function moved(place: XY, measure: Way, value: number): XY {
  const by = value - measureAt(measure, place);
  return [place[0] + by * measure.move[0], place[1] + by * measure.move[1]];
}

/** A measure, mm, and a place, as a plan keeps them. */
export const whole = (value: number) => Math.round(value * 1e4) / 1e4;
export const kept = ([x, y]: XY): XY => [whole(x), whole(y)];
