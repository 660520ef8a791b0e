import { useEffect, useRef, useState } from "react";
import { api } from "../api/client";
import { unbroken } from "../api/unbroken";
import { useScreen } from "../job/context";
import { kept, measureAt, moved } from "../job/places";
import { begun } from "../ui/begun";
import { MeasureField } from "../ui/MeasureField";

type Half = [number | null, number | null];

const NOWHERE: Half = [null, null];

/** The place that was touched on the chart, which may be typed as well, from two walls: it is one
 * once both its measures are there. */
export function PickedPlace({ label }: { label?: string }) {
  const { plan, solution, picked, pick } = useScreen();
  const [half, setHalf] = useState<Half>(NOWHERE);
  const [at, setAt] = useState(["", ""]);
  const frame = solution?.drawing.frame;
  const place: Half =
    picked && frame ? [measureAt(frame[0], picked), measureAt(frame[1], picked)] : half;
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
  const [first, second] = place;
  useEffect(() => {
    let current = true;
    const shown = [first, second].map(async (measure) => {
      if (measure === null) return "";
      return (await api.read(`${measure.toFixed(4)} mm`, "length", plan.display)).text;
    });
    void Promise.all(shown)
      .then((texts) => current && setAt(texts))
      .catch(() => current && setAt(["", ""]));
    return () => {
      current = false;
    };
  }, [first, second, plan.display]);
  if (!frame) return null;
  function commit(axis: 0 | 1, value: number) {
    if (!now.current || !frame) return;
    const next: Half = axis === 0 ? [value, now.current[1]] : [now.current[0], value];
    now.current = next;
    const [one, other] = next;
    if (one === null || other === null) setHalf(next);
    else pick(kept(moved(moved([0, 0], frame[0], one), frame[1], other)));
  }
  return (
    <div className="fields">
      {([0, 1] as const).map((axis) => (
        <MeasureField
          key={axis}
          label={unbroken(begun([label, frame[axis].name].filter(Boolean).join(", ")))}
          value={place[axis] ?? 0}
          text={at[axis]}
          onCommit={(value) => commit(axis, value)}
        />
      ))}
    </div>
  );
}
