import type { View } from "../../drawing/view";
import { lights, useScreen } from "../../job/context";
import { photoLit } from "./lit";
import { useEntries } from "./useLog";

/** Half of a mark, pixels. */
const HALF = 13;

/** Where photos were taken, each with its entry's number. */
export function PhotoMarks({ view }: { view: View }) {
  const { jobId, shown, show } = useScreen();
  const { data } = useEntries(jobId);
  return (
    <g data-photos>
      {data?.entries.map(({ number, values, photo }) => {
        if (!photo || !values.place) return null;
        const [x, y] = view.at(values.place);
        const lit = shown.lit === photoLit(number);
        return (
          <g
            key={number}
            transform={`translate(${x} ${y})`}
            data-photo={number}
            {...lights(show, photoLit(number))}
          >
            <rect
              x={-HALF - 3}
              y={-HALF}
              width={2 * HALF + 6}
              height={2 * HALF}
              rx={5}
              fill={lit ? "var(--entry)" : "var(--paper)"}
              stroke="var(--ink)"
              strokeWidth={lit ? 2.5 : 1.5}
            />
            <text
              textAnchor="middle"
              dominantBaseline="central"
              fontSize={14}
              fontWeight={700}
              fill={lit ? "var(--paper)" : "var(--ink)"}
            >
              {number}
            </text>
          </g>
        );
      })}
    </g>
  );
}
