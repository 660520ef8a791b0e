import { Minus, Plus } from "lucide-react";
import type { Segment } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { valueAt } from "../../job/pointer";
import { nudged } from "../../ui/nudged";

const FILL: Record<Segment["code"], string> = {
  step: "var(--paper)",
  fall: "var(--deep)",
  layer: "var(--finish)",
  former: "var(--bed)",
  pour: "var(--packing)",
  packed: "var(--packing)",
};

const fill = (part: Segment, former: string) =>
  part.code === "former" && former === "tray" ? "var(--tray)" : FILL[part.code];

/** Where the depth went: from the room's floor down, part by part; each can be traded by hand. */
export function DepthBar() {
  const { plan, solution, apply } = useScreen();
  const bar = solution?.depth;
  if (!bar) return null;
  const parts = bar.segments.filter((part) => part.value > 0);
  const whole = parts.reduce((sum, part) => sum + part.value, 0) || 1;
  const below = Math.max(bar.below, 0);
  const cheapest = solution.ways?.cheapest ?? [];
  return (
    <section aria-label="Build-up" className="space-y-2">
      <h2 className="font-semibold">
        Build-up: <span className="font-bold">{bar.total_text}</span>
      </h2>
      <div className="flex gap-3">
        <div
          className="relative w-16 shrink-0 border border-base-content/60 rounded-sm overflow-hidden flex flex-col min-h-64"
          aria-hidden
        >
          {parts.map((part) => (
            <div
              key={part.name}
              style={{
                flexGrow: part.value / whole,
                background: fill(part, plan.shower.former.kind),
              }}
              className="border-b border-base-content/40 min-h-[3px]"
            />
          ))}
          {bar.above > 0 && below > 0 && (
            <div
              className="absolute inset-x-0 border-t-2 border-dashed border-error"
              style={{ top: `${(100 * bar.above) / (bar.above + below)}%` }}
            />
          )}
        </div>
        <ul className="flex-1 divide-y divide-base-300">
          {bar.segments.map((part) => (
            <Part key={part.name} part={part} />
          ))}
          <li className="py-1.5 text-sm">
            {bar.above_text} of it above the deck or slab, {bar.below_text} below;{" "}
            {bar.available_text} is to be had.
          </li>
        </ul>
      </div>
      <h3 className="font-semibold">Solved either way round</h3>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {bar.flush.map((one) => (
          <li key={one.code} className="py-1.5 flex gap-3 items-baseline" data-flush={one.code}>
            <span className="flex-1 leading-snug">
              {one.solved}
              <span className="block text-sm">given {one.given}</span>
            </span>
            <strong className="text-lg whitespace-nowrap">{one.text}</strong>
          </li>
        ))}
      </ul>
      {cheapest.length > 0 && (
        <>
          <h3 className="font-semibold">The cheapest next millimetres</h3>
          <ol className="space-y-1.5">
            {cheapest.map((step) => (
              <li key={step.text}>
                <button
                  type="button"
                  className="btn btn-outline border-base-content/30 w-full h-auto min-h-11 py-1.5 justify-start text-left font-medium"
                  data-cheapest={step.gives_text}
                  onClick={() => apply(step.changes)}
                >
                  <span className="flex-1">
                    {step.text}
                    <span className="block text-sm font-normal">{step.why}</span>
                  </span>
                  <strong className="whitespace-nowrap">{step.gives_text}</strong>
                </button>
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  );
}

/** One part with what it takes, and two buttons that trade it. */
function Part({ part }: { part: Segment }) {
  const { plan, set, confirm, solution } = useScreen();
  const trade = (way: 1 | -1) => {
    const value = Number(valueAt(plan, part.path));
    const next = nudged(part.kind, value, way, solution?.nudge);
    // Only a step goes below nothing: it is then one up.
    set(part.path, part.code === "step" ? next : Math.max(next, 0));
    confirm((of) => of === part.path);
  };
  return (
    <li className="py-1 flex items-center gap-1.5" data-segment={part.name}>
      <span
        className="size-3 shrink-0 border border-base-content/40"
        style={{ background: fill(part, plan.shower.former.kind) }}
        aria-hidden
      />
      <span className="flex-1 leading-tight">
        {part.name}
        {part.spare_text && <span className="block text-sm">{part.spare_text}</span>}
      </span>
      <strong className="whitespace-nowrap">{part.text}</strong>
      {part.path && (
        <span className="join">
          <button
            type="button"
            className="btn join-item btn-square size-11"
            aria-label={`${part.name}: less`}
            onClick={() => trade(-1)}
          >
            <Minus size={18} aria-hidden />
          </button>
          <button
            type="button"
            className="btn join-item btn-square size-11"
            aria-label={`${part.name}: more`}
            onClick={() => trade(1)}
          >
            <Plus size={18} aria-hidden />
          </button>
        </span>
      )}
    </li>
  );
}
