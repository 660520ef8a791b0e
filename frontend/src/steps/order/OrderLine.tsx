import { Check } from "lucide-react";
import { useId, useState } from "react";
import type { Plan } from "../../api/client";
import type { OrderLine as Line } from "../../api/generated/solution";
import { useScreen } from "../../job/context";

type Bought = Plan["order"]["items"][number];

const TICKS = [
  ["bought", "Bought"],
  ["on_site", "On site"],
  ["checked", "Checked"],
] as const;

/** The plan with something changed of one thing that is bought; what is as usual is not listed. */
function withItem(plan: Plan, item: string, patch: Partial<Bought>): Plan {
  const there = plan.order.items.find((one) => one.item === item);
  const next: Bought = {
    item,
    pack: null,
    price: null,
    bought: false,
    on_site: false,
    checked: false,
    ...there,
    ...patch,
  };
  const usual =
    next.pack === null && next.price === null && !next.bought && !next.on_site && !next.checked;
  const others = plan.order.items.filter((one) => one.item !== item);
  const items = there
    ? plan.order.items.flatMap((one) => (one.item !== item ? [one] : usual ? [] : [next]))
    : usual
      ? others
      : [...others, next];
  return { ...plan, order: { items } };
}

/** One thing that is bought: how much, why, what the bag says, and what was ticked. */
export function OrderLine({ line }: { line: Line }) {
  const { plan, change, why } = useScreen();
  const [open, setOpen] = useState(false);
  // What the plan says, at once: the answer follows, with or without a connection.
  const own = plan.order.items.find((one) => one.item === line.item);
  const put = (patch: Partial<Bought>) => change((old) => withItem(old, line.item, patch));
  return (
    <li className="py-2" data-item={line.item}>
      <div className="flex gap-2 items-start">
        <div className="flex-1 min-w-0">
          <span className="block font-semibold leading-snug">{line.name}</span>
          <span className={`block text-lg font-bold ${own?.bought ? "line-through" : ""}`}>
            {line.buy_text}
          </span>
          <span className="block text-sm">
            {line.needed_text} needed{line.waste_text && `, ${line.waste_text} for waste`}
          </span>
          {line.water && <span className="block text-sm">Water: {line.water}</span>}
          {line.held.map((held) => (
            <span key={held} className="block text-sm font-semibold">
              Keep back: {held}
            </span>
          ))}
          {line.cost !== null && <span className="block text-sm">{line.cost.toFixed(2)}</span>}
        </div>
        <button
          type="button"
          className="btn btn-ghost h-11 px-2 underline decoration-dotted underline-offset-4"
          aria-label={`Why: ${line.name}`}
          onClick={() =>
            why({
              label: line.name,
              value: null,
              unit: "share",
              text: line.buy_text,
              working: line.why,
              under: "",
            })
          }
        >
          why?
        </button>
      </div>
      <div className="flex flex-wrap gap-1.5 mt-1">
        {TICKS.map(([field, label]) => (
          <button
            key={field}
            type="button"
            aria-pressed={own?.[field] ?? false}
            aria-label={`${line.name}: ${label}`}
            className={`btn h-11 px-3 font-medium ${own?.[field] ? "btn-info" : ""}`}
            onClick={() => put({ [field]: !own?.[field] })}
          >
            {own?.[field] && <Check size={18} aria-hidden />} {label}
          </button>
        ))}
        <button
          type="button"
          aria-expanded={open}
          aria-label={`${line.name}: the bag says`}
          className="btn btn-ghost h-11 px-3 font-medium"
          onClick={() => setOpen(!open)}
        >
          {line.typed ? "As typed" : "Pack…"}
        </button>
      </div>
      {open && (
        <div className="flex gap-2 mt-1">
          <Typed
            label={`One pack ${PACK[line.unit]}`}
            value={own?.pack ?? null}
            usual={line.pack}
            least={0.001}
            onCommit={(pack) => put({ pack })}
          />
          <Typed
            label="Price of a pack"
            value={own?.price ?? null}
            usual={null}
            least={0}
            onCommit={(price) => put({ price })}
          />
        </div>
      )}
    </li>
  );
}

const PACK: Record<Line["unit"], string> = {
  each: "holds, pieces",
  bag: "is, bags",
  m: "holds, m",
  m2: "covers, m²",
  litre: "holds, L",
  volume: "gives, L",
};

interface TypedProps {
  label: string;
  value: number | null;
  usual: number | null;
  least: number;
  onCommit: (value: number | null) => void;
}

/** A number that may be left empty: then it is as usual. */
function Typed({ label, value, usual, least, onCommit }: TypedProps) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState("");
  function commit() {
    if (typed === null) return;
    const text = typed.replace(",", ".").trim();
    const next = text === "" ? null : Number(text);
    if (next !== null && !(Number.isFinite(next) && next >= least && next <= 100_000)) {
      setError(`“${typed}” is no such number. Type one from ${least}, or leave it empty.`);
      return;
    }
    setTyped(null);
    setError("");
    onCommit(next);
  }
  return (
    <div className="flex-1 min-w-0">
      <label htmlFor={id} className="block text-sm leading-tight mb-1">
        {label}
      </label>
      <input
        id={id}
        inputMode="decimal"
        className={`input w-full h-11 text-lg px-2.5 ${error ? "input-error" : ""}`}
        value={typed ?? (value === null ? "" : String(value))}
        placeholder={usual === null ? "" : String(Math.round(usual * 1000) / 1000)}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-note` : undefined}
        onChange={(event) => setTyped(event.currentTarget.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit();
          else if (event.key === "Escape") {
            setTyped(null);
            setError("");
          }
        }}
      />
      {error && (
        <p id={`${id}-note`} role="alert" className="text-sm mt-1 text-error font-semibold">
          {error}
        </p>
      )}
    </div>
  );
}
