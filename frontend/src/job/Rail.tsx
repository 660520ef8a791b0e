import {
  ChevronDown,
  ChevronsLeft,
  ChevronsRight,
  ClipboardCheck,
  Hammer,
  type LucideIcon,
  PaintRoller,
  PencilRuler,
  Ruler,
} from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { gravest, markOf, OPEN_PHASES, STEPS } from "../steps";
import type { Mark, Phase, Step } from "../steps/step";
import { keep, recall } from "../ui/storage";
import { useScreen } from "./context";
import { SAID } from "./findings";

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

/** Whether the rail shows pictures only. */
const NARROW = "rail";

export function MarkDot({ mark, className = "" }: { mark: Mark | null; className?: string }) {
  if (!mark) return null;
  return (
    <span className={`size-3 shrink-0 ${DOT[mark]} ${className}`}>
      <span className="sr-only">{SAID[mark]}</span>
    </span>
  );
}

const inPhase = (phase: Phase) => STEPS.filter((step) => step.phase === phase);

/** All steps of the job under their phases, each with its mark and its answer; wide or narrow as it
 * was left. A phone has a bar that opens them. */
export function Rail({ current }: { current: Step }) {
  const [narrow, setNarrow] = useState(() => recall(NARROW) === "narrow");
  const toggle = () => {
    keep(NARROW, narrow ? "wide" : "narrow");
    setNarrow(!narrow);
  };
  return (
    <>
      <nav
        aria-label="Steps of the job"
        className={`max-lg:hidden shrink-0 flex flex-col overflow-y-auto bg-base-200 border-r border-base-300 ${narrow ? "w-16" : "w-52"}`}
      >
        {OPEN_PHASES.map((phase) => (
          <PhaseSteps key={phase} phase={phase} current={current} narrow={narrow} />
        ))}
        <button
          type="button"
          className="mt-auto min-h-9 flex items-center gap-2 px-4 text-sm hover:bg-base-100"
          aria-label={narrow ? "Show the names of the steps" : undefined}
          title={narrow ? undefined : "Show the steps as pictures"}
          onClick={toggle}
        >
          {narrow ? (
            <ChevronsRight size={20} aria-hidden />
          ) : (
            <ChevronsLeft size={20} aria-hidden />
          )}
          {!narrow && "Narrow"}
        </button>
      </nav>
      <PhoneBar current={current} />
    </>
  );
}

interface StepsProps {
  phase: Phase;
  current: Step;
  narrow?: boolean;
  /** Rows for a thumb. */
  tall?: boolean;
}

function PhaseSteps({ phase, current, narrow = false, tall = false }: StepsProps) {
  const { solution } = useScreen();
  const Icon = ICONS[phase];
  const steps = inPhase(phase);
  const mark = gravest(steps.map((step) => markOf(step, solution)));
  const number = OPEN_PHASES.indexOf(phase) + 1;
  return (
    <section
      aria-label={phase}
      data-phase={phase}
      className="border-b border-base-300 last-of-type:border-b-0 pb-0.5"
    >
      <h2
        className={`flex items-center gap-2 px-3 pt-1.5 pb-0.5 text-sm font-bold ${narrow ? "justify-center" : ""}`}
        title={`${phase} (${number})`}
      >
        <Icon size={18} className="shrink-0" aria-hidden />
        <span className={narrow ? "sr-only" : "flex-1"}>{phase}</span>
        <span className="sr-only">{mark && SAID[mark]}</span>
      </h2>
      <ul>
        {steps.map((step) => (
          <li key={step.id}>
            <StepLink step={step} on={step === current} narrow={narrow} tall={tall} />
          </li>
        ))}
      </ul>
    </section>
  );
}

interface LinkProps {
  step: Step;
  on: boolean;
  narrow: boolean;
  tall: boolean;
}

function StepLink({ step, on, narrow, tall }: LinkProps) {
  const { jobId, solution } = useScreen();
  const Icon = step.icon;
  const mark = markOf(step, solution);
  const answer = solution && step.answers?.(solution);
  return (
    <Link
      to={`/jobs/${jobId}/${step.id}`}
      data-step={step.id}
      aria-current={on ? "step" : undefined}
      title={narrow ? step.label : undefined}
      className={`relative flex items-center gap-2 px-3 leading-tight border-l-4 ${tall ? "min-h-12 text-base" : "min-h-8 text-[0.95rem]"} ${narrow ? "justify-center" : ""} ${on ? "border-info bg-base-100 font-bold" : "border-transparent hover:bg-base-100"}`}
    >
      {narrow ? (
        <>
          <Icon size={20} aria-hidden />
          <span className="sr-only">{step.label}</span>
          <MarkDot mark={mark} className="absolute top-1 right-1.5 scale-75" />
        </>
      ) : (
        <>
          <MarkDot mark={mark} />
          {!mark && (
            <span className="size-3 shrink-0 rounded-full border-2 border-base-content/30" />
          )}
          <span className="flex-1 min-w-0">{step.label}</span>
          {answer && (
            <span className="text-sm font-normal whitespace-nowrap" data-answer>
              {answer}
            </span>
          )}
        </>
      )}
    </Link>
  );
}

/** The open step at the foot of a phone; pressed, all steps. */
function PhoneBar({ current }: { current: Step }) {
  const { solution } = useScreen();
  const [open, setOpen] = useState(false);
  const sheet = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another step closes it
  useEffect(() => setOpen(false), [current]);
  useEffect(() => {
    if (!open) return;
    sheet.current?.querySelector<HTMLElement>('[aria-current="step"]')?.focus();
    const pressed = (event: KeyboardEvent) => event.key === "Escape" && setOpen(false);
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [open]);
  const Icon = ICONS[current.phase];
  return (
    <div className="lg:hidden fixed bottom-0 inset-x-0 z-20">
      {open && (
        <nav
          ref={sheet}
          aria-label="Steps of the job"
          className="max-h-[calc(100dvh-7rem)] overflow-y-auto bg-base-200 border-t-2 border-info shadow-lg"
        >
          {OPEN_PHASES.map((phase) => (
            <PhaseSteps key={phase} phase={phase} current={current} tall />
          ))}
        </nav>
      )}
      <button
        type="button"
        data-steps
        aria-expanded={open}
        className="w-full min-h-16 lying:min-h-11 flex items-center gap-3 px-4 bg-base-200 border-t border-base-300 text-left"
        onClick={() => setOpen(!open)}
      >
        <Icon size={24} className="shrink-0" aria-hidden />
        <span className="flex-1 leading-tight">
          <span className="block lying:inline text-sm">{current.phase} </span>
          <span className="block lying:inline font-bold">{current.label}</span>
        </span>
        <MarkDot mark={gravest(STEPS.map((step) => markOf(step, solution)))} />
        <ChevronDown size={24} className={open ? "" : "rotate-180"} aria-hidden />
        <span className="sr-only">all steps</span>
      </button>
    </div>
  );
}
