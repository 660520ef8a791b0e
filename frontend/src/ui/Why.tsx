import { ChevronDown } from "lucide-react";
import type { Figure, Input, Solution } from "../api/generated/solution";
import { useScreen, type Worked } from "../job/context";
import { stepOf } from "../steps";
import { Modal } from "./Modal";

/** The working of one figure: formula in words, what goes into it, source. What the plan says leads
 * to its field; what is a figure itself opens in place. */
export function Why({ figure, onClose }: { figure: Worked; onClose: () => void }) {
  const { working } = figure;
  return (
    <Modal title={`${figure.label}: ${figure.text}`} onClose={onClose}>
      <p className="mt-2 text-lg leading-snug">{working.formula}</p>
      <Inputs of={working.inputs} onClose={onClose} />
      <p className="flex gap-4 py-2 border-b border-base-300">
        <span className="flex-1 font-bold">{figure.label}</span>
        <span className="font-bold text-lg">{figure.text}</span>
      </p>
      {working.note && <p className="mt-3">{working.note}</p>}
      <p className="mt-3 text-sm">{working.source}</p>
    </Modal>
  );
}

function Inputs({ of, onClose }: { of: Input[]; onClose: () => void }) {
  const { solution } = useScreen();
  return (
    <ul className="mt-4 divide-y divide-base-300 border-y border-base-300">
      {of.map((input, i) => {
        const own = figureOf(solution, input.figure);
        return (
          <li key={`${i} ${input.name}`} data-input={input.field || input.figure}>
            {own ? (
              <Opened input={input} figure={own} onClose={onClose} />
            ) : (
              <Given input={input} onClose={onClose} />
            )}
          </li>
        );
      })}
    </ul>
  );
}

/** A value of the plan, with the way to its field; or what is none, as it is. */
function Given({ input, onClose }: { input: Input; onClose: () => void }) {
  const { reach } = useScreen();
  const row = "flex items-center gap-4 w-full text-left";
  const value = <span className="font-semibold whitespace-nowrap">{input.text}</span>;
  if (!input.field || !stepOf(input))
    return (
      <p className={`${row} py-1.5`}>
        <span className="flex-1">{input.name}</span>
        {value}
      </p>
    );
  return (
    <button
      type="button"
      className={`${row} min-h-11 hover:bg-base-200 cursor-pointer`}
      aria-label={`${input.name} ${input.text}: to its field`}
      onClick={() => {
        onClose();
        reach(input.field);
      }}
    >
      <span className="flex-1 underline decoration-dotted underline-offset-4">{input.name}</span>
      {value}
    </button>
  );
}

/** A figure that goes into another, opened in place. */
function Opened({ input, figure, onClose }: { input: Input; figure: Figure; onClose: () => void }) {
  return (
    <details className="group/figure">
      <summary className="flex items-center gap-4 min-h-11 cursor-pointer">
        <span className="flex-1">
          {input.name}
          <ChevronDown size={16} className="inline ml-1 group-open/figure:rotate-180" aria-hidden />
        </span>
        <span className="font-semibold whitespace-nowrap">{input.text}</span>
      </summary>
      <div className="pl-4 pb-2 border-l-2 border-base-300">
        <p className="text-sm leading-snug">{figure.working.formula}</p>
        <Inputs of={figure.working.inputs} onClose={onClose} />
      </div>
    </details>
  );
}

function figureOf(solution: Solution | null, name: string): Figure | null {
  return (name && solution?.figures[name as keyof Solution["figures"]]) || null;
}
