import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { api, type Problem } from "../api/client";
import type { XY } from "../drawing/view";
import { useScreen } from "../job/context";
import { withValue } from "../job/pointer";
import { MeasureField } from "../ui/MeasureField";

interface Props {
  of: "room" | "shower";
  title: string;
  sides: string[];
}

/** The bounds of an outline that is a rectangle along the axes; null for any other. */
function box(outline: XY[]) {
  if (outline.length !== 4) return null;
  const xs = outline.map((p) => p[0]);
  const ys = outline.map((p) => p[1]);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [bottom, top] = [Math.min(...ys), Math.max(...ys)];
  const square = outline.every(
    ([x, y]) => (x === left || x === right) && (y === bottom || y === top),
  );
  return square ? { left, right, bottom, top } : null;
}

/** Width and depth where the outline is a rectangle; every corner, for any outline. */
export function OutlineFields({ of, title, sides }: Props) {
  const { plan, change, during, solution } = useScreen();
  const [problem, setProblem] = useState("");
  const outline: XY[] = plan[of].outline;
  const bounds = box(outline);
  const path = `/${of}/outline`;
  const put = (next: XY[]) => change((old) => withValue(old, path, next));

  // The room grows from its lower left corner; the shower stays at the wall it stands at.
  function stretch(axis: 0 | 1, size: number) {
    if (!bounds) return;
    const [low, high] = axis === 0 ? [bounds.left, bounds.right] : [bounds.bottom, bounds.top];
    const room = plan.room.outline.map((p) => p[axis]);
    const atFarWall = of === "shower" && Math.abs(high - Math.max(...room)) < 1;
    const atNearWall = Math.abs(low - Math.min(...room)) < 1;
    const keepHigh = atFarWall && !atNearWall;
    const [from, to] = keepHigh ? [low, high - size] : [high, low + size];
    put(outline.map((p) => (p[axis] === from ? (axis === 0 ? [to, p[1]] : [p[0], to]) : p)));
  }

  // Entries, doors and tray cuts name sides by number: the core lets them follow.
  async function edit(act: "split" | "remove", at: number) {
    try {
      const edited = await during(api.editOutline(plan, of, act, at));
      setProblem("");
      change((old) => (old === plan ? edited : old));
    } catch (error) {
      setProblem((error as Problem).message);
    }
  }

  const along = (axis: 0 | 1) => outline.map((_, i) => `${path}/${i}/${axis}`);
  const side = (axis: 0 | 1) =>
    sides[outline.findIndex((p, i) => outline[(i + 1) % 4]?.[axis] !== p[axis])] ?? "";
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">{title}</legend>
      {bounds && (
        <div className="flex gap-2">
          <MeasureField
            label="Width, left to right"
            text={side(0)}
            value={bounds.right - bounds.left}
            covers={along(0)}
            onCommit={(size) => stretch(0, size)}
          />
          <MeasureField
            label="Depth, up the plan"
            text={side(1)}
            value={bounds.top - bounds.bottom}
            covers={along(1)}
            onCommit={(size) => stretch(1, size)}
          />
        </div>
      )}
      <details open={!bounds || undefined} className="group">
        <summary className="btn btn-ghost h-11 px-2 font-medium justify-start">
          Corners, one by one ({outline.length})
        </summary>
        <p className="text-sm mb-1">
          Right and up from the plan's origin. Drag them on the chart, too.
        </p>
        <ul className="space-y-1.5">
          {outline.map((_, i) => (
            <li
              key={i}
              className="grid grid-cols-[1.5rem_1fr_1fr_2.75rem_2.75rem] gap-1.5 items-start"
            >
              <span className="h-11 flex items-center font-semibold">{i + 1}</span>
              <MeasureField
                compact
                label={`${title}: corner ${i + 1}, right`}
                path={`${path}/${i}/0`}
              />
              <MeasureField
                compact
                label={`${title}: corner ${i + 1}, up`}
                path={`${path}/${i}/1`}
              />
              <button
                type="button"
                className="btn btn-ghost btn-square size-11"
                aria-label={`Add a corner after corner ${i + 1}`}
                onClick={() => void edit("split", i)}
              >
                <Plus size={18} aria-hidden />
              </button>
              <button
                type="button"
                className="btn btn-ghost btn-square size-11"
                aria-label={`Remove corner ${i + 1}`}
                disabled={outline.length < 4 || !solution}
                onClick={() => void edit("remove", i)}
              >
                <Trash2 size={18} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
        {problem && (
          <p role="alert" className="text-error mt-1">
            {problem}
          </p>
        )}
      </details>
    </fieldset>
  );
}
