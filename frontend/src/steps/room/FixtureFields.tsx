import type { Addition } from "../../api/client";
import { useScreen } from "../../job/context";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { NameField } from "../../ui/NameField";
import { NumberField } from "../../ui/NumberField";
import { PlaceFields } from "../../ui/PlaceFields";

const ROOM: Addition[] = ["WC", "basin", "cabinet", "washing machine", "radiator", "column"];
const SHOWER: Addition[] = [
  "seat",
  "folding seat",
  "bench",
  "half wall",
  "bar",
  "control",
  "head",
  "screen",
  "curtain",
];

const KINDS = [...ROOM, ...SHOWER, "other"];

/** What stands and hangs in the room. */
export function FixtureFields() {
  const { plan, set, solution } = useScreen();
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Fixtures</legend>
      {plan.room.fixtures.map((fixture, i) => {
        const path = `/room/fixtures/${i}`;
        return (
          <div key={i} className="space-y-2 border-l-2 border-base-300 pl-3">
            <div className="fields">
              <NameField
                label={`Name of fixture ${i + 1}`}
                value={fixture.name}
                onCommit={(name) => set(`${path}/name`, name)}
              />
              <select
                className="select h-11 text-base w-36 shrink-0"
                aria-label={`${fixture.name} is a`}
                value={fixture.kind}
                onChange={(event) => set(`${path}/kind`, event.currentTarget.value)}
              >
                {KINDS.map((kind) => (
                  <option key={kind}>{kind}</option>
                ))}
              </select>
              <RemoveButton label={`Remove ${fixture.name}`} path={path} />
            </div>
            <PlaceFields label={fixture.name} path={`${path}/centre`}>
              <NumberField label="Looks, °" path={`${path}/turn`} step={[1, 90]} />
            </PlaceFields>
            <div className="fields">
              <MeasureField label="Across" path={`${path}/width`} />
              <MeasureField label="Deep" path={`${path}/length`} />
              {solution?.drawing.with_height.includes(i) && (
                <MeasureField label="Up from floor" path={`${path}/height`} />
              )}
            </div>
          </div>
        );
      })}
      <p className="text-sm">
        Drag one on the chart: near a wall it turns its back to it. It faces the top of the drawing
        at 0°, the left at 90°.
      </p>
      <Additions title="In the room" what={ROOM} />
      <Additions title="In the shower" what={SHOWER} />
    </fieldset>
  );
}

function Additions({ title, what }: { title: string; what: Addition[] }) {
  return (
    <div>
      <p className="text-sm">{title}</p>
      <div className="flex flex-wrap gap-x-1">
        {what.map((name) => (
          <AddButton key={name} what={name}>
            {name}
          </AddButton>
        ))}
      </div>
    </div>
  );
}
