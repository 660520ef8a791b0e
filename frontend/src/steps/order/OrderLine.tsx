import { Check } from "lucide-react";
import { useState } from "react";
import type { Plan } from "../../api/client";
import type { OrderLine as Line } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { Labelled } from "../../ui/Labelled";
import { WhyButton } from "../../ui/WhyButton";

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
  const { plan, change } = useScreen();
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
          {line.cost_text && <span className="block text-sm">{line.cost_text}</span>}
        </div>
        <WhyButton of={line.name} text={line.buy_text} working={line.why} />
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
          aria-label={`${line.name}: ${line.typed ? "Pack as typed" : "Pack"}`}
          className="btn btn-ghost h-11 px-3 font-medium"
          onClick={() => setOpen(!open)}
        >
          {line.typed ? "Pack as typed" : "Pack"}
        </button>
      </div>
      {(line.water || line.batch || line.held.length > 0) && (
        <div className="mt-1">
          {line.water && <span className="block text-sm">Water: {line.water}</span>}
          {line.batch && <span className="block text-sm">{line.batch}.</span>}
          {line.held.map((held) => (
            <span key={held} className="block text-sm font-semibold">
              Keep back: {held}
            </span>
          ))}
        </div>
      )}
      {open && (
        <div className="flex gap-2 mt-1">
          <Typed
            label={`One pack, ${line.pack_unit}`}
            text={own?.pack == null ? "" : line.pack_shown}
            usual={line.pack_shown}
            least={0.01}
            onCommit={(pack) => put({ pack: pack === null ? null : pack * line.pack_one })}
          />
          <Typed
            label="Price of a pack"
            text={own?.price == null ? "" : String(own.price)}
            usual=""
            least={0}
            onCommit={(price) => put({ price })}
          />
        </div>
      )}
    </li>
  );
}

interface TypedProps {
  label: string;
  text: string;
  usual: string;
  least: number;
  onCommit: (value: number | null) => void;
}

/** A number that may be left empty: then it is as usual. */
function Typed({ label, text, usual, least, onCommit }: TypedProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState("");
  function commit() {
    if (typed === null) return;
    const bare = typed.replace(",", ".").trim();
    const next = bare === "" ? null : Number(bare);
    if (next !== null && !(Number.isFinite(next) && next >= least && next <= 100_000)) {
      setError(`“${typed}” is no such number. Type one from ${least}, or leave it empty.`);
      return;
    }
    setTyped(null);
    setError("");
    onCommit(next);
  }
  return (
    <Labelled label={label} error={error}>
      {(id, note) => (
        <input
          id={id}
          inputMode="decimal"
          className={`input w-full h-11 text-lg px-2.5 ${error ? "input-error" : ""}`}
          value={typed ?? text}
          placeholder={usual}
          aria-invalid={error ? true : undefined}
          aria-describedby={note}
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
      )}
    </Labelled>
  );
}
