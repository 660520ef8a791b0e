import type { AsBuilt } from "../../api/generated/as-built";
import { LAYERS, type Look, useShow, useShown } from "../../job/shown";
import { begun } from "../../ui/begun";
import { Choice } from "../../ui/Choice";
import { Said } from "../../ui/Said";
import { Planes } from "./Planes";
import { TakeLevels } from "./TakeLevels";
import { useBuilt } from "./useBuilt";
import { Work } from "./Work";

const LOOKS: { value: Look; label: string }[] = [
  { value: "planned", label: "Planned" },
  { value: "built", label: "Built" },
  { value: "difference", label: "Difference" },
];

const SAID = {
  holds: "Built as planned",
  fails: "Out of its limits",
  open: "Near a limit: read it finer",
} as const;

/** The floor as it was built, held against the plan while it can still be put right. */
export function BuiltStep() {
  const show = useShow();
  const layer = useShown((shown) => shown.layer);
  const look = useShown((shown) => shown.look);
  const newest = useShown((shown) => shown.newest);
  const { data, error } = useBuilt();
  const looks = data?.work?.after
    ? [...LOOKS, { value: "after" as const, label: "Put right" }]
    : LOOKS;
  return (
    <div className="space-y-5">
      {data && <Answer built={data} />}
      {error && !data && <p role="alert">{error.message}</p>}
      {data?.work && <Work work={data.work} />}
      <Choice
        label="Layer that was read"
        value={layer}
        options={LAYERS.map((value) => ({
          value,
          label: begun(value),
        }))}
        onChange={(layer) => show({ layer })}
      />
      <Choice
        label="Chart shows"
        value={look}
        options={looks}
        onChange={(look) => show({ look })}
      />
      {look !== "planned" && <Legend />}
      <button
        type="button"
        className={`btn h-11 ${newest ? "btn-info" : ""}`}
        aria-pressed={newest}
        onClick={() => show({ newest: !newest })}
      >
        Only the newest set of readings
      </button>
      <TakeLevels next={data?.next ?? []} texts={data?.next_texts ?? []} />
      {data && <Planes built={data} />}
    </div>
  );
}

/** What the chart's marks mean. */
function Legend() {
  const swatch = (ink: string) => (
    <span
      aria-hidden
      className="inline-block size-4 rounded-sm align-middle"
      style={{ background: ink, opacity: 0.75 }}
    />
  );
  return (
    <ul className="text-sm flex flex-wrap gap-x-4 gap-y-1" aria-label="On the chart">
      <li>{swatch("var(--hazard)")} + above the plan</li>
      <li>{swatch("var(--sounding)")} − below the plan</li>
      <li>dashed: a gap under the straightedge</li>
      <li>ring: a puddle</li>
      <li>?: read next</li>
    </ul>
  );
}

function Answer({ built }: { built: AsBuilt }) {
  return (
    <div role="status" data-built={built.state ?? "none"}>
      <Said large state={built.state} text={built.state ? SAID[built.state] : "Not judged yet"} />
      <p>{built.sentence}</p>
      {built.outside > 0 && (
        <p className="text-warning font-semibold">
          {built.outside} {built.outside === 1 ? "reading lies" : "readings lie"} outside the floor
          and {built.outside === 1 ? "is" : "are"} left out.
        </p>
      )}
    </div>
  );
}
