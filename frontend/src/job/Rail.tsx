import {
  ClipboardCheck,
  Hammer,
  type LucideIcon,
  PaintRoller,
  PencilRuler,
  Ruler,
} from "lucide-react";
import { useRef } from "react";
import { Link } from "react-router";
import { gravest, markOf, OPEN_PHASES, STEPS } from "../steps";
import type { Mark, Phase, Step } from "../steps/step";
import { useScreen } from "./context";

const ICONS: Record<Phase, LucideIcon> = {
  Measure: Ruler,
  Plan: PencilRuler,
  Finish: PaintRoller,
  Build: Hammer,
  Prove: ClipboardCheck,
};
const DOT = {
  stop: "bg-error rotate-45",
  caution: "bg-warning rounded-full",
  clear: "bg-success rounded-full",
};
const WORD = { stop: "something to stop for", caution: "a caution", clear: "clear" };

export function MarkDot({ mark, className = "" }: { mark: Mark | null; className?: string }) {
  if (!mark) return null;
  return (
    <span className={`size-3 shrink-0 ${DOT[mark]} ${className}`}>
      <span className="sr-only">{WORD[mark]}</span>
    </span>
  );
}

const inPhase = (phase: Phase) => STEPS.filter((step) => step.phase === phase);

/** The phases of the job; each opens at the step that was last open in it. */
export function Rail({ current }: { current: Step }) {
  const { jobId, solution } = useScreen();
  const last = useRef<Partial<Record<Phase, Step>>>({});
  last.current[current.phase] = current;
  return (
    <nav
      aria-label="Phases of the job"
      className="fixed lg:static bottom-0 inset-x-0 z-20 flex lg:flex-col lg:w-24 shrink-0 bg-base-200 border-t lg:border-t-0 lg:border-r border-base-300"
    >
      {OPEN_PHASES.map((phase, i) => {
        const Icon = ICONS[phase];
        const on = phase === current.phase;
        const steps = inPhase(phase);
        const to = last.current[phase] ?? steps[0];
        return (
          <Link
            key={phase}
            to={`/jobs/${jobId}/${to?.id}`}
            data-phase={phase}
            aria-current={on ? "true" : undefined}
            title={`${phase} (${i + 1})`}
            className={`relative flex-1 lg:flex-none flex flex-col items-center justify-center gap-0.5 min-h-16 lg:min-h-24 px-1 text-center leading-tight border-t-4 lg:border-t-0 lg:border-l-4 ${on ? "border-info bg-base-100 font-bold" : "border-transparent hover:bg-base-100"}`}
          >
            <Icon size={24} aria-hidden />
            <span className="text-base">{phase}</span>
            <MarkDot
              mark={gravest(steps.map((step) => markOf(step, solution)))}
              className="absolute top-2 right-2"
            />
          </Link>
        );
      })}
    </nav>
  );
}

/** The steps of the open phase. */
export function Tabs({ current }: { current: Step }) {
  const { jobId, solution } = useScreen();
  // More names than three leave no room for pictures beside them.
  const few = inPhase(current.phase).length < 4;
  return (
    <nav
      aria-label={`Steps of ${current.phase}`}
      className="flex shrink-0 border-b border-base-300 bg-base-200"
    >
      {inPhase(current.phase).map((step) => {
        const Icon = step.icon;
        const on = step === current;
        return (
          <Link
            key={step.id}
            to={`/jobs/${jobId}/${step.id}`}
            data-step={step.id}
            aria-current={on ? "step" : undefined}
            className={`flex-auto flex items-center justify-center gap-1.5 min-h-12 px-1.5 text-base leading-tight border-b-4 ${on ? "border-info bg-base-100 font-bold" : "border-transparent hover:bg-base-100"}`}
          >
            {few && <Icon size={18} className="shrink-0" aria-hidden />}
            {step.label}
            <MarkDot mark={markOf(step, solution)} />
          </Link>
        );
      })}
    </nav>
  );
}
