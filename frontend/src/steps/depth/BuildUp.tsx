import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { FigureRows } from "../../ui/FigureRows";
import { LayerList, ROLES } from "../../ui/LayerList";
import { AddButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { OwnText } from "../../ui/OwnText";
import { DepthBar } from "./DepthBar";

/** Where the depth goes, layer by layer, and the flush condition solved either way round. */
export function BuildUp() {
  const { plan, set, solution } = useScreen();
  const laid = plan.room.laid;
  return (
    <>
      <DepthBar />
      <LayerList title="Shower, from the tile down" of="shower" />
      <LayerList
        title="Room, from the tile down"
        of="room"
        total={solution?.figures.room_level.text}
      />
      <div className="fields items-end">
        {laid === null ? (
          <button
            type="button"
            className="btn h-11"
            onClick={() => set("/room/laid", solution?.figures.room_level.value ?? 0)}
          >
            The room's tile is down already
          </button>
        ) : (
          <>
            <MeasureField
              label="The room's floor, as it is down"
              path="/room/laid"
              hint="from the deck or slab top"
            />
            <button type="button" className="btn h-11" onClick={() => set("/room/laid", null)}>
              Go by its layers
            </button>
          </>
        )}
      </div>
      <Pour />
      <LowerLift />
      <OwnText
        of="layers"
        called="kind of layer"
        from={{ id: "tile", own: false }}
        help={`Say what it is (role: ${Object.keys(ROLES).join(", ")}) and how thick it usually is: it then stands among the layers that can be added.`}
      />
      <Levels />
    </>
  );
}

/** Self-levelling compound: in the shower it takes of the recess, over the room it raises that. */
function Pour() {
  const { plan, edit, set } = useScreen();
  const there = plan.survey.correction;
  const area = there?.kind === "pour" ? there.area : "none";
  return (
    <div className="space-y-2">
      <Choice
        label="Levelling compound is poured"
        value={area}
        options={[
          { value: "none", label: "Nowhere" },
          { value: "shower", label: "Shower" },
          { value: "room", label: "Room" },
          { value: "both", label: "Both" },
        ]}
        onChange={(next) =>
          next === "none"
            ? set("/survey/correction", null)
            : void edit({ act: "add", what: `pour ${next}` })
        }
      />
      {area !== "none" && <MeasureField label="Its least cover" path="/survey/correction/cover" />}
    </div>
  );
}

/** The lower lift of a mortar bed in two lifts. */
function LowerLift() {
  const { plan, set } = useScreen();
  const former = plan.shower.former;
  if (former.kind !== "bed") return null;
  if (!former.lower) {
    return <AddButton what="lower lift">Lay the bed in two lifts, membrane between</AddButton>;
  }
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Lower lift, under the membrane</legend>
      <div className="fields">
        <MeasureField label="Least, at the drain" path="/shower/former/lower/least_thickness" />
        <MeasureField label="Membrane between" path="/shower/former/lower/membrane" />
        <MeasureField label="Its fall" kind="fall" path="/shower/former/lower/fall" />
      </div>
      <button type="button" className="btn h-11" onClick={() => set("/shower/former/lower", null)}>
        One lift only
      </button>
    </fieldset>
  );
}

function Levels() {
  const { solution } = useScreen();
  if (!solution) return null;
  const { room_level, entry_level, drain_level, base_level } = solution.figures;
  return (
    <section>
      <h2 className="font-semibold mb-1">Levels, from the deck or slab top</h2>
      <FigureRows figures={[room_level, entry_level, drain_level, base_level]} />
    </section>
  );
}
