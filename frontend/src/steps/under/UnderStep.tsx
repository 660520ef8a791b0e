import { CircleAlert, CircleCheck } from "lucide-react";
import { useScreen } from "../../job/context";
import { FigureRows } from "../../ui/FigureRows";
import { RiserCard, Sheet } from "./Cards";
import { FamilyFields } from "./FamilyFields";
import { FloorFields } from "./FloorFields";
import { MapPanel } from "./MapPanel";
import { ServiceFields } from "./ServiceFields";
import { Signed } from "./Signed";
import { WasteFields } from "./WasteFields";

/** What the structure allows, the pipe that has to fit, and where the drain can go. */
export function UnderStep() {
  const { solution } = useScreen();
  return (
    <div className="space-y-5">
      <Verdict />
      <Signed />
      <MapPanel />
      <FamilyFields />
      <WasteFields />
      <RiserCard />
      <FloorFields />
      {solution?.structure?.notes.map((note) => (
        <p key={note} className="text-warning font-semibold leading-snug">
          {note}
        </p>
      ))}
      <ServiceFields />
      <Sheet />
      {solution?.structure && solution.structure.figures.length > 0 && (
        <section>
          <h2 className="font-semibold mb-1">By rule of thumb</h2>
          <FigureRows figures={[...solution.structure.figures]} />
          <p className="text-sm mt-1">
            None of this says that a floor is sound: an engineer decides on structure, a licensed
            plumber on the waste.
          </p>
        </section>
      )}
      {solution?.waste && solution.waste.trench.length > 0 && (
        <section>
          <h2 className="font-semibold mb-1">Out of the slab, and in again</h2>
          <FigureRows figures={[...solution.waste.trench]} />
          <p className="text-sm mt-1">
            Scan before anything is cut: stressed cables, heating pipes, live wires, the damp-proof
            membrane. Wet cutting or extraction, and a mask.
          </p>
        </section>
      )}
    </div>
  );
}

/** Whether the drain is clear of the floor, and whether its waste gets away. */
function Verdict() {
  const { solution } = useScreen();
  const { structure, waste } = solution ?? {};
  if (!structure || !waste)
    return <p>The view under the floor is drawn once the falls can be worked out.</p>;
  const met = [...new Set(structure.bodies.flatMap((body) => body.meets))];
  const rows = [
    {
      good: met.length === 0 && !structure.unsigned,
      sure: !structure.notes.some(
        (note) => note.startsWith("No drain") || note.startsWith("The chosen"),
      ),
      text: met.length
        ? `The drain sits on ${met.join(" and ")}`
        : structure.unsigned || "The drain is clear of the floor",
    },
    { good: waste.run?.fits ?? false, sure: waste.run !== null, text: waste.verdict },
  ];
  return (
    <section aria-label="Under the floor, in short">
      <ul className="space-y-1">
        {rows.map((row) => (
          <li key={row.text} className="flex gap-2 items-start leading-snug">
            {row.good && row.sure ? (
              <CircleCheck size={20} className="text-success shrink-0 mt-0.5" aria-label="yes" />
            ) : (
              <CircleAlert
                size={20}
                className={`shrink-0 mt-0.5 ${row.good || !row.sure ? "text-warning" : "text-error"}`}
                aria-label={row.good || !row.sure ? "not known" : "no"}
              />
            )}
            <span className="font-semibold">{row.text}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
