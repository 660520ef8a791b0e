import { Trash2 } from "lucide-react";
import type { Shower } from "../../api/generated/plan";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { StockTray } from "./StockTray";

type Former = Shower["former"];

/** What makes the falls: a bed, a tray with what is cut off it, or panels. */
export function FormerFields() {
  const { plan, edit } = useScreen();
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
        onChange={(kind) => void edit({ act: "add", what: kind })}
      />
      <div className="fields">
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
            <MeasureField label="Panel width" path="/shower/former/width" />
          </>
        )}
        <MeasureField label="Set-down at the entry" path="/shower/set_down" hint="0 is flush" />
      </div>
      <BevelFields />
      {former.kind === "tray" && <TrayCuts former={former} />}
    </fieldset>
  );
}

/** The sloped part of the entry's edge, where there is a step to slope. */
function BevelFields() {
  const { plan, set, solution } = useScreen();
  if (plan.shower.bevel === null) {
    return solution?.figures.step_at_entry.value ? (
      <AddButton what="bevel">Bevel the edge at the entry</AddButton>
    ) : null;
  }
  return (
    <div className="fields items-end">
      <MeasureField label="Bevel, height of it" path="/shower/bevel/height" />
      <MeasureField label="Bevel, over a run of" path="/shower/bevel/run" />
      <button
        type="button"
        className="btn btn-ghost btn-square size-11"
        aria-label="Leave the edge square"
        onClick={() => set("/shower/bevel", null)}
      >
        <Trash2 size={18} aria-hidden />
      </button>
    </div>
  );
}

/** What is cut off each side; a side may be extended instead. */
function TrayCuts({ former }: { former: Extract<Former, { kind: "tray" }> }) {
  const { plan, solution } = useScreen();
  const cuts = former.cuts ?? [];
  const free = plan.shower.outline.map((_, i) => i).filter((i) => !cuts.some((c) => c.edge === i));
  const entry = plan.shower.entries;
  return (
    <div className="space-y-2">
      <StockTray former={former} />
      {!former.stock && <h2 className="text-sm">Cut off the tray (below 0: extended)</h2>}
      {cuts.map((cut, i) => (
        <div key={cut.edge} className="flex items-start gap-2">
          <MeasureField
            label={`Side ${cut.edge + 1}${entry.includes(cut.edge) ? ", the entry" : ""}`}
            path={`/shower/former/cuts/${i}/width`}
            hint={solution?.surface?.side_levels[cut.edge]}
          />
          <RemoveButton
            className="mt-5.5"
            label={`Do not cut side ${cut.edge + 1}`}
            path={`/shower/former/cuts/${i}`}
          />
        </div>
      ))}
      <div className="flex flex-wrap gap-1.5">
        {(former.stock ? [] : free).map((edge) => (
          <AddButton key={edge} what="cut" side={edge} outlined>
            Cut side {edge + 1}
            {entry.includes(edge) && " (entry)"}
          </AddButton>
        ))}
      </div>
      <div className="fields">
        <MeasureField label="Whole tray packed up" path="/shower/former/raised" />
        <MeasureField label="Most off a side" path="/shower/former/most_cut" />
      </div>
    </div>
  );
}
