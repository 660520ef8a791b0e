import { ArrowRight, ChevronDown, CircleCheck, OctagonAlert, TriangleAlert } from "lucide-react";
import type { Finding } from "../api/generated/solution";
import { useScreen } from "../job/context";
import { withValue } from "../job/pointer";

const LOOK = {
  stop: { box: "border-error bg-error/10", icon: OctagonAlert, ink: "text-error", word: "Stop" },
  caution: {
    box: "border-warning bg-warning/10",
    icon: TriangleAlert,
    ink: "text-warning",
    word: "Caution",
  },
  note: { box: "border-info bg-info/10", icon: CircleCheck, ink: "text-info", word: "Note" },
} as const;

/** What is broken or has to be known, each with what cures it. */
export function Findings() {
  const { solution, refused, undo, change } = useScreen();
  if (refused) {
    return (
      <section
        aria-label="Findings"
        role="alert"
        className="border-l-4 border-error bg-error/10 rounded-r-box p-3"
      >
        <h2 className="font-bold text-error">{refused.title}</h2>
        <ul className="mt-1 space-y-1">
          {(refused.errors.length ? refused.errors : [{ path: "", message: refused.message }]).map(
            (error) => (
              <li key={error.path + error.message}>
                {error.message}
                {error.path && <span className="block text-sm">at {error.path}</span>}
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
  if (!solution) return <p aria-busy>Working it out…</p>;
  return (
    <section aria-label="Findings">
      <h2 className="font-semibold mb-2">
        {solution.findings.length === 0
          ? "No findings"
          : `${solution.findings.length} ${solution.findings.length === 1 ? "finding" : "findings"}`}
        <span className="font-normal text-sm"> · {solution.rule_set}</span>
      </h2>
      {solution.findings.length === 0 && (
        <p className="border-l-4 border-success bg-success/10 rounded-r-box p-3">
          Nothing in this plan breaks the rule set. {solution.deference}
        </p>
      )}
      <ul className="space-y-2">
        {solution.findings.map((finding, i) => (
          <FindingCard
            key={finding.code + finding.limit + finding.applies_to}
            first={i === 0}
            finding={finding}
            onCure={(changes) =>
              change((plan) => changes.reduce((p, c) => withValue(p, c.path, c.value), plan))
            }
          />
        ))}
      </ul>
    </section>
  );
}

function FindingCard({
  finding,
  first,
  onCure,
}: {
  first: boolean;
  finding: Finding;
  onCure: (changes: Finding["cures"][number]["changes"]) => void;
}) {
  const look = LOOK[finding.severity];
  const Icon = look.icon;
  return (
    <li className={`border-l-4 rounded-r-box ${look.box}`} data-code={finding.code}>
      <details open={first} className="group">
        <summary className="cursor-pointer list-none p-3 font-bold leading-tight flex gap-2">
          <Icon size={20} className={`shrink-0 ${look.ink}`} aria-label={look.word} />
          <span className="flex-1">{finding.title}</span>
          <ChevronDown size={20} className="shrink-0 group-open:rotate-180" aria-hidden />
        </summary>
        <div className="px-3 pb-3">
          <p className="leading-snug">{finding.detail}</p>
          <p className="text-sm mt-1">{finding.source}</p>
          <ul className="mt-1.5 space-y-1.5">
            {finding.cures.map((cure) => (
              <li key={cure.text}>
                <button
                  type="button"
                  className="btn btn-outline w-full min-h-11 h-auto py-1.5 justify-start text-left text-base font-semibold border-base-content/30 bg-base-100"
                  onClick={() => onCure(cure.changes)}
                >
                  <ArrowRight size={18} className="shrink-0" aria-hidden />
                  <span>
                    {cure.text}
                    {cure.opens.map((title) => (
                      <span key={title} className="block text-sm font-normal">
                        Then: {title}
                      </span>
                    ))}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </div>
      </details>
    </li>
  );
}
