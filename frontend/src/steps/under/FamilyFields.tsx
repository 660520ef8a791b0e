import { useQuery } from "@tanstack/react-query";
import { api, type Problem, type ShelvedFamily } from "../../api/client";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { MeasureField } from "../../ui/MeasureField";
import { OwnText } from "../../ui/OwnText";

/** The drain that is bought: what it asks of deck and pipe. The plan keeps its own copy. */
export function FamilyFields() {
  const { plan, set, confirm } = useScreen();
  const known = useQuery<ShelvedFamily[], Problem>({
    queryKey: ["families"],
    queryFn: api.families,
  });
  const chosen = plan.waste.family;
  const fitting = (known.data ?? []).filter(
    ({ family }) => family.drain === plan.shower.drain.kind,
  );
  const listed = fitting.some(({ family }) => family.id === chosen?.id);
  const assumed = plan.assumed.includes("/waste/family/id");
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">The drain</legend>
      <label className="block text-sm">
        Kind of drain, by what it asks of the deck
        <select
          className={`select w-full h-11 text-base mt-1 ${assumed ? "border-dashed border-2 border-warning italic" : ""}`}
          data-assumed={assumed || undefined}
          data-field="/waste/family/id"
          value={chosen?.id ?? ""}
          onChange={(event) => {
            const id = event.currentTarget.value;
            const family = fitting.find((one) => one.family.id === id)?.family ?? null;
            set("/waste/family", family);
            confirm((of) => of.startsWith("/waste/family"));
          }}
        >
          <option value="">Not chosen yet</option>
          {chosen && !listed && <option value={chosen.id}>{chosen.name}</option>}
          {fitting.map(({ family, ships }) => (
            <option key={family.id} value={family.id}>
              {family.name}
              {ships ? "" : " (your own)"}
            </option>
          ))}
        </select>
      </label>
      {chosen && <Sizes key={chosen.id} />}
      <OwnText
        of="families"
        called="drain"
        from={
          known.data?.some(({ family }) => family.id === chosen?.id) && chosen
            ? { id: chosen.id, own: !known.data.find((f) => f.family.id === chosen.id)?.ships }
            : undefined
        }
        help="Change what is different, or paste a file."
        onKept={async (id) => {
          const kept = (await api.families()).find(({ family }) => family.id === id);
          if (kept) set("/waste/family", kept.family);
        }}
      />
    </fieldset>
  );
}

/** What of the family's copy is measured on the drain itself. */
function Sizes() {
  const { plan, set } = useScreen();
  const family = plan.waste.family;
  if (!family) return null;
  const at = (name: string) => `/waste/family/${name}`;
  return (
    <details>
      <summary className="min-h-11 flex items-center cursor-pointer underline decoration-dotted underline-offset-4">
        Its sizes, for this job
      </summary>
      <div className="space-y-2">
        <p className="text-sm">{family.note} The product's own text decides: type what it says.</p>
        <div className="fields">
          <MeasureField label="Hole, across" path={at("hole_width")} />
          {family.hole !== "round" && <MeasureField label="Hole, along" path={at("hole_length")} />}
          <MeasureField label="Pipe, outside" path={at("pipe")} />
        </div>
        <div className="fields">
          <MeasureField label="Body, wide" path={at("body_width")} />
          <MeasureField label="Body, below rim" path={at("body_depth")} />
        </div>
        <div className="fields">
          <MeasureField label="Flange, wide" path={at("flange_width")} />
          <MeasureField label="Flange, below rim" path={at("flange_depth")} />
        </div>
        <div className="fields">
          <MeasureField label="Trap, below deck" path={at("trap")} hint="to the pipe's middle" />
          {family.riser !== null ? (
            <MeasureField label="Riser over deck" path={at("riser")} hint="below it with a minus" />
          ) : (
            <button
              type="button"
              className="btn h-11 mt-5 flex-1"
              onClick={() => set(at("riser"), 0)}
            >
              Riser to a height
            </button>
          )}
        </div>
      </div>
    </details>
  );
}

/** How the riser is cut, and whether somebody can get at it from below. */
export function RiserChoices() {
  const { plan, set } = useScreen();
  return (
    <div className="space-y-2">
      <Choice
        label="From below it can be"
        value={plan.waste.access_below ? "reached" : "closed"}
        options={[
          { value: "reached", label: "Reached" },
          { value: "closed", label: "Not reached" },
        ]}
        onChange={(way) => set("/waste/access_below", way === "reached")}
      />
      <Choice
        label="The riser is cut"
        value={plan.waste.riser_cut}
        options={[
          { value: "before", label: "Before the tray" },
          { value: "after", label: "After it" },
        ]}
        onChange={(school) => set("/waste/riser_cut", school)}
      />
    </div>
  );
}
