import { CircleCheck, TriangleAlert } from "lucide-react";
import type { HeatingResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { FigureRows } from "../../ui/FigureRows";
import { AddButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { NumberField } from "../../ui/NumberField";

/** Whether the cable fits the floor, how far apart its runs lie, and what it takes. */
export function HeatingStep() {
  const { plan, solution, set } = useScreen();
  if (!plan.heating) {
    return (
      <div className="space-y-3">
        <p>No heating cable in this floor.</p>
        <AddButton what="heating" outlined>
          Add heating cable
        </AddButton>
      </div>
    );
  }
  if (solution && !solution.complete) {
    return <p>The cable is laid out once the falls work.</p>;
  }
  const heating = solution?.heating;
  return (
    <div className="space-y-5">
      <Cable text={heating?.length_text ?? ""} />
      {heating ? <Verdict heating={heating} /> : <p aria-busy>Working…</p>}
      <Where />
      <Runs />
      {heating && heating.figures.length > 0 && <FigureRows figures={[...heating.figures]} />}
      {heating && heating.notes.length > 0 && (
        <section aria-label="Laying the cable">
          <h2 className="font-semibold mb-1">Laying the cable</h2>
          <ul className="space-y-2">
            {heating.notes.map((note, i) => (
              <li
                key={note}
                className={
                  i ? "list-disc ml-5" : "border-l-4 border-warning bg-warning/10 rounded-r-box p-3"
                }
              >
                {note}
              </li>
            ))}
          </ul>
        </section>
      )}
      <button type="button" className="btn h-11" onClick={() => set("/heating", null)}>
        Remove heating cable
      </button>
    </div>
  );
}

function Cable({ text }: { text: string }) {
  const { plan, set, confirm } = useScreen();
  const cable = plan.heating;
  if (!cable) return null;
  return (
    <div className="fields items-end">
      <MeasureField
        label="Cable length"
        covers={["/heating/length"]}
        value={cable.length}
        text={text}
        onCommit={(length) => {
          set("/heating/length", length);
          confirm((of) => of === "/heating/length");
        }}
      />
      <NumberField label="Watts a metre" path="/heating/watts_a_metre" step={[0.5, 5]} />
      <NumberField label="Volts" path="/heating/volts" step={[10, 100]} />
    </div>
  );
}

function Verdict({ heating }: { heating: HeatingResult }) {
  const { apply } = useScreen();
  if (heating.none_because) {
    return (
      <p
        className="border-l-4 border-info bg-info/10 rounded-r-box p-3 font-semibold"
        role="status"
      >
        {heating.none_because}
      </p>
    );
  }
  const fits = heating.state === "fits";
  const Icon = fits ? CircleCheck : TriangleAlert;
  return (
    <section
      aria-label="Whether the cable fits"
      data-state={heating.state}
      className={`border-l-4 rounded-r-box p-3 ${fits ? "border-success bg-success/10" : "border-warning bg-warning/10"}`}
    >
      <h2 className="font-bold text-lg flex gap-2 items-start leading-snug">
        <Icon
          size={22}
          className={`shrink-0 mt-0.5 ${fits ? "text-success" : "text-warning"}`}
          aria-hidden
        />
        {heating.sentence}
      </h2>
      <p className="mt-1 leading-snug">{heating.detail}</p>
      {heating.cures.length > 0 && (
        <div className="flex flex-wrap gap-2 mt-2">
          {heating.cures.map((cure) => (
            <button
              key={cure.text}
              type="button"
              className="btn h-11"
              onClick={() => apply([...cure.changes])}
            >
              {cure.text}
            </button>
          ))}
        </div>
      )}
    </section>
  );
}

function Where() {
  const { plan, set } = useScreen();
  if (!plan.heating) return null;
  return (
    <>
      <Choice
        label="Heated area"
        value={plan.heating.where}
        options={[
          { value: "room", label: "Room" },
          { value: "shower", label: "Shower" },
          { value: "both", label: "Both" },
        ]}
        onChange={(where) => set("/heating/where", where)}
      />
      <Choice
        label="Cable position"
        value={plan.heating.lies}
        options={[
          { value: "under the membrane", label: "Under membrane" },
          { value: "over the membrane", label: "Over membrane" },
        ]}
        onChange={(lies) => set("/heating/lies", lies)}
      />
    </>
  );
}

function Runs() {
  const { plan, set, edit } = useScreen();
  const cable = plan.heating;
  if (!cable) return null;
  const studs = cable.stud != null;
  const fixing = cable.mat != null ? "mat" : studs ? "studs" : "adhesive";
  // Of three ways one is chosen: what the others need goes.
  const choose = (way: typeof fixing) => {
    if (way === "studs") void edit({ act: "add", what: "studs" });
    else if (way === "mat") void edit({ act: "add", what: "heating mat" });
    else if (cable.mat != null) set("/heating/mat", null);
    else set("/heating/stud", null);
  };
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Spacing, from the cable’s instructions</legend>
      <Choice
        label="Fixing"
        value={fixing}
        options={[
          { value: "adhesive", label: "Adhesive" },
          { value: "studs", label: "Studded mat" },
          { value: "mat", label: "Loose mat" },
        ]}
        onChange={choose}
      />
      <div className="fields">
        {fixing === "mat" ? (
          <MeasureField label="Mat width" path="/heating/mat" />
        ) : (
          <>
            <MeasureField label="Closest" path="/heating/least" />
            <MeasureField label="Widest" path="/heating/most" />
          </>
        )}
        {studs && <MeasureField label="Stud pitch" path="/heating/stud" />}
      </div>
      {fixing !== "mat" && (
        <p className="text-sm">Drag the ring on the chart to move the cold joint.</p>
      )}
    </fieldset>
  );
}
