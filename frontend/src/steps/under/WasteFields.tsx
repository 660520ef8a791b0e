import { CircleCheck, CircleX } from "lucide-react";
import { RunProfile } from "../../drawing/RunProfile";
import { useScreen } from "../../job/context";
import { useLights, useShown } from "../../job/shown";
import { FigureRows } from "../../ui/FigureRows";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { PlaceFields } from "../../ui/PlaceFields";

/** Where the stack or branch is, and the run of the pipe to it. */
export function WasteFields() {
  const { plan, set, picked, solution } = useScreen();
  const lights = useLights();
  const map = useShown((shown) => shown.map);
  const { stack, branch, run } = plan.waste;
  const waste = solution?.waste;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">The waste</legend>
      {waste?.missing.map((told) => (
        <p key={told} className="text-warning font-semibold leading-snug">
          {told}
        </p>
      ))}
      {stack ? (
        <PlaceFields label="Stack or branch" path="/waste/stack">
          <button type="button" className="btn h-11" onClick={() => set("/waste/stack", null)}>
            Not measured
          </button>
        </PlaceFields>
      ) : (
        <AddButton what="stack" outlined>
          Say where the stack or branch is
        </AddButton>
      )}
      {!map && picked && (
        <button type="button" className="btn h-11" onClick={() => set("/waste/stack", picked)}>
          The stack stands where the chart was touched
        </button>
      )}
      {branch !== null ? (
        <div className="fields items-end">
          <MeasureField
            label="Branch centre, from the deck or slab top"
            path="/waste/branch"
            hint="below it with a minus"
          />
          <button
            type="button"
            className="btn h-11 mb-6"
            onClick={() => set("/waste/branch", null)}
          >
            Not measured
          </button>
        </div>
      ) : (
        <AddButton what="branch" outlined>
          Say how low it is
        </AddButton>
      )}
      <div className="fields">
        <MeasureField label="Fall of the pipe" kind="fall" path="/water/pipe_fall" />
        <MeasureField label="Pipe, inside" path="/water/pipe_diameter" />
      </div>
      {waste?.run && (
        <>
          <h3 className="font-semibold">
            {waste.run.proposed
              ? "The cheapest run that keeps the limits"
              : "The run as you lay it"}
          </h3>
          <RunProfile run={waste.run} />
          <FigureRows figures={[...waste.figures]} />
          {waste.run.passed.length > 0 && (
            <ul className="divide-y divide-base-300 border-y border-base-300">
              {waste.run.passed.map((passed) => (
                <li
                  key={passed.distance}
                  className="flex gap-2 py-1.5 leading-snug"
                  {...lights(passed.name)}
                >
                  {passed.fits ? (
                    <CircleCheck
                      size={18}
                      className="text-success shrink-0 mt-0.5"
                      aria-label="passes"
                    />
                  ) : (
                    <CircleX
                      size={18}
                      className="text-error shrink-0 mt-0.5"
                      aria-label="does not pass"
                    />
                  )}
                  <span>
                    <strong>{passed.name}</strong>: pipe {passed.level_text}
                    {passed.hole_text && `, ${passed.hole_text}`}
                    <span className="block text-sm">{passed.limit_text}</span>
                  </span>
                </li>
              ))}
            </ul>
          )}
          {run === null ? (
            <button
              type="button"
              className="btn h-11"
              onClick={() => set("/waste/run", waste.run?.line.slice(1, -1) ?? [])}
            >
              Lay it myself
            </button>
          ) : (
            <div className="flex flex-wrap gap-2">
              <AddButton what="bend" outlined>
                One more bend
              </AddButton>
              <button type="button" className="btn h-11" onClick={() => set("/waste/run", null)}>
                Let it be proposed
              </button>
            </div>
          )}
        </>
      )}
      {run?.map((_, i) => (
        <PlaceFields key={i} label={`Bend ${i + 1}`} path={`/waste/run/${i}`}>
          <RemoveButton label={`Remove bend ${i + 1}`} path={`/waste/run/${i}`} />
        </PlaceFields>
      ))}
      {waste && (
        <ul className="list-disc pl-5 text-sm">
          {waste.reminders.map((told) => (
            <li key={told}>{told}</li>
          ))}
        </ul>
      )}
    </fieldset>
  );
}
