import { useEffect, useState } from "react";
import { api } from "../api/client";
import { useScreen } from "../job/context";
import { MeasureField } from "../ui/MeasureField";

/** The place that was touched on the chart, which may be typed as well. */
export function PickedPlace({ label = "At" }: { label?: string }) {
  const { plan, picked, pick } = useScreen();
  const [at, setAt] = useState(["", ""]);
  useEffect(() => {
    if (!picked) return setAt(["", ""]);
    let current = true;
    const shown = picked.map((place) => api.read(`${place.toFixed(4)} mm`, "length", plan.display));
    void Promise.all(shown)
      .then((answers) => current && setAt(answers.map((answer) => answer.text)))
      .catch(() => current && setAt(["", ""]));
    return () => {
      current = false;
    };
  }, [picked, plan.display]);
  return (
    <div className="flex gap-2">
      <MeasureField
        label={`${label}, right`}
        value={picked?.[0] ?? 0}
        text={at[0]}
        onCommit={(x) => pick([x, picked?.[1] ?? 0])}
      />
      <MeasureField
        label={`${label}, up`}
        value={picked?.[1] ?? 0}
        text={at[1]}
        onCommit={(y) => pick([picked?.[0] ?? 0, y])}
      />
    </div>
  );
}
