import { Plus, Trash2 } from "lucide-react";
import type { Door, Fixture } from "../../api/generated/plan";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { MeasureField } from "../../ui/MeasureField";
import { NameField } from "../../ui/NameField";
import { NumberField } from "../../ui/NumberField";
import { OutlineFields } from "../OutlineFields";
import { TapeFields } from "./TapeFields";

/** What was measured: walls, doors, the floor that is there, and where the shower goes. */
export function RoomStep() {
  const { solution } = useScreen();
  return (
    <div className="space-y-5">
      <OutlineFields of="room" title="Room" sides={solution?.drawing.room_sides ?? []} />
      <TapeFields />
      <OutlineFields of="shower" title="Shower" sides={solution?.drawing.shower_sides ?? []} />
      <FloorFields />
      <Doors />
      <Fixtures />
    </div>
  );
}

function FloorFields() {
  const { plan, set } = useScreen();
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
        onChange={(kind) =>
          set(
            "/floor",
            kind === "slab"
              ? { kind, thickness: 100 }
              : {
                  kind,
                  deck_thickness: 18,
                  direction: 90,
                  centres: 400,
                  width: 45,
                  depth: 195,
                  first_offset: 0,
                },
          )
        }
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
  const put = (next: Door[]) => set("/room/doors", next);
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
            <button
              type="button"
              className="btn btn-ghost btn-square size-11"
              aria-label={`Remove door ${i + 1}`}
              onClick={() => put(doors.toSpliced(i, 1))}
            >
              <Trash2 size={18} aria-hidden />
            </button>
          </div>
          <div className="flex gap-2">
            <MeasureField label="From the wall's first corner" path={`/room/doors/${i}/offset`} />
            <MeasureField label="Width" path={`/room/doors/${i}/width`} />
          </div>
          <div className="grid grid-cols-2 gap-2">
            <Choice
              label={`Door ${i + 1} hinge`}
              value={door.hinge}
              options={[
                { value: "first", label: "First" },
                { value: "last", label: "Last" },
              ]}
              onChange={(hinge) => set(`/room/doors/${i}/hinge`, hinge)}
            />
            <Choice
              label={`Door ${i + 1} swings`}
              value={door.swing}
              options={[
                { value: "in", label: "In" },
                { value: "out", label: "Out" },
              ]}
              onChange={(swing) => set(`/room/doors/${i}/swing`, swing)}
            />
          </div>
        </div>
      ))}
      <button
        type="button"
        className="btn btn-ghost h-11 px-2 font-medium"
        onClick={() =>
          put([...doors, { wall: 0, offset: 0, width: 760, hinge: "first", swing: "in" }])
        }
      >
        <Plus size={18} aria-hidden /> Add a door
      </button>
    </fieldset>
  );
}

/** Common sizes to begin with; each is typed over with what stands there. */
const COMMON: Omit<Fixture, "centre">[] = [
  { name: "WC", width: 380, length: 700, turn: 0 },
  { name: "basin", width: 550, length: 450, turn: 0 },
  { name: "cabinet", width: 600, length: 400, turn: 0 },
];

function Fixtures() {
  const { plan, set } = useScreen();
  const fixtures = plan.room.fixtures;
  const put = (next: Fixture[]) => set("/room/fixtures", next);
  // In the corner that lies opposite to where a shower usually stands.
  const [a, b, c] = plan.room.outline as [[number, number], [number, number], [number, number]];
  const centre: [number, number] = [(a[0] + 2 * b[0] + c[0]) / 4, (a[1] + 2 * b[1] + c[1]) / 4];
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
            <button
              type="button"
              className="btn btn-ghost btn-square size-11"
              aria-label={`Remove ${fixture.name}`}
              onClick={() => put(fixtures.toSpliced(i, 1))}
            >
              <Trash2 size={18} aria-hidden />
            </button>
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
        {COMMON.map((fixture) => (
          <button
            key={fixture.name}
            type="button"
            className="btn btn-ghost h-11 px-2 font-medium"
            onClick={() => put([...fixtures, { ...fixture, centre }])}
          >
            <Plus size={18} aria-hidden /> {fixture.name}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
