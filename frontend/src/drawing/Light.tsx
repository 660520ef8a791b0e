import type { XY } from "./view";

/** A disc under a mark of the chart: large enough for a thumb, seen while the mark is pointed at. */
export function Light({ at: [x, y], on }: { at: XY; on: boolean }) {
  return (
    <circle
      cx={x}
      cy={y}
      r={14}
      data-lit={on || undefined}
      fill={on ? "var(--hazard)" : "transparent"}
      opacity={0.3}
    />
  );
}
