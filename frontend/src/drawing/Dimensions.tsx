import type { Plan, Solution } from "../api/client";
import type { PlaceWay } from "../api/generated/solution";
import { measureAt } from "../job/places";
import { valueAt } from "../job/pointer";
import { useShown } from "../job/shown";
import { type Box, put } from "./clear";
import { HaloText } from "./HaloText";
import type { View, XY } from "./view";

/** From the wall to the middle of the name that stands behind it, pixels: a name is wide and low. */
const [BESIDE, UNDER] = [38, 20];
/** Names stand at least so far inside the chart, pixels. */
const INSIDE = 30;

/** A place with the two walls that it is measured from, while it is touched or typed. */
export function Dimensions({
  plan,
  solution,
  picked,
  view,
  size,
  taken,
}: {
  plan: Plan;
  solution: Solution;
  picked: XY | null | undefined;
  view: View;
  size: { width: number; height: number };
  /** What the chart's caption and the names along its walls take. */
  taken: readonly Box[];
}) {
  const typed = useShown(({ measuring }) => measuring);
  const place = typed === null ? picked : (valueAt(plan, typed) as XY | undefined);
  const measures = typed === null ? solution.drawing.frame : solution.plan_places[typed];
  if (!place || !measures) return null;
  const kept = [...taken];
  return (
    <g aria-hidden data-part="dimensions">
      {measures.map((measure) => (
        <Dimension
          key={measure.of}
          measure={measure}
          place={place}
          view={view}
          size={size}
          taken={kept}
        />
      ))}
    </g>
  );
}

interface DimensionProps {
  measure: PlaceWay;
  place: XY;
  view: View;
  size: { width: number; height: number };
  /** What stands already; the name takes its place among it. */
  taken: Box[];
}

function Dimension({
  measure,
  place: [x, y],
  view,
  size: { width, height },
  taken,
}: DimensionProps) {
  const [u, v] = measure.way;
  const far = measureAt(measure, [x, y]);
  const at = view.at([x, y]);
  const foot = view.at([x - u * far, y - v * far]);
  const length = Math.hypot(foot[0] - at[0], foot[1] - at[1]);
  if (length < 1) return null;
  const [du, dv] = [(foot[0] - at[0]) / length, (foot[1] - at[1]) / length];
  const behind = UNDER + (BESIDE - UNDER) * Math.abs(du);
  const within = (value: number, most: number) => Math.min(Math.max(value, INSIDE), most - INSIDE);
  const behindIt: XY = [
    within(foot[0] + du * behind, width),
    within(foot[1] + dv * behind, height),
  ];
  // Where something stands behind the wall, the name stands beside its line.
  const beside = UNDER + (BESIDE - UNDER) * Math.abs(dv);
  const along = [-1, 1].map(
    (side): XY => [
      (at[0] + foot[0]) / 2 - dv * side * beside,
      (at[1] + foot[1]) / 2 + du * side * beside,
    ],
  );
  const named = put(taken, [behindIt, ...along], BESIDE - 8, 9);
  return (
    <>
      <path
        d={`M${at}L${foot}M${foot[0] - dv * 8},${foot[1] + du * 8}L${foot[0] + dv * 8},${foot[1] - du * 8}`}
        stroke="var(--hazard)"
        strokeWidth={1.5}
        strokeDasharray="6 3"
        fill="none"
      />
      {named && (
        <HaloText at={named} ink="var(--hazard)" size={15}>
          {measure.of}
        </HaloText>
      )}
    </>
  );
}
