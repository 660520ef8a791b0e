import { Plus, Trash2 } from "lucide-react";
import { useEffect, useState } from "react";
import type { XY } from "../drawing/view";
import { useScreen } from "../job/context";
import { MeasureField } from "../ui/MeasureField";

interface Props {
  of: "room" | "shower";
  title: string;
}

/** Width and depth where the outline is a rectangle; every corner, for any outline. */
export function OutlineFields({ of, title }: Props) {
  const { plan, edit, solution } = useScreen();
  const [opened, open] = useState(false);
  const outline: XY[] = plan[of].outline;
  const box = solution?.drawing[`${of}_box`];
  const path = `/${of}/outline`;

  // Once it is open it stays so, whatever the outline becomes.
  useEffect(() => {
    if (solution && !box) open(true);
  }, [solution, box]);

  const along = (axis: 0 | 1) => outline.map((_, i) => `${path}/${i}/${axis}`);
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">{title}</legend>
      {box && (
        <div className="fields">
          <MeasureField
            label="Width, left to right"
            text={box.width_text}
            value={box.width}
            covers={along(0)}
            stretches={{ which: of, axis: 0 }}
          />
          <MeasureField
            label="Depth, bottom to top"
            text={box.depth_text}
            value={box.depth}
            covers={along(1)}
            stretches={{ which: of, axis: 1 }}
          />
        </div>
      )}
      <details open={opened || !box} className="group">
        {/* biome-ignore lint/a11y/noStaticElementInteractions: a summary is pressed, by keys too */}
        <summary
          className="btn btn-ghost h-11 px-2 font-medium justify-start"
          onClick={(event) => {
            event.preventDefault();
            const list = event.currentTarget.parentElement as HTMLDetailsElement;
            list.open = !list.open;
            open(list.open);
          }}
        >
          Corners, one by one ({outline.length})
        </summary>
        <p className="text-sm mb-1">
          Right and up from the plan's origin. Drag them on the chart, too.
        </p>
        <ul className="space-y-1.5">
          {outline.map((_, i) => (
            <li
              key={i}
              // With larger letters a corner takes more than one line.
              className="flex flex-wrap gap-1.5 items-start"
            >
              <span className="w-6 h-11 flex items-center font-semibold">{i + 1}</span>
              {(["right", "up"] as const).map((way, axis) => (
                <div key={way} className="flex-1 basis-20 min-w-0">
                  <MeasureField
                    compact
                    label={`${title}: corner ${i + 1}, ${way}`}
                    path={`${path}/${i}/${axis}`}
                  />
                </div>
              ))}
              <button
                type="button"
                className="btn btn-ghost btn-square size-11"
                aria-label={`Add a corner after corner ${i + 1}`}
                onClick={() => void edit({ act: "split", which: of, at: i })}
              >
                <Plus size={18} aria-hidden />
              </button>
              <button
                type="button"
                className="btn btn-ghost btn-square size-11"
                aria-label={`Remove corner ${i + 1}`}
                disabled={outline.length < 4 || !solution}
                onClick={() => void edit({ act: "join", which: of, at: i })}
              >
                <Trash2 size={18} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      </details>
    </fieldset>
  );
}
