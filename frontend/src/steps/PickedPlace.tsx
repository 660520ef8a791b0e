import { useEffect, useRef, useState } from "react";
import { api } from "../api/client";
import { useScreen } from "../job/context";
import { MeasureField } from "../ui/MeasureField";

type Half = [number | null, number | null];

const NOWHERE: Half = [null, null];

/** The place that was touched on the chart, which may be typed as well: it is one once both its
 * measures are there. */
export function PickedPlace({ label = "At" }: { label?: string }) {
  const { plan, picked, pick } = useScreen();
  const [half, setHalf] = useState<Half>(NOWHERE);
  const [at, setAt] = useState(["", ""]);
  const place: Half = picked ?? half;
  // What is read while the other measure is typed goes to the place as it then is, and nowhere once
  // another place is asked for.
  const now = useRef<Half | null>(place);
  useEffect(() => {
    now.current = place;
    return () => {
      now.current = null;
    };
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: a place that is let go leaves no half
  useEffect(() => setHalf(NOWHERE), [picked]);
  const [right, up] = place;
  useEffect(() => {
    let current = true;
    const shown = [right, up].map(async (measure) => {
      if (measure === null) return "";
      return (await api.read(`${measure.toFixed(4)} mm`, "length", plan.display)).text;
    });
    void Promise.all(shown)
      .then((texts) => current && setAt(texts))
      .catch(() => current && setAt(["", ""]));
    return () => {
      current = false;
    };
  }, [right, up, plan.display]);
  function commit(axis: 0 | 1, value: number) {
    if (!now.current) return;
    const next: Half = axis === 0 ? [value, now.current[1]] : [now.current[0], value];
    now.current = next;
    const [x, y] = next;
    if (x !== null && y !== null) pick([x, y]);
    else setHalf(next);
  }
  return (
    <div className="flex gap-2">
      {([0, 1] as const).map((axis) => (
        <MeasureField
          key={axis}
          label={`${label}, ${axis === 0 ? "right" : "up"}`}
          value={place[axis] ?? 0}
          text={at[axis]}
          onCommit={(value) => commit(axis, value)}
        />
      ))}
    </div>
  );
}
