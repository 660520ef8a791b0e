import type { Plan } from "../../api/client";
import { fixtureHandles } from "../../drawing/fixtures";
import { type Handle, snapLines } from "../../drawing/PlanChart";
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

/** The corners of room and shower, and what stands in the room. */
export const outlineHandles = (plan: Plan): Handle[] => [
  ...corners(plan, "room"),
  ...corners(plan, "shower"),
  ...fixtureHandles(plan),
];
