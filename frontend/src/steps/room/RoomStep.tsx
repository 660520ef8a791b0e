import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { NameField } from "../../ui/NameField";
import { NumberField } from "../../ui/NumberField";
import { OutlineFields } from "../OutlineFields";
import { TapeFields } from "./TapeFields";

/** What was measured: walls, doors, the floor that is there, and where the shower goes. */
export function RoomStep() {
  return (
    <div className="space-y-5">
      <OutlineFields of="room" title="Room" />
      <TapeFields />
      <OutlineFields of="shower" title="Shower" />
      <FloorFields />
      <Doors />
      <Fixtures />
    </div>
  );
}

function FloorFields() {
  const { plan, edit } = useScreen();
  const floor = plan.floor;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Existing floor</legend>
      <Choice
        label="Kind of floor"
        value={floor.kind}
        options={[
          { value: "joists", label: "Boards on joists" },
          { value: "slab", label: "Slab" },
        ]}
        path="/floor/kind"
        onChange={(kind) => void edit({ act: "add", what: kind })}
      />
      {floor.kind === "slab" ? (
        <MeasureField label="Slab thickness" path="/floor/thickness" />
      ) : (
        <>
          <div className="flex gap-2">
            <MeasureField label="Deck thickness" path="/floor/deck_thickness" />
            <MeasureField label="Joist centres" path="/floor/centres" />
          </div>
          <div className="flex gap-2">
            <MeasureField label="Joist width" path="/floor/width" />
            <MeasureField label="Joist depth" path="/floor/depth" />
          </div>
          <div className="flex gap-2">
            <NumberField
              label="Joist direction, °"
              path="/floor/direction"
              hint="0 across, 90 up the plan"
            />
            <MeasureField
              label="First joist from origin"
              path="/floor/first_offset"
              hint="square to the joists"
            />
          </div>
        </>
      )}
    </fieldset>
  );
}

function Doors() {
  const { plan, set, solution } = useScreen();
  const doors = plan.room.doors;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Doors</legend>
      {doors.length === 0 && <p>No door yet. Add the one the room is entered by.</p>}
      {doors.map((door, i) => (
        <div key={i} className="space-y-2 border-l-2 border-base-300 pl-3">
          <div className="flex gap-2 items-end">
            <label className="flex-1 text-sm">
              Door {i + 1} in wall
              <select
                className="select w-full h-11 text-base mt-1"
                value={door.wall}
                onChange={(e) => set(`/room/doors/${i}/wall`, Number(e.currentTarget.value))}
              >
                {plan.room.outline.map((corner, wall) => (
                  <option key={String(corner)} value={wall}>
                    {wall + 1} ({solution?.drawing.room_sides[wall]})
                  </option>
                ))}
              </select>
            </label>
            <RemoveButton label={`Remove door ${i + 1}`} path={`/room/doors/${i}`} />
          </div>
          <div className="flex gap-2">
            <MeasureField label="From the wall's first corner" path={`/room/doors/${i}/offset`} />
            <MeasureField label="Width" path={`/room/doors/${i}/width`} />
          </div>
          <div className="grid grid-cols-2 gap-2">
            <Choice
              label={`Door ${i + 1} hinge`}
              value={door.hinge}
              path={`/room/doors/${i}/hinge`}
              options={[
                { value: "first", label: "First" },
                { value: "last", label: "Last" },
              ]}
              onChange={(hinge) => set(`/room/doors/${i}/hinge`, hinge)}
            />
            <Choice
              label={`Door ${i + 1} swings`}
              value={door.swing}
              path={`/room/doors/${i}/swing`}
              options={[
                { value: "in", label: "In" },
                { value: "out", label: "Out" },
              ]}
              onChange={(swing) => set(`/room/doors/${i}/swing`, swing)}
            />
          </div>
        </div>
      ))}
      <AddButton what="door">Add a door</AddButton>
    </fieldset>
  );
}

function Fixtures() {
  const { plan, set } = useScreen();
  const fixtures = plan.room.fixtures;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Fixtures</legend>
      {fixtures.map((fixture, i) => (
        <div key={i} className="space-y-2 border-l-2 border-base-300 pl-3">
          <div className="flex gap-2">
            <NameField
              label={`Name of fixture ${i + 1}`}
              value={fixture.name}
              onCommit={(name) => set(`/room/fixtures/${i}/name`, name)}
            />
            <RemoveButton label={`Remove ${fixture.name}`} path={`/room/fixtures/${i}`} />
          </div>
          <div className="flex gap-2">
            <MeasureField label={`${fixture.name}, right`} path={`/room/fixtures/${i}/centre/0`} />
            <MeasureField label={`${fixture.name}, up`} path={`/room/fixtures/${i}/centre/1`} />
          </div>
          <div className="flex gap-2">
            <MeasureField label="Across" path={`/room/fixtures/${i}/width`} />
            <MeasureField label="Deep" path={`/room/fixtures/${i}/length`} />
            <NumberField label="Turned, °" path={`/room/fixtures/${i}/turn`} />
          </div>
        </div>
      ))}
      <div className="flex flex-wrap gap-1">
        {(["WC", "basin", "cabinet"] as const).map((name) => (
          <AddButton key={name} what={name}>
            {name}
          </AddButton>
        ))}
      </div>
    </fieldset>
  );
}
