import type { Plan } from "../../api/client";
import { type Handle, snapLines } from "../../drawing/handles";
import type { XY } from "../../drawing/view";
import { withValue } from "../../job/pointer";

/** The drains, or the channel and its ends. */
export function drainHandles(plan: Plan): Handle[] {
  const own = plan.shower.drain;
  const snap = snapLines(plan, "shower");
  if (own.kind === "point") {
    const point = (key: string, label: string, at: XY, pointer: string): Handle => ({
      key,
      label,
      at,
      kind: "drain",
      snap,
      move: (old, to) => withValue(old, pointer, to),
    });
    const second = plan.shower.second_drain;
    return [
      point("drain", "Drain", own.centre, "/shower/drain/centre"),
      ...(second
        ? [point("drain-2", "Second drain", second.centre, "/shower/second_drain/centre")]
        : []),
    ];
  }
  const half = own.width / 2;
  const beside = {
    xs: snap.xs.flatMap((x) => [x, x - half, x + half]),
    ys: snap.ys.flatMap((y) => [y, y - half, y + half]),
    walls: [],
  };
  const middle: XY = [(own.start[0] + own.end[0]) / 2, (own.start[1] + own.end[1]) / 2];
  const whole: Handle = {
    key: "drain",
    label: "Channel",
    at: middle,
    kind: "drain",
    snap: beside,
    move: (old, to) => {
      const d = old.shower.drain;
      if (d.kind !== "linear") return old;
      const dx = to[0] - (d.start[0] + d.end[0]) / 2;
      const dy = to[1] - (d.start[1] + d.end[1]) / 2;
      const shift = ([x, y]: XY): XY => [x + dx, y + dy];
      return withValue(old, "/shower/drain", { ...d, start: shift(d.start), end: shift(d.end) });
    },
  };
  const ends: Handle[] = (["start", "end"] as const).map((end) => ({
    key: `drain-${end}`,
    label: end === "start" ? "First end of the channel" : "Other end of the channel",
    at: own[end],
    kind: "corner",
    snap: beside,
    move: (old, to) => withValue(old, `/shower/drain/${end}`, to),
  }));
  return [...ends, whole];
}
