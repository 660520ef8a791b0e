import type { View } from "../../drawing/view";
import { useScreen } from "../../job/context";
import { useLights, useShown } from "../../job/shown";
import { photoLit } from "./lit";
import { useEntries } from "./useLog";

/** Half of a mark, pixels; photos that lie no farther apart, mm, share one. */
const [HALF, SAME] = [13, 60];

/** Where photos were taken, each with its entry's number. */
export function PhotoMarks({ view }: { view: View }) {
  const { jobId } = useScreen();
  const lights = useLights();
  const pointed = useShown(({ lit }) => lit);
  const { data } = useEntries(jobId);
  const places = new Map<string, { at: [number, number]; numbers: number[] }>();
  for (const { number, values, photo } of data?.entries ?? []) {
    if (!photo || !values.place) continue;
    const name = values.place.map((part) => Math.round(part / SAME)).join(" ");
    const there = places.get(name);
    if (there) there.numbers.push(number);
    else places.set(name, { at: values.place, numbers: [number] });
  }
  return (
    <g data-photos>
      {[...places.values()].map(({ at, numbers }) => {
        const [x, y] = view.at(at);
        const lit = numbers.some((number) => pointed === photoLit(number));
        const text = numbers.join(", ");
        const half = HALF + 3 + (text.length - 1) * 4;
        return (
          <g
            key={text}
            transform={`translate(${x} ${y})`}
            data-photo={numbers[0]}
            {...lights(photoLit(numbers.at(-1) ?? 0))}
          >
            <rect
              x={-half}
              y={-HALF}
              width={2 * half}
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
              {text}
            </text>
          </g>
        );
      })}
    </g>
  );
}
