import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { MeasureField } from "../../ui/MeasureField";
import { NumberField } from "../../ui/NumberField";
import { PlaceFields } from "../../ui/PlaceFields";
import { Arrangements } from "./Arrangements";
import { CorridorPanel } from "./CorridorPanel";

/** Where the water goes: the drain, its place, the fall asked for and the entry. */
export function DrainStep() {
  return (
    <div className="space-y-5">
      <Arrangements />
      <FallFields />
      <CorridorPanel />
      <DrainPlace />
      <RestFields />
      <Entries />
    </div>
  );
}

function PointFields({ legend, path }: { legend: string; path: string }) {
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">{legend}</legend>
      <PlaceFields label="Centre" path={`${path}/centre`} />
      <div className="fields">
        <MeasureField label="Rim width" path={`${path}/width`} />
        <MeasureField label="Rim length" path={`${path}/length`} />
        <NumberField label="Turned, °" path={`${path}/orientation`} />
      </div>
    </fieldset>
  );
}

function DrainPlace() {
  const { plan, set, solution } = useScreen();
  const drain = plan.shower.drain;
  const second = plan.shower.second_drain;
  if (drain.kind === "point") {
    return (
      <>
        <PointFields legend={second ? "First drain" : "Drain"} path="/shower/drain" />
        {second && <PointFields legend="Second drain" path="/shower/second_drain" />}
      </>
    );
  }
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Channel</legend>
      <PlaceFields label="One end" path="/shower/drain/start" />
      <PlaceFields label="Other end" path="/shower/drain/end" />
      <MeasureField label="Channel width" path="/shower/drain/width" />
      <Choice
        label="Strips beyond its ends"
        value={drain.strips ? "fall" : "level"}
        options={[
          { value: "level", label: "Level as drawn" },
          { value: "fall", label: "Fall to it" },
        ]}
        onChange={(way) =>
          set("/shower/drain/strips", way === "fall" ? plan.shower.fall.asked : null)
        }
      />
      {drain.strips != null && (
        <MeasureField label="Fall of the strips" kind="fall" path="/shower/drain/strips" />
      )}
      <Choice
        label="Waste leaves it"
        value={drain.outlet == null ? "middle" : "elsewhere"}
        options={[
          { value: "middle", label: "In the middle" },
          { value: "elsewhere", label: "Elsewhere" },
        ]}
        onChange={(way) =>
          set("/shower/drain/outlet", way === "middle" ? null : solution?.drawing.outlet_offset)
        }
      />
      {drain.outlet != null && (
        <MeasureField label="Outlet, from the first end" path="/shower/drain/outlet" />
      )}
    </fieldset>
  );
}

function FallFields() {
  const { plan, set } = useScreen();
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Fall</legend>
      <MeasureField
        label="Planned fall"
        kind="fall"
        path="/shower/fall/asked"
        hint="1:48, 2.1 % or 1/4 in per ft"
      />
      {plan.shower.drain.kind === "point" && plan.shower.fall.edge === "even" && (
        <Choice
          label="At the entry the floor"
          value={plan.shower.fall.entry_level ? "level" : "follows"}
          options={[
            { value: "level", label: "Stays level" },
            { value: "follows", label: "Follows the fall" },
          ]}
          onChange={(way) => set("/shower/fall/entry_level", way === "level")}
        />
      )}
      {plan.shower.drain.kind === "point" && plan.shower.fall.edge === "level" && (
        <Choice
          label="Measured over the"
          value={plan.shower.fall.measured}
          options={[
            { value: "corner_run", label: "Corner run" },
            { value: "plane_run", label: "Plane run" },
          ]}
          onChange={(measured) => set("/shower/fall/measured", measured)}
        />
      )}
    </fieldset>
  );
}

function Entries() {
  const { plan, set, solution } = useScreen();
  const entries = plan.shower.entries;
  return (
    <fieldset>
      <legend className="font-semibold mb-1">Entry: sides that are walked or rolled over</legend>
      <div className="flex flex-wrap gap-1.5">
        {plan.shower.outline.map((corner, i) => {
          const on = entries.includes(i);
          return (
            <button
              key={String(corner)}
              type="button"
              aria-pressed={on}
              className={`btn h-11 text-base font-medium ${on ? "btn-secondary" : ""}`}
              disabled={on && entries.length === 1}
              title={on && entries.length === 1 ? "A shower needs one entry" : undefined}
              onClick={() =>
                set("/shower/entries", on ? entries.filter((e) => e !== i) : [...entries, i])
              }
            >
              {[i + 1, solution?.drawing.shower_names[i], solution?.drawing.shower_sides[i]]
                .filter(Boolean)
                .join(" · ")}
            </button>
          );
        })}
      </div>
    </fieldset>
  );
}

/** What each way of the rest means along the walls. */
const WALLS = {
  rising:
    "The same fall everywhere: the floor rises along the walls with the distance from the zone; doors stay level.",
  level:
    "The floor meets every wall at one level: a near wall gets a steeper plane than a far one.",
};

function RestFields() {
  const { plan, set, edit } = useScreen();
  const rest = plan.shower.rest;
  const way = rest ? rest.walls : "none";
  const levelFits = plan.shower.drain.kind === "point" && !plan.shower.second_drain;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Rest of the room</legend>
      <Choice
        label="It falls too, in a wet room of two zones"
        value={way}
        options={[
          { value: "none", label: "No, flat" },
          { value: "rising", label: "One fall" },
          ...(levelFits || way === "level"
            ? [{ value: "level" as const, label: "Level walls" }]
            : []),
        ]}
        onChange={(walls) =>
          walls === "none"
            ? set("/shower/rest", null)
            : void edit({ act: "add", what: `rest ${walls}` })
        }
      />
      {way !== "none" && <p className="text-sm">{WALLS[way]}</p>}
      {rest && (
        <div className="fields">
          <MeasureField label="Fall of the rest" kind="fall" path="/shower/rest/asked" />
          <MeasureField label="Set-down of the zone" path="/shower/set_down" />
        </div>
      )}
    </fieldset>
  );
}
