import { useQuery } from "@tanstack/react-query";
import { CircleAlert, CircleX } from "lucide-react";
import { useState } from "react";
import { api, type Compared, type Problem, type RuleSet } from "../../api/client";
import { useScreen } from "../../job/context";
import { SAID } from "../../job/findings";

/** The same room under other rule sets: what each of them finds, and what is no longer found. */
export function Compare() {
  const { plan } = useScreen();
  const [open, setOpen] = useState(false);
  const sets = useQuery<RuleSet[], Problem>({ queryKey: ["rules"], queryFn: api.rules });
  const others = sets.data?.map((rules) => rules.id).filter((id) => id !== plan.rule_set) ?? [];
  const asked = [plan.rule_set, ...others].slice(0, 8);
  const answer = useQuery<Compared[], Problem>({
    queryKey: ["compare", plan, asked],
    queryFn: () => api.compare(plan, asked),
    enabled: open && others.length > 0,
    placeholderData: (before) => before,
  });
  return (
    <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="font-semibold min-h-11 flex items-center cursor-pointer">
        <span className="underline decoration-dotted underline-offset-4">
          The same room under other rules
        </span>
      </summary>
      {answer.error && (
        <p role="alert" className="text-error">
          {answer.error.message}
        </p>
      )}
      <ul className="space-y-2" aria-label="Under other rules">
        {answer.data?.map((one, i) => (
          <li
            key={one.id}
            className="border border-base-300 rounded-box p-2"
            data-compared={one.id}
          >
            <p className="flex gap-2 items-baseline">
              <strong className="flex-1">
                {one.name}
                {i === 0 && " (this job's)"}
              </strong>
              <span
                className={
                  one.findings.some(({ severity }) => severity === "stop")
                    ? "text-error font-semibold"
                    : ""
                }
              >
                {one.summary}
              </span>
            </p>
            <ul className="mt-1 space-y-0.5 text-sm">
              {one.findings.map((finding) => (
                <li key={`${finding.title} ${finding.source}`} className="flex gap-1.5 items-start">
                  {finding.severity === "stop" ? (
                    <CircleX
                      size={16}
                      aria-label={SAID.stop}
                      className="text-error mt-0.5 shrink-0"
                    />
                  ) : (
                    <CircleAlert
                      size={16}
                      aria-label={SAID.caution}
                      className="text-warning mt-0.5 shrink-0"
                    />
                  )}
                  <span>
                    {finding.title}
                    {finding.asked && ` · ${finding.asked}`}
                    {i > 0 && !finding.here_too && (
                      <strong className="text-warning"> · only here</strong>
                    )}
                  </span>
                </li>
              ))}
              {one.gone.map((title) => (
                <li key={title} className="pl-[22px]">
                  <s>{title}</s> · not here
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </details>
  );
}
