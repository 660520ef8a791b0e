import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";

/** The doors of the room: where each is, how it opens, and what lies beyond it. */
export function DoorFields() {
  const { plan } = useScreen();
  const doors = plan.room.doors;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Doors</legend>
      {doors.length === 0 && <p>No door yet. Add the one the room is entered by.</p>}
      {doors.map((_, i) => (
        <DoorField key={i} number={i} />
      ))}
      <AddButton what="door">Add a door</AddButton>
    </fieldset>
  );
}

function DoorField({ number: i }: { number: number }) {
  const { plan, set, solution } = useScreen();
  const door = plan.room.doors[i];
  if (!door) return null;
  const path = `/room/doors/${i}`;
  const hinged = door.kind === "hinged";
  return (
    <div className="space-y-2 border-l-2 border-base-300 pl-3">
      <div className="fields items-end">
        <label className="flex-1 text-sm">
          Door {i + 1} in wall
          <select
            className="select w-full h-11 text-base mt-1"
            value={door.wall}
            onChange={(e) => set(`${path}/wall`, Number(e.currentTarget.value))}
          >
            {plan.room.outline.map((corner, wall) => (
              <option key={String(corner)} value={wall}>
                {wall + 1} ({solution?.drawing.room_sides[wall]})
              </option>
            ))}
          </select>
        </label>
        <RemoveButton label={`Remove door ${i + 1}`} path={path} />
      </div>
      <div className="fields">
        <MeasureField label="From the wall's first corner" path={`${path}/offset`} />
        <MeasureField label="Width" path={`${path}/width`} />
      </div>
      <Choice
        label={`Door ${i + 1} is`}
        value={door.kind}
        options={[
          { value: "hinged", label: "Hinged" },
          { value: "sliding", label: "Sliding" },
        ]}
        onChange={(kind) => set(`${path}/kind`, kind)}
      />
      {hinged && (
        <div className="grid grid-cols-2 gap-2">
          <Choice
            label={`Door ${i + 1} hinge`}
            value={door.hinge}
            path={`${path}/hinge`}
            options={[
              { value: "first", label: "First" },
              { value: "last", label: "Last" },
            ]}
            onChange={(hinge) => set(`${path}/hinge`, hinge)}
          />
          <Choice
            label={`Door ${i + 1} swings`}
            value={door.swing}
            path={`${path}/swing`}
            options={[
              { value: "in", label: "In" },
              { value: "out", label: "Out" },
            ]}
            onChange={(swing) => set(`${path}/swing`, swing)}
          />
        </div>
      )}
      {door.outside === null ? (
        <AddButton what="floor outside" side={i}>
          The floor outside door {i + 1}
        </AddButton>
      ) : (
        <div className="fields items-end">
          <MeasureField
            label="Floor outside, above the deck"
            path={`${path}/outside`}
            hint={`this room's: ${solution?.figures.room_level.text ?? "—"}`}
          />
          <MeasureField label="Ramp there, length" path={`${path}/ramp`} hint="0: none" />
        </div>
      )}
    </div>
  );
}
