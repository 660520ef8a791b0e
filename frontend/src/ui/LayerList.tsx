import { useScreen } from "../job/context";
import { AddButton, RemoveButton } from "./ListButtons";
import { MeasureField } from "./MeasureField";
import { NameField } from "./NameField";

interface Props {
  title: string;
  of: "room" | "shower";
  total?: string;
}

/** The layers of a floor from the tile down: their names and thicknesses. */
export function LayerList({ title, of, total }: Props) {
  const { plan, set } = useScreen();
  const path = `/${of}/layers`;
  const layers = plan[of].layers;
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
            <RemoveButton label={`Remove ${layer.name}`} path={`${path}/${i}`} />
          </li>
        ))}
      </ul>
      <AddButton what={`${of} layer`}>Add a layer</AddButton>
    </fieldset>
  );
}
