import { Plus, Trash2 } from "lucide-react";
import type { Layer } from "../api/generated/plan";
import { useScreen } from "../job/context";
import { valueAt } from "../job/pointer";
import { MeasureField } from "./MeasureField";
import { NameField } from "./NameField";

/** The layers of a floor from the tile down: their names and thicknesses. */
export function LayerList({ title, path, total }: { title: string; path: string; total?: string }) {
  const { plan, set } = useScreen();
  const layers: Layer[] = valueAt(plan, path);
  return (
    <fieldset>
      <legend className="flex w-full items-baseline gap-2 font-semibold mb-1">
        <span className="flex-1">{title}</span>
        {total && <span className="text-sm font-normal">in all {total}</span>}
      </legend>
      <ul className="space-y-1.5">
        {layers.map((layer, i) => (
          <li key={i} className="grid grid-cols-[1fr_6.5rem_2.75rem] gap-1.5">
            <NameField
              label={`${title}: name of layer ${i + 1}`}
              value={layer.name}
              onCommit={(name) => set(`${path}/${i}/name`, name)}
            />
            <MeasureField
              compact
              label={`${title}: thickness of ${layer.name}`}
              path={`${path}/${i}/thickness`}
            />
            <button
              type="button"
              className="btn btn-ghost btn-square size-11"
              aria-label={`Remove ${layer.name}`}
              onClick={() => set(path, [...layers.slice(0, i), ...layers.slice(i + 1)])}
            >
              <Trash2 size={18} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn btn-ghost h-11 px-2 mt-1 font-medium"
        onClick={() => set(path, [...layers, { name: "new layer", thickness: 0 }])}
      >
        <Plus size={18} aria-hidden /> Add a layer
      </button>
    </fieldset>
  );
}
