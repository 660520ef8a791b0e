import { ArrowRight, ChevronDown, OctagonAlert, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { Finding } from "../api/generated/solution";
import { unbroken } from "../api/unbroken";
import { useScreen } from "../job/context";
import { keyOf, litBy, SAID } from "../job/findings";
import { useLights, useLit } from "../job/shown";
import { ownOf, stepOf } from "../steps";

const LOOK = {
  stop: { box: "border-error bg-error/10", icon: OctagonAlert, ink: "text-error" },
  caution: {
    box: "border-warning bg-warning/10",
    icon: TriangleAlert,
    ink: "text-warning",
  },
} as const;

/** What is broken or has to be known, each with what cures it. */
export function Findings() {
  const { solution, refused, undo, apply, offered, step, reach } = useScreen();
  if (refused) {
    return (
      <section
        aria-label="Findings"
        role="alert"
        className="border-l-4 border-error bg-error/10 p-3"
      >
        <h2 className="font-bold text-error">{refused.title}</h2>
        <ul className="mt-1 space-y-1">
          {(refused.errors.length ? refused.errors : [{ path: "", message: refused.message }]).map(
            (error) => (
              <li key={error.path + error.message}>
                {error.message}
                {stepOf({ field: error.path }) && (
                  <button
                    type="button"
                    className="btn btn-ghost h-11 px-2 underline decoration-dotted underline-offset-4"
                    onClick={() => reach(error.path)}
                  >
                    To its field
                  </button>
                )}
              </li>
            ),
          )}
        </ul>
        <p className="text-sm mt-2">The drawings show the last plan that could be worked out.</p>
        {refused.status !== 0 && (
          <button type="button" className="btn h-11 mt-2" onClick={() => void undo()}>
            Back to the last good plan
          </button>
        )}
      </section>
    );
  }
  if (!solution) {
    return (
      <p className="p-4" aria-busy>
        Working it out…
      </p>
    );
  }
  const own = ownOf(step, solution.findings);
  const others = solution.findings.filter((finding) => !own.includes(finding));
  return (
    <section
      id="findings"
      aria-label="Findings"
      className="border-b border-base-300 px-4 py-2 space-y-1.5"
    >
      {solution.findings.length === 0 && (
        <p className="border-l-4 border-success bg-success/10 rounded-r-box p-2 text-sm leading-snug">
          Nothing in this plan breaks {solution.rule_set}. {solution.deference}
        </p>
      )}
      {own.length > 0 && (
        <ol className="space-y-1.5">
          {own.map((finding, i) => (
            <FindingCard
              key={keyOf(finding)}
              number={own.length > 1 ? i + 1 : null}
              finding={finding}
              onCure={offered ? apply : null}
            />
          ))}
        </ol>
      )}
      {others.length > 0 && (
        <details className="group" open={own.length === 0 && step.phase !== "Prove" && roomy()}>
          <summary className="min-h-11 flex items-center justify-between cursor-pointer font-semibold">
            {others.length} {others.length === 1 ? "finding" : "findings"} of other steps
            <ChevronDown size={20} className="shrink-0 group-open:rotate-180" aria-hidden />
          </summary>
          <Others findings={others} />
        </details>
      )}
    </section>
  );
}

/** Whether chart and panel stand side by side. */
const roomy = () => matchMedia("(min-width: 64rem)").matches;

/** Findings that other steps mend, each with the way there. */
function Others({ findings }: { findings: Finding[] }) {
  const { jobId } = useScreen();
  return (
    <ul aria-label="Findings of other steps">
      {findings.map((finding) => {
        const look = LOOK[finding.severity];
        const owner = stepOf(finding);
        return (
          <li key={keyOf(finding)}>
            <Link
              to={`/jobs/${jobId}/${owner?.id}`}
              className="flex items-center gap-2 min-h-11 leading-tight hover:bg-base-100 rounded-field px-1"
              data-other={finding.code}
            >
              <look.icon
                size={18}
                className={`shrink-0 ${look.ink}`}
                aria-label={SAID[finding.severity]}
              />
              <span className="flex-1 min-w-0 line-clamp-2">{finding.title}</span>
              <span className="text-sm font-semibold shrink-0">{owner?.label}</span>
            </Link>
          </li>
        );
      })}
    </ul>
  );
}

interface CardProps {
  finding: Finding;
  /** Its place among several, the gravest first. */
  number: number | null;
  onCure: OnCure | null;
}

/** What is done with a change that is pressed; null while what is shown is of the plan before. */
type OnCure = (changes: Finding["cures"][number]["changes"]) => void;

/** A finding in a line, with the first change that mends it; opened, why, by whose text, and what
 * else would do. */
function FindingCard({ finding, number, onCure }: CardProps) {
  // Where there is room the gravest stands open: its reason is read without a press.
  const [open, setOpen] = useState((number ?? 1) === 1 && roomy());
  const look = LOOK[finding.severity];
  const Icon = look.icon;
  const [first, ...more] = finding.cures;
  const lights = useLights();
  const lit = useLit(litBy(finding));
  return (
    <li
      className={`border-l-4 rounded-r-box ${look.box} ${lit ? "outline-2 outline-info" : ""}`}
      data-code={finding.code}
      data-lit={lit || undefined}
      {...(finding.places.length > 0 && lights(litBy(finding)))}
    >
      <button
        type="button"
        aria-expanded={open}
        className="w-full min-h-11 px-3 py-2 font-bold leading-tight flex gap-2 text-left"
        onClick={() => setOpen(!open)}
      >
        <Icon size={20} className={`shrink-0 ${look.ink}`} aria-label={SAID[finding.severity]} />
        <span className="flex-1">
          {number !== null && `${number}. `}
          {unbroken(finding.title)}
        </span>
        <ChevronDown size={20} className={`shrink-0 ${open ? "rotate-180" : ""}`} aria-hidden />
      </button>
      <div className="px-3 space-y-1.5">
        {open && <p className="leading-snug">{unbroken(finding.detail)}</p>}
        {first && <CureButton cure={first} onCure={onCure} />}
        {open && more.map((cure) => <CureButton key={cure.text} cure={cure} onCure={onCure} />)}
        {open && <p className="text-sm">{finding.source}</p>}
        <div className={first || open ? "pb-0.5" : ""} />
      </div>
    </li>
  );
}

function CureButton({ cure, onCure }: { cure: Finding["cures"][number]; onCure: OnCure | null }) {
  return (
    <button
      type="button"
      className="btn btn-outline w-full min-h-11 h-auto py-1.5 justify-start text-left text-base font-semibold border-base-content/30 bg-base-100"
      data-cure
      aria-disabled={!onCure}
      onClick={() => onCure?.(cure.changes)}
    >
      <ArrowRight size={18} className="shrink-0" aria-hidden />
      <span>
        {unbroken(cure.text)}
        {cure.opens.map((title) => (
          <span key={title} className="block text-sm font-normal">
            Also causes: {unbroken(title)}
          </span>
        ))}
      </span>
    </button>
  );
}
