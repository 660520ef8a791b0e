import { useState } from "react";
import type { Shower } from "../../api/generated/plan";
import type { TrayLayout } from "../../api/generated/solution";
import { TrayCut } from "../../drawing/TrayCut";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { AddButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";

type Tray = Extract<Shower["former"], { kind: "tray" }>;

/** A tray as it is bought, laid out from the riser: its sizes, what is cut, how it is marked. */
export function StockTray({ former }: { former: Tray }) {
  const { plan, set, solution } = useScreen();
  if (!former.stock) {
    return plan.shower.drain.kind === "point" ? (
      <AddButton what="stock tray">Lay a stock tray out from the riser</AddButton>
    ) : null;
  }
  return (
    <section className="space-y-2">
      <h2 className="font-semibold">Stock tray, laid out from the riser</h2>
      <div className="fields">
        <MeasureField label="Tray, along the entry" path="/shower/former/stock/width" />
        <MeasureField label="Tray, entry to back" path="/shower/former/stock/length" />
      </div>
      <div className="fields">
        <MeasureField
          label="Its drain, from its left edge"
          path="/shower/former/stock/drain_left"
        />
        <MeasureField
          label="Its drain, from its back edge"
          path="/shower/former/stock/drain_back"
        />
      </div>
      {former.extension ? (
        <div className="fields items-end">
          <MeasureField label="Extension, its length" path="/shower/former/extension/length" />
          <MeasureField label="Extension, its own rise" path="/shower/former/extension/rise" />
          <button
            type="button"
            className="btn h-11"
            onClick={() => set("/shower/former/extension", null)}
          >
            Without it
          </button>
        </div>
      ) : (
        <AddButton what="extension">An extension towards the entry</AddButton>
      )}
      {former.stated ? (
        <div className="fields items-end">
          <MeasureField label="Flattest fall" kind="fall" path="/shower/former/stated/least" />
          <MeasureField label="Steepest fall" kind="fall" path="/shower/former/stated/most" />
          <button
            type="button"
            className="btn h-11"
            onClick={() => set("/shower/former/stated", null)}
          >
            Not stated
          </button>
        </div>
      ) : (
        <AddButton what="stated falls">Enter its maker's falls</AddButton>
      )}
      {solution?.trays.map((tray) => (
        <Layout key={tray.title} tray={tray} of={solution.trays.length} />
      ))}
      <button type="button" className="btn h-11" onClick={() => set("/shower/former/stock", null)}>
        Give its cuts by hand instead
      </button>
    </section>
  );
}

/** One tray: what is cut on which side, from above or turned over, and in which order. */
function Layout({ tray, of }: { tray: TrayLayout; of: number }) {
  const [under, turn] = useState(false);
  return (
    <>
      {of > 1 && <h3 className="font-semibold">{tray.title}</h3>}
      <p className="text-lg font-bold" data-tray={tray.verdict}>
        {tray.verdict}
      </p>
      <Choice
        label="Seen"
        value={under ? "under" : "above"}
        options={[
          { value: "above", label: "From above" },
          { value: "under", label: "Underside, to mark it" },
        ]}
        onChange={(side) => turn(side === "under")}
      />
      <TrayCut tray={tray} under={under} />
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {tray.sides.map((side) => (
          <li key={side.name} className="py-2" data-side={side.name}>
            <div className="flex gap-2 items-baseline">
              <h3 className="font-semibold flex-1 capitalize">{side.name}</h3>
              <span
                className={`font-bold ${side.state === "missing" || (side.entry && side.state === "cut") ? "text-error" : ""}`}
              >
                {side.text}
              </span>
            </div>
            <p className="text-sm">
              {side.riser_text} from the riser, {side.reach_text} on the tray
              {side.loss_text && `; ${side.loss_text}`}
              {side.note && `; ${side.note}`}.
            </p>
          </li>
        ))}
      </ul>
      <ol className="list-decimal pl-5 space-y-1">
        {tray.said.map((told) => (
          <li key={told}>{told}</li>
        ))}
      </ol>
    </>
  );
}
