import type { DrainChoice } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { MeasureField } from "../../ui/MeasureField";
import { NumberField } from "../../ui/NumberField";

/** Where the water goes: the drain, its place, the fall asked for and the entry. */
export function DrainStep() {
  const { plan } = useScreen();
  const drain = plan.shower.drain;
  return (
    <div className="space-y-5">
      <Arrangements />
      <fieldset className="space-y-2">
        <legend className="font-semibold mb-1">Place, from the plan's origin</legend>
        {drain.kind === "point" ? (
          <>
            <div className="flex gap-2">
              <MeasureField label="Centre, right" path="/shower/drain/centre/0" />
              <MeasureField label="Centre, up" path="/shower/drain/centre/1" />
            </div>
            <div className="flex gap-2">
              <MeasureField label="Rim width" path="/shower/drain/width" />
              <MeasureField label="Rim length" path="/shower/drain/length" />
              <NumberField label="Turned, °" path="/shower/drain/orientation" />
            </div>
          </>
        ) : (
          <>
            <div className="flex gap-2">
              <MeasureField label="First end, right" path="/shower/drain/start/0" />
              <MeasureField label="First end, up" path="/shower/drain/start/1" />
            </div>
            <div className="flex gap-2">
              <MeasureField label="Other end, right" path="/shower/drain/end/0" />
              <MeasureField label="Other end, up" path="/shower/drain/end/1" />
            </div>
            <MeasureField label="Channel width" path="/shower/drain/width" />
          </>
        )}
      </fieldset>
      <FallFields />
      <Entries />
    </div>
  );
}

function FallFields() {
  const { plan, set } = useScreen();
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Fall</legend>
      <MeasureField
        label="Fall asked for"
        kind="fall"
        path="/shower/fall/asked"
        hint="1:48, 2.1 % or 1/4 in per ft"
      />
      {plan.shower.drain.kind === "point" && (
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

function Arrangements() {
  const { plan, set, solution } = useScreen();
  const drain = JSON.stringify(plan.shower.drain);
  return (
    <fieldset>
      <legend className="font-semibold mb-1">Arrangement</legend>
      <div className="grid grid-cols-3 gap-1.5">
        {solution?.drain_choices.map((choice) => {
          const chosen =
            choice.code === "point"
              ? plan.shower.drain.kind === "point"
              : JSON.stringify(choice.drain) === drain;
          return (
            <button
              key={choice.code}
              type="button"
              aria-pressed={chosen}
              data-choice={choice.code}
              className={`btn h-auto min-h-11 flex-col gap-1 py-1.5 px-1 text-sm leading-tight font-medium ${chosen ? "btn-info" : ""}`}
              onClick={() => !chosen && set("/shower/drain", choice.drain)}
            >
              <Sketch code={choice.code} />
              {choice.label}
            </button>
          );
        })}
      </div>
    </fieldset>
  );
}

const SKETCH: Record<DrainChoice["code"], string> = {
  point: "M14 9h6v6h-6zM2 2l12 7M32 2l-12 7M2 22l12-7M32 22l-12-7",
  back: "M2 4h30M6 20v-11M17 20v-11M28 20v-11",
  left: "M4 2v20M30 7h-21M30 17h-21",
  right: "M30 2v20M4 7h21M4 17h21",
  middle: "M2 12h30M9 4v4M25 4v4M9 20v-4M25 20v-4",
  entry: "M2 20h30M6 4v11M17 4v11M28 4v11",
};

/** The arrangement as seen from above, the entry at the foot. */
function Sketch({ code }: { code: DrainChoice["code"] }) {
  return (
    <svg
      viewBox="0 0 34 24"
      width={51}
      height={36}
      aria-hidden
      fill="none"
      stroke="currentColor"
      strokeWidth={1.6}
    >
      <path d="M1 23v-22h32v22" />
      <path d={SKETCH[code]} />
    </svg>
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
              {i + 1} · {solution?.drawing.shower_sides[i]}
            </button>
          );
        })}
      </div>
    </fieldset>
  );
}
