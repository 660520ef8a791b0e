import type { FloorResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { MeasureField } from "../../ui/MeasureField";
import { NumberField } from "../../ui/NumberField";

export function Truings({ floor }: { floor: FloorResult }) {
  const { plan, apply, set } = useScreen();
  const chosen = plan.survey.correction;
  return (
    <section>
      <h2 className="font-semibold mb-1">Make it true</h2>
      <ul className="space-y-2">
        {floor.truings.map((way) => (
          <li
            key={way.code}
            data-truing={way.code}
            className={`border rounded-box p-3 ${way.chosen ? "border-2 border-success" : "border-base-300"}`}
          >
            <h3 className="font-bold leading-tight">
              {way.title}
              {way.chosen && <span className="text-success"> · in the plan</span>}
            </h3>
            <dl className="grid grid-cols-[1fr_auto] gap-x-3 mt-1">
              {way.figures.map((figure, i) => (
                <div key={figure.name} className="contents">
                  <dt className={i === 0 ? "text-lg" : ""}>{figure.name}</dt>
                  <dd className={`text-right font-semibold ${i === 0 ? "text-2xl" : ""}`}>
                    {figure.text}
                  </dd>
                </div>
              ))}
            </dl>
            <ul className="text-sm list-disc pl-5 mt-1">
              {way.advice.map((advice) => (
                <li key={advice}>{advice}</li>
              ))}
            </ul>
            {way.chosen ? (
              <button
                type="button"
                className="btn h-11 mt-2"
                onClick={() => set("/survey/correction", null)}
              >
                Take it out
              </button>
            ) : (
              <button
                type="button"
                className="btn btn-outline border-base-content/30 h-11 mt-2"
                onClick={() => apply(way.changes)}
              >
                {way.code === "pour" ? "Choose the pour" : "Choose this"}
              </button>
            )}
          </li>
        ))}
      </ul>
      {chosen?.kind === "pour" && (
        <div className="grid grid-cols-2 gap-2 mt-2">
          <MeasureField label="Cover over the high spot" path="/survey/correction/cover" />
          <NumberField
            label="Yield of a bag, L"
            path="/survey/correction/bag_litres"
            step={[0.1, 1]}
          />
          <NumberField
            label="Waste kept back"
            path="/survey/correction/waste_share"
            hint="0.1 is a tenth"
            step={[0.01, 0.05]}
          />
          <NumberField label="Bags a batch" path="/survey/correction/bags_a_batch" step={[1, 1]} />
          <NumberField
            label="Minutes a batch"
            path="/survey/correction/batch_minutes"
            step={[1, 5]}
          />
          <NumberField
            label="Working time, min"
            path="/survey/correction/working_minutes"
            step={[1, 5]}
          />
        </div>
      )}
      {floor.cleats.length > 0 && (
        <details className="mt-2">
          <summary className="btn btn-ghost h-11 px-2 font-medium justify-start">
            Cleat marks below the joist tops (J on the chart)
          </summary>
          <ul>
            {floor.cleats.map((joist) => (
              <li key={joist.joist} className="py-1">
                Joist {joist.joist}: {joist.marks.map((mark) => mark.text).join(" · ")}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
