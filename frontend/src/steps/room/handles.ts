import type { Plan } from "../../api/client";
import { fixtureHandles } from "../../drawing/fixtures";
import { type Handle, snapLines } from "../../drawing/handles";
import { edges, type XY } from "../../drawing/view";
import { SNAP, seenFrom, type Wall, wallsOf } from "../../drawing/walls";
import { whole } from "../../job/places";
import { withValue } from "../../job/pointer";

const corners = (plan: Plan, of: "room" | "shower"): Handle[] =>
  plan[of].outline.map((at, i) => ({
    key: `${of}-${i}`,
    label: `${of === "room" ? "Room" : "Shower"} corner ${i + 1}`,
    at,
    kind: "corner",
    snap: snapLines(plan, of, i),
    move: (old, to) => withValue(old, `/${of}/outline/${i}`, to),
  }));

/** By how much more a shower has to go to stand against the walls that it comes near to. */
function toWalls(outline: XY[], room: XY[]): XY {
  let by: XY = [0, 0];
  let against: XY | null = null;
  for (const wall of wallsOf(room)) {
    const { along, inward, length } = wall;
    const beside = outline
      .map(([x, y]) => seenFrom(wall, [x + by[0], y + by[1]]))
      .filter(([at]) => at > -SNAP && at < length + SNAP);
    const off = Math.min(...beside.map(([, away]) => away));
    if (Math.abs(off) > SNAP) continue;
    if (!against) {
      by = [by[0] - off * inward[0], by[1] - off * inward[1]];
      against = along;
      continue;
    }
    // Along the first wall, so that it stays against that one.
    const towards = against[0] * inward[0] + against[1] * inward[1];
    if (Math.abs(towards) < 0.5) continue;
    return [by[0] - (off / towards) * against[0], by[1] - (off / towards) * against[1]];
  }
  return by;
}

/** The plan with its shower moved whole, with its drains and what belongs to it. */
function moved(plan: Plan, [dx, dy]: XY, along: readonly number[]): Plan {
  const at = ([x, y]: XY): XY => [whole(x + dx), whole(y + dy)];
  const { shower, room } = plan;
  const drain =
    shower.drain.kind === "point"
      ? { ...shower.drain, centre: at(shower.drain.centre) }
      : { ...shower.drain, start: at(shower.drain.start), end: at(shower.drain.end) };
  const second = shower.second_drain;
  return {
    ...plan,
    shower: {
      ...shower,
      outline: shower.outline.map(at),
      drain,
      second_drain: second && { ...second, centre: at(second.centre) },
    },
    room: {
      ...room,
      fixtures: room.fixtures.map((one, i) =>
        along.includes(i) ? { ...one, centre: at(one.centre) } : one,
      ),
    },
  };
}

/** The same distance along the shower's own sides, the way that is nearest: in a room that is turned
 * arrow keys then lead along its walls. */
function alongSides({ shower: { outline, entries } }: Plan, by: XY): XY {
  const { along, inward } = wallsOf(outline)[entries[0] ?? 0] as Wall;
  const ways: XY[] = [along, inward].flatMap(([x, y]): XY[] => [
    [x, y],
    [-x, -y],
  ]);
  const towards = ([x, y]: XY) => x * by[0] + y * by[1];
  const [x, y] = ways.reduce((best, way) => (towards(way) > towards(best) + 1e-9 ? way : best));
  const far = Math.hypot(...by);
  return [x * far, y * far];
}

/** The shower, taken hold of at its entry: it goes whole, and stands against walls that are near. */
function shower(plan: Plan, along: readonly number[]): Handle {
  const middle = ({ shower: { outline, entries } }: Plan): XY => {
    const [a, b] = edges(outline)[entries[0] ?? 0] as [XY, XY];
    return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  };
  const by = (old: Plan, to: XY): XY => {
    const [x, y] = middle(old);
    return [to[0] - x, to[1] - y];
  };
  return {
    key: "shower",
    label: "Shower, whole",
    at: middle(plan),
    kind: "whole",
    snap: { xs: [], ys: [], walls: [] },
    move: (old, to) => {
      const [dx, dy] = by(old, to);
      const there = old.shower.outline.map(([x, y]): XY => [x + dx, y + dy]);
      const [mx, my] = toWalls(there, old.room.outline);
      return moved(old, [dx + mx, dy + my], along);
    },
    nudge: (old, to) => moved(old, alongSides(old, by(old, to)), along),
  };
}

/** The corners of room and shower, the shower as a whole, and what stands in the room. */
export const outlineHandles = (plan: Plan, ofShower: readonly number[]): Handle[] => [
  ...corners(plan, "room"),
  ...corners(plan, "shower"),
  ...fixtureHandles(plan),
  shower(plan, ofShower),
];
