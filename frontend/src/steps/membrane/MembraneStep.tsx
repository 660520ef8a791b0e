import { Check } from "lucide-react";
import type { MembranePiece, MembraneResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { FigureRows } from "../../ui/FigureRows";
import { MeasureField } from "../../ui/MeasureField";
import { MembraneSchool } from "../../ui/MembraneSchool";
import { Notes } from "../../ui/Notes";
import { NumberField } from "../../ui/NumberField";

/** How far the membrane goes, how much of it, and every piece to tick off. */
export function MembraneStep() {
  const { plan, solution, set } = useScreen();
  if (solution && !solution.complete) {
    return <p>The membrane is counted once the falls work.</p>;
  }
  const found = solution?.membrane;
  return (
    <div className="space-y-5">
      <Choice
        label="Floor sealed"
        value={plan.membrane.extent ?? (plan.shower.rest ? "all" : "near")}
        options={[
          { value: "shower", label: "Shower only" },
          { value: "near", label: "Into room" },
          { value: "all", label: "Whole floor" },
        ]}
        onChange={(extent) => set("/membrane/extent", extent)}
      />
      {found ? <Verdict found={found} /> : <p aria-busy>Working…</p>}
      <MembraneSchool />
      <div className="fields items-end">
        <MeasureField label="Height on shower walls" path="/membrane/walls" />
        <NumberField label="Pipes through walls" path="/membrane/pipes" />
      </div>
      {found && <FigureRows figures={[...found.figures]} />}
      {found && <Pieces found={found} />}
      {found && <Notes title="Laying the membrane" notes={found.notes} />}
    </div>
  );
}

function Verdict({ found }: { found: MembraneResult }) {
  const done = found.left === 0;
  return (
    <section
      aria-label="How much membrane"
      data-left={found.left}
      className={`border-l-4 rounded-r-box p-3 ${done ? "border-success bg-success/10" : "border-info bg-info/10"}`}
    >
      <strong className="block text-lg leading-snug">{found.said}</strong>
      {done ? "Every piece is laid." : `${found.left} of ${found.pieces.length} pieces to lay`}
    </section>
  );
}

function Pieces({ found }: { found: MembraneResult }) {
  const { plan, set } = useScreen();
  const tick = ({ name, length, laid }: MembranePiece) => {
    const others = plan.membrane.laid.filter((one) => one.name !== name);
    set("/membrane/laid", laid ? others : [...others, { name, length }]);
  };
  return (
    <section aria-label="Pieces">
      <h2 className="font-semibold">Cut list, in the order of laying</h2>
      <ol className="divide-y divide-base-300 border-y border-base-300">
        {found.pieces.map((piece, i) => (
          <li key={piece.name}>
            <button
              type="button"
              aria-pressed={piece.laid}
              data-piece={piece.name}
              className="flex w-full min-h-11 items-center gap-3 text-left hover:bg-base-200 px-1"
              onClick={() => tick(piece)}
            >
              <span
                aria-hidden
                className={`grid place-items-center size-6 shrink-0 rounded border-2 ${piece.laid ? "bg-success border-success text-success-content" : "border-base-content"}`}
              >
                {piece.laid && <Check size={18} />}
              </span>
              <span className="w-6 shrink-0 text-right text-sm">{i + 1}</span>
              <span className={`flex-1 ${piece.laid ? "line-through" : ""}`}>{piece.name}</span>
              <span className="font-semibold">{piece.cut_text}</span>
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
