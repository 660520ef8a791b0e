import { FlipHorizontal2, FlipVertical2 } from "lucide-react";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { MeasureField } from "../../ui/MeasureField";
import { NumberField } from "../../ui/NumberField";
import { OutlineFields } from "../OutlineFields";
import { DoorFields } from "./DoorFields";
import { DrawingFile } from "./DrawingFile";
import { FixtureFields } from "./FixtureFields";
import { NoteField } from "./NoteField";
import { TapeFields } from "./TapeFields";

/** What was measured: walls, doors, the floor that is there, and where the shower goes. */
export function RoomStep() {
  return (
    <div className="space-y-5">
      <NoteField />
      <OutlineFields of="room" title="Room" />
      <TapeFields />
      <DrawingFile />
      <OutlineFields of="shower" title="Shower" />
      <OtherSide />
      <FloorFields />
      <DoorFields />
      <FixtureFields />
    </div>
  );
}

/** The shower brought over to where it was not, with all that belongs to it. */
function OtherSide() {
  const { edit } = useScreen();
  const ways = [
    ["side", "To the other side", FlipVertical2],
    ["end", "To the other end", FlipHorizontal2],
  ] as const;
  return (
    <div className="flex flex-wrap gap-2">
      {ways.map(([way, label, Icon]) => (
        <button
          key={way}
          type="button"
          className="btn h-11 px-3"
          title="Mirrored, seen from the entry: drain and fittings go with it"
          onClick={() => void edit({ act: "mirror", way })}
        >
          <Icon size={18} aria-hidden /> {label}
        </button>
      ))}
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
          <div className="fields">
            <MeasureField label="Deck thickness" path="/floor/deck_thickness" />
            <MeasureField label="Joist centres" path="/floor/centres" />
          </div>
          <div className="fields">
            <MeasureField label="Joist width" path="/floor/width" />
            <MeasureField label="Joist depth" path="/floor/depth" />
          </div>
          <div className="fields">
            <NumberField
              label="Joist direction, °"
              path="/floor/direction"
              hint="0 left to right, 90 bottom to top"
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
