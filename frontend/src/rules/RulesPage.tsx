import { useQuery } from "@tanstack/react-query";
import { ArrowLeft } from "lucide-react";
import { useEffect } from "react";
import { Link, NavLink, useParams } from "react-router";
import { api, type Problem, type RuleSet } from "../api/client";
import { Masthead } from "../ui/Masthead";
import { ImportRules, OwnRules } from "./OwnRules";

const INK = {
  required: "bg-error/10 text-error",
  advice: "bg-warning/10 text-warning",
  known: "bg-base-200",
} as const;

/** Every rule set, one at a time: what it asks, of whom, and where that is written. */
export function RulesPage() {
  const sets = useQuery<RuleSet[], Problem>({ queryKey: ["rules"], queryFn: api.rules });
  const { id } = useParams();
  const chosen = sets.data?.find((rules) => rules.id === id) ?? sets.data?.[0];
  useEffect(() => {
    document.title = chosen ? `${chosen.name} · rules · Calm Basin` : "Rules · Calm Basin";
  }, [chosen]);
  return (
    <div className="min-h-full bg-base-100">
      <Masthead>
        <Link to="/" className="btn btn-ghost h-11 text-primary-content border-0">
          <ArrowLeft size={20} aria-hidden /> Jobs
        </Link>
      </Masthead>
      <main className="max-w-5xl mx-auto px-5 py-8">
        <h1 className="text-3xl font-bold">Rules</h1>
        <p className="mt-1 max-w-2xl">
          What each rule set asks and where that is written. “From memory” was not checked against
          the document: look it up before you rely on it.
        </p>
        {sets.error && (
          <p role="alert" className="text-error mt-4">
            {sets.error.message}
          </p>
        )}
        <nav aria-label="Rule sets" className="flex flex-wrap gap-1.5 mt-5">
          {sets.data?.map((rules) => (
            <NavLink
              key={rules.id}
              to={`/rules/${rules.id}`}
              aria-current={rules === chosen ? "page" : undefined}
              className={`btn h-11 text-base font-medium ${rules === chosen ? "btn-info" : ""}`}
            >
              {rules.name}
            </NavLink>
          ))}
          <ImportRules />
        </nav>
        {chosen && <Asked rules={chosen} />}
      </main>
    </div>
  );
}

function Asked({ rules }: { rules: RuleSet }) {
  return (
    <section aria-label={rules.name} className="mt-5">
      <p className="border-l-4 border-warning bg-warning/10 rounded-r-box p-3">{rules.deference}</p>
      <OwnRules rules={rules} />
      <ul className="mt-4 divide-y divide-base-300 border-y border-base-300">
        {rules.entries.map((rule) => (
          <li
            key={`${rule.title} ${rule.printed} ${rule.applies_to}`}
            className="py-3 grid gap-x-5 gap-y-1 sm:grid-cols-[11rem_1fr_9rem]"
          >
            <span className="font-semibold">{rule.title}</span>
            <span>
              <span className="text-lg font-bold">{rule.printed}</span>
              <span className="block">for {rule.applies_to}</span>
              <span className="block text-sm">
                {rule.source}
                {rule.note && ` · ${rule.note}`}
              </span>
            </span>
            <span className="sm:text-right">
              <span
                className={`inline-block rounded-field px-2 py-1 text-sm font-semibold leading-tight ${INK[rule.weight ?? "known"]}`}
              >
                {rule.weighs}
              </span>
            </span>
          </li>
        ))}
      </ul>
      <p className="text-sm mt-3">
        Entered {new Date(rules.entered).toLocaleDateString(undefined, { dateStyle: "long" })}. What
        is “to know” is held against no plan.
      </p>
    </section>
  );
}
