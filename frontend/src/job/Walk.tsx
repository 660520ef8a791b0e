import { Check, SkipForward, X } from "lucide-react";
import { useEffect, useRef } from "react";
import type { Plan, Solution } from "../api/client";
import type { Assumption } from "../api/generated/solution";
import { STEPS, stepOf } from "../steps";
import { useScreen } from "./context";
import { useShow, useShown } from "./shown";

/** What is only assumed still, in the order of the steps in which it is typed. */
export function leftToMeasure(plan: Plan, solution: Solution | null): Assumption[] {
  const at = ({ fields }: Assumption) => {
    const step = stepOf({ field: fields[0] ?? "" });
    return step ? STEPS.indexOf(step) : STEPS.length;
  };
  return (solution?.assumed.listed ?? [])
    .filter(({ fields }) => fields.some((field) => plan.assumed.includes(field)))
    .sort((a, b) => at(a) - at(b));
}

const fieldOf = (one: Assumption | undefined) => one?.fields[0] ?? "";

/** Leads from one assumed measure to the next: each is typed with Enter, or is right as it is. */
export function Walk() {
  const { plan, solution, reach, confirm } = useScreen();
  const show = useShow();
  const left = leftToMeasure(plan, solution);
  const at = useShown(({ walk }) => walk);
  const current = left.find((one) => fieldOf(one) === at);
  // The order in which it went before what was measured left it.
  const order = useRef<string[]>([]);
  const go = (field: string) => {
    show({ walk: field });
    if (field) reach(field);
  };
  const after = (field: string) => {
    const there = left.map(fieldOf).filter((one) => one !== field);
    const later = order.current.slice(order.current.indexOf(field) + 1);
    return later.find((one) => there.includes(one)) ?? there[0] ?? "";
  };
  useEffect(() => {
    if (at && !current) go(after(at));
    else order.current = left.map(fieldOf);
  });
  if (at === null) return null;
  const button = "btn h-11 px-3";
  return (
    <section
      aria-label="Measures left"
      className="flex items-center gap-1.5 px-3 py-2 border-t-2 border-dashed border-warning bg-base-100 max-lg:fixed max-lg:inset-x-0 max-lg:bottom-16 max-lg:z-20"
      data-walk={at}
    >
      <p className="flex-1 min-w-0 leading-tight" role="status">
        {current ? (
          <>
            <span className="block text-sm">
              {left.length === 1 ? "The last one" : `${left.length} left`}
            </span>
            <span className="font-semibold block">{current.name}</span>
          </>
        ) : (
          <span className="font-semibold">Nothing is assumed any more.</span>
        )}
      </p>
      {current && (
        <>
          <button
            type="button"
            className={button}
            aria-label={`${current.name} is ${current.text}`}
            onClick={() => confirm((field) => current.fields.includes(field))}
          >
            <Check size={18} aria-hidden /> {current.text}
          </button>
          <button
            type="button"
            className={`${button} btn-square`}
            aria-label="Skip it"
            title="Skip it"
            disabled={left.length < 2}
            onClick={() => go(after(fieldOf(current)))}
          >
            <SkipForward size={18} aria-hidden />
          </button>
        </>
      )}
      <button
        type="button"
        className={`${button} btn-square btn-ghost`}
        aria-label="Stop measuring"
        title="Stop"
        onClick={() => show({ walk: null })}
      >
        <X size={18} aria-hidden />
      </button>
    </section>
  );
}
