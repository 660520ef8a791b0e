import { useScreen } from "../../job/context";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { NameField } from "../../ui/NameField";
import { PlaceFields } from "../../ui/PlaceFields";

const KINDS = ["water", "heating", "cable", "gas", "waste", "other"] as const;

/** Pipes, cables and heating that were found: lines that the drain keeps away from. */
export function ServiceFields() {
  const { plan, set } = useScreen();
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Found in the floor</legend>
      {plan.services.map((service, i) => (
        <div key={i} className="border border-base-300 rounded-box p-2 space-y-2">
          <div className="fields items-end">
            <NameField
              label={`Name of line ${i + 1}`}
              value={service.name}
              onCommit={(name) => set(`/services/${i}/name`, name)}
            />
            <label className="text-sm">
              Kind
              <select
                className="select h-11 text-base mt-1"
                value={service.kind}
                onChange={(event) => set(`/services/${i}/kind`, event.currentTarget.value)}
              >
                {KINDS.map((kind) => (
                  <option key={kind}>{kind}</option>
                ))}
              </select>
            </label>
            <RemoveButton label={`Remove ${service.name}`} path={`/services/${i}`} />
          </div>
          <div className="fields items-end">
            <MeasureField label="Keep clear" path={`/services/${i}/clearance`} />
            {service.depth === null ? (
              <AddButton what="service depth" side={i} outlined>
                Depth not measured
              </AddButton>
            ) : (
              <MeasureField label="Below the top" path={`/services/${i}/depth`} />
            )}
          </div>
          {service.points.map((_, j) => (
            <PlaceFields key={j} label={`Place ${j + 1}`} path={`/services/${i}/points/${j}`} />
          ))}
        </div>
      ))}
      <AddButton what="service">Add a pipe or cable</AddButton>
    </fieldset>
  );
}
