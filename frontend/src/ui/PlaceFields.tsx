import type { ReactNode } from "react";
import { unbroken } from "../api/unbroken";
import { useScreen } from "../job/context";
import { measureAt } from "../job/places";
import { valueAt } from "../job/pointer";
import { useShow } from "../job/shown";
import { MeasureField } from "./MeasureField";

interface Props {
  label: string;
  path: string;
  /** What stands in the same row. */
  children?: ReactNode;
}

/** A place of the plan, typed by two measures, most often from two walls. */
export function PlaceFields({ label, path, children }: Props) {
  const { plan, solution } = useScreen();
  const place = valueAt(plan, path) as [number, number];
  const show = useShow();
  const how = solution?.plan_places[path];
  return (
    <fieldset
      aria-label={label}
      className="fields items-end"
      onFocus={() => show({ measuring: path })}
      onBlur={() => show({ measuring: null })}
    >
      {([0, 1] as const).map((axis) => {
        const pointer = `${path}/${axis}`;
        const measure = how?.[axis];
        if (!measure)
          // What was never worked out can still be put right, as it stands in the plan.
          return (
            <MeasureField
              key={axis}
              label={`${label}, ${axis === 0 ? "right" : "up"}`}
              path={pointer}
            />
          );
        const { name, text, way, offset, move } = measure;
        return (
          <MeasureField
            key={axis}
            label={unbroken(`${label}, ${name}`)}
            of={{ place: path, way, offset, move }}
            value={measureAt(measure, place)}
            text={text}
            covers={[pointer]}
          />
        );
      })}
      {children}
    </fieldset>
  );
}
