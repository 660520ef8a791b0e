import type { ComponentProps } from "react";
import type { Plan } from "../api/client";
import { edges, type SnapTo, type XY } from "./view";

/** A place on the chart that can be dragged, or nudged with the arrow keys. */
export interface Handle {
  key: string;
  label: string;
  at: XY;
  /** What a move does to the plan; a handle that is not of the plan is told its `place` instead. */
  move?: (plan: Plan, to: XY) => Plan;
  place?: (to: XY) => void;
  /** What the arrow keys do, where that is not a move. */
  nudge?: (plan: Plan, to: XY) => Plan;
  snap: SnapTo;
  kind: "corner" | "drain" | "turn" | "whole";
}

interface Props extends ComponentProps<"g"> {
  handle: Handle;
  at: XY;
  held: boolean;
}

/** Something that can be taken hold of: a square at a corner, rings for what turns or drains, a
 * cross of arrows for what moves whole. */
export function HandleMark({ handle, at: [x, y], held, ...on }: Props) {
  const ring = { className: "ring", stroke: "var(--hazard)", strokeWidth: 2 };
  return (
    <g
      className={`handle ${held ? "held" : ""}`}
      role="button"
      tabIndex={0}
      aria-label={`${handle.label}. Arrow keys move it.`}
      data-handle={handle.key}
      onContextMenu={(event) => event.preventDefault()}
      {...on}
    >
      <circle cx={x} cy={y} r={22} fill="transparent" />
      {handle.kind === "corner" && (
        <rect x={x - 6} y={y - 6} width={12} height={12} rx={3} fill="var(--paper)" {...ring} />
      )}
      {handle.kind === "turn" && <circle cx={x} cy={y} r={7} fill="var(--paper)" {...ring} />}
      {handle.kind === "drain" && <circle cx={x} cy={y} r={15} fill="none" {...ring} />}
      {handle.kind === "whole" && (
        <>
          <circle cx={x} cy={y} r={13} fill="var(--paper)" {...ring} />
          <path
            d={`M${x - 8},${y}H${x + 8}M${x},${y - 8}V${y + 8}${ARROWS.map(
              ([dx, dy]) =>
                `M${x + 5 * dx - 3 * dy},${y + 5 * dy - 3 * dx}L${x + 8 * dx},${y + 8 * dy}L${x + 5 * dx + 3 * dy},${y + 5 * dy + 3 * dx}`,
            ).join("")}`}
            fill="none"
            stroke="var(--hazard)"
            strokeWidth={1.8}
          />
        </>
      )}
    </g>
  );
}

const ARROWS: XY[] = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
];

/** Lines that a place of the shower or the drain snaps to. */
export function snapLines(plan: Plan, of: "room" | "shower", without?: number): SnapTo {
  const room = plan.room.outline;
  const shower = plan.shower.outline;
  const own = of === "room" ? room : shower;
  const others = own.filter((_, i) => i !== without);
  const all = of === "room" ? others : [...others, ...room];
  const middle = (values: number[]) => (Math.min(...values) + Math.max(...values)) / 2;
  const centre = of === "room" || without !== undefined ? [] : [shower];
  return {
    xs: [...all.map((p) => p[0]), ...centre.map((points) => middle(points.map((p) => p[0])))],
    ys: [...all.map((p) => p[1]), ...centre.map((points) => middle(points.map((p) => p[1])))],
    walls: of === "room" ? [] : edges(room),
  };
}
