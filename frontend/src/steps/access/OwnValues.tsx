import { useQuery } from "@tanstack/react-query";
import { Check, Plus, Trash2 } from "lucide-react";
import { type FormEvent, useId, useState } from "react";
import { Link } from "react-router";
import { api, type Problem, type Rule, type RuleSet } from "../../api/client";
import { useScreen } from "../../job/context";

/** Under which rules: whether the accessible ones bind, and which limits this job keeps otherwise. */
export function OwnValues() {
  const { plan, set, solution } = useScreen();
  const [adding, setAdding] = useState(false);
  const sets = useQuery<RuleSet[], Problem>({ queryKey: ["rules"], queryFn: api.rules });
  const own = sets.data?.find((rules) => rules.id === plan.rule_set);
  const layer = own?.layer ? sets.data?.find((rules) => rules.id === own.layer) : undefined;
  return (
    <section>
      <h2 className="font-semibold flex flex-wrap items-center gap-x-1">
        Under which rules:
        <Link
          className="underline decoration-dotted underline-offset-4 min-h-11 inline-flex items-center"
          to={`/rules/${plan.rule_set}`}
        >
          {solution?.rule_set ?? own?.name}
        </Link>
      </h2>
      <button
        type="button"
        aria-pressed={plan.accessible}
        className={`btn min-h-11 h-auto py-1.5 text-base font-medium px-3 justify-start ${plan.accessible ? "btn-info" : ""}`}
        onClick={() => set("/accessible", !plan.accessible)}
      >
        {plan.accessible && <Check size={18} aria-hidden />}
        This room has to be accessible
      </button>
      <p className="text-sm mt-1">
        {layer
          ? `Then what ${layer.name} asks is added.`
          : "Recommendations for accessible rooms become requirements."}
      </p>
      {plan.overrides.length > 0 && (
        <ul className="divide-y divide-base-300 border-y border-base-300 mt-1">
          {plan.overrides.map((own, i) => {
            const kept = solution?.own_values[i];
            return (
              <li key={`${own.topic} ${own.applies_to}`} className="flex gap-2 py-1.5 items-start">
                <span className="flex-1 leading-tight">
                  {kept?.title ?? own.applies_to}: <strong>{kept?.text ?? own.given}</strong>
                  <span className="block text-sm">{kept?.note ?? own.reason}</span>
                </span>
                <button
                  type="button"
                  className="btn btn-ghost btn-square size-11"
                  aria-label={`Keep to the rules again: ${kept?.title ?? own.applies_to}`}
                  onClick={() =>
                    set(
                      "/overrides",
                      plan.overrides.filter((_, at) => at !== i),
                    )
                  }
                >
                  <Trash2 size={18} aria-hidden />
                </button>
              </li>
            );
          })}
        </ul>
      )}
      {adding && own ? (
        <OwnValue
          entries={[...own.entries, ...(plan.accessible ? (layer?.entries ?? []) : [])]}
          onDone={() => setAdding(false)}
        />
      ) : (
        <button
          type="button"
          className="btn btn-ghost h-11 px-2 font-medium"
          disabled={!own}
          onClick={() => setAdding(true)}
        >
          <Plus size={18} aria-hidden /> Keep a limit at another value
        </button>
      )}
    </section>
  );
}

/** One limit kept at a value of one's own: which, at what, and why. */
function OwnValue({ entries, onDone }: { entries: Rule[]; onDone: () => void }) {
  const { plan, ask } = useScreen();
  const id = useId();
  const limits = entries.filter((rule) => rule.weight);
  const [chosen, setChosen] = useState(0);
  const [typed, setTyped] = useState("");
  const [reason, setReason] = useState("");
  const [error, setError] = useState<string | null>(null);
  const rule = limits[chosen];
  async function keep(event: FormEvent) {
    event.preventDefault();
    if (!rule) return;
    if (reason.trim().length < 3) {
      setError("Say why this job keeps another value: it is printed with the job.");
      return;
    }
    try {
      const { display } = plan;
      await ask({ what: "limit", display, rule, typed, reason: reason.trim() });
      onDone();
    } catch (problem) {
      setError((problem as Problem).message);
    }
  }
  return (
    <form className="space-y-2 border-2 border-base-300 rounded-box p-3 mt-1" onSubmit={keep}>
      <label className="block text-sm" htmlFor={`${id}-limit`}>
        Which limit
        <select
          id={`${id}-limit`}
          aria-label="Which limit"
          className="select w-full h-11 text-base mt-1"
          value={chosen}
          onChange={(event) => setChosen(Number(event.currentTarget.value))}
        >
          {limits.map((limit, i) => (
            <option key={`${limit.title} ${limit.printed} ${limit.applies_to}`} value={i}>
              {limit.title}: {limit.printed}, {limit.applies_to}
            </option>
          ))}
        </select>
      </label>
      <label className="block text-sm" htmlFor={`${id}-value`}>
        {rule?.width ? "Kept at, width × depth" : "Kept at"}
        <input
          id={`${id}-value`}
          className="input w-full h-11 text-lg mt-1"
          value={typed}
          autoComplete="off"
          required
          onChange={(event) => setTyped(event.currentTarget.value)}
        />
      </label>
      <label className="block text-sm" htmlFor={`${id}-reason`}>
        Why
        <input
          id={`${id}-reason`}
          className="input w-full h-11 text-base mt-1"
          value={reason}
          maxLength={300}
          placeholder="Agreed with the inspector on …"
          onChange={(event) => setReason(event.currentTarget.value)}
        />
      </label>
      {error && (
        <p role="alert" className="text-error font-semibold text-sm">
          {error}
        </p>
      )}
      <div className="fields">
        <button type="submit" className="btn btn-info h-11">
          Keep this value
        </button>
        <button type="button" className="btn btn-ghost h-11" onClick={onDone}>
          Cancel
        </button>
      </div>
    </form>
  );
}
