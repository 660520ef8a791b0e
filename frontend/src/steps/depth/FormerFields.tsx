import { Trash2 } from "lucide-react";
import type { Shower } from "../../api/generated/plan";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { MeasureField } from "../../ui/MeasureField";

type Former = Shower["former"];

const FIRST: Record<Former["kind"], Former> = {
  bed: { kind: "bed", least_thickness: 10 },
  tray: { kind: "tray", edge_thickness: 25, cuts: [], raised: 0, most_cut: 150 },
  panels: { kind: "panels", thin_edge: 6.35, thick_edge: 25.4, length: 1219.2 },
};

/** What makes the falls: a bed, a tray with what is cut off it, or panels. */
export function FormerFields() {
  const { plan, set } = useScreen();
  const former = plan.shower.former;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Under the shower's tile</legend>
      <Choice
        label="Falls are made by"
        value={former.kind}
        options={[
          { value: "bed", label: "Setting bed" },
          { value: "tray", label: "Preformed tray" },
          ...(plan.shower.drain.kind === "linear" || former.kind === "panels"
            ? [{ value: "panels" as const, label: "Slope panels" }]
            : []),
        ]}
        onChange={(kind) => set("/shower/former", FIRST[kind])}
      />
      <div className="flex gap-2">
        {former.kind === "bed" && (
          <MeasureField label="Least bed, at the drain" path="/shower/former/least_thickness" />
        )}
        {former.kind === "tray" && (
          <MeasureField label="Tray's edge thickness" path="/shower/former/edge_thickness" />
        )}
        {former.kind === "panels" && (
          <>
            <MeasureField label="Thin edge" path="/shower/former/thin_edge" />
            <MeasureField label="Thick edge" path="/shower/former/thick_edge" />
            <MeasureField label="Panel length" path="/shower/former/length" />
          </>
        )}
        <MeasureField label="Set-down at the entry" path="/shower/set_down" hint="0 is flush" />
      </div>
      {former.kind === "tray" && <TrayCuts former={former} />}
    </fieldset>
  );
}

/** What is cut off each side; a side may be extended instead. */
function TrayCuts({ former }: { former: Extract<Former, { kind: "tray" }> }) {
  const { plan, set, solution } = useScreen();
  const cuts = former.cuts ?? [];
  const free = plan.shower.outline.map((_, i) => i).filter((i) => !cuts.some((c) => c.edge === i));
  const entry = plan.shower.entries;
  return (
    <div className="space-y-2">
      <h2 className="text-sm">Cut off the tray (below 0: extended)</h2>
      {cuts.map((cut, i) => (
        <div key={cut.edge} className="flex items-start gap-2">
          <MeasureField
            label={`Side ${cut.edge + 1}${entry.includes(cut.edge) ? ", the entry" : ""}`}
            path={`/shower/former/cuts/${i}/width`}
            hint={solution?.surface?.side_levels[cut.edge]}
          />
          <button
            type="button"
            className="btn btn-ghost btn-square size-11 mt-5.5"
            aria-label={`Do not cut side ${cut.edge + 1}`}
            onClick={() =>
              set(
                "/shower/former/cuts",
                cuts.filter((other) => other !== cut),
              )
            }
          >
            <Trash2 size={18} aria-hidden />
          </button>
        </div>
      ))}
      <div className="flex flex-wrap gap-1.5">
        {free.map((edge) => (
          <button
            key={edge}
            type="button"
            className="btn h-11 font-medium"
            onClick={() => set("/shower/former/cuts", [...cuts, { edge, width: 50 }])}
          >
            Cut side {edge + 1}
            {entry.includes(edge) && " (entry)"}
          </button>
        ))}
      </div>
      <div className="flex gap-2">
        <MeasureField label="Whole tray packed up" path="/shower/former/raised" />
        <MeasureField label="Most off a side" path="/shower/former/most_cut" />
      </div>
    </div>
  );
}
