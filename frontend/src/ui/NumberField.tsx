import { useId, useState } from "react";
import { useScreen } from "../job/context";
import { valueAt } from "../job/pointer";

interface Props {
  label: string;
  path: string;
  hint?: string;
  /** How far the arrow keys go, and with Shift. */
  step?: [number, number];
  /** Whether the label is only heard: what stands beside says it to the eye. */
  bare?: boolean;
}

/** A plain number of the plan, such as an angle in degrees. */
export function NumberField({ label, path, hint, step = [1, 15], bare }: Props) {
  const { plan, set, confirm, refused } = useScreen();
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const value = Number(valueAt(plan, path));
  function commit(entered = false) {
    if (typed === null) {
      // Entered as it stands, it is known all the same.
      if (entered) confirm((of) => of === path);
      return;
    }
    const next = Number(typed.replace("°", "").replace(",", ".").trim() || Number.NaN);
    if (Number.isFinite(next)) {
      setTyped(null);
      setError(null);
      set(path, next);
      confirm((of) => of === path);
    } else setError(`“${typed}” is not a plain number. Type one such as ${value}.`);
  }
  const message = error ?? refused?.errors.find((problem) => problem.path === path)?.message;
  return (
    <div className="flex-1 basis-24 min-w-0">
      <label htmlFor={id} className={bare ? "sr-only" : "block text-sm leading-tight mb-1"}>
        {label}
      </label>
      <input
        id={id}
        inputMode="decimal"
        className={`input w-full h-11 text-lg px-2.5 ${plan.assumed.includes(path) ? "border-dashed border-2 border-warning italic" : "font-semibold"} ${message ? "input-error" : ""}`}
        data-field={path}
        data-assumed={plan.assumed.includes(path) || undefined}
        value={typed ?? String(value)}
        aria-invalid={message ? true : undefined}
        aria-describedby={message || hint ? `${id}-note` : undefined}
        onFocus={(event) => event.currentTarget.select()}
        onChange={(event) => setTyped(event.currentTarget.value)}
        onBlur={() => commit()}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit(true);
          else if (event.key === "Escape") {
            setTyped(null);
            setError(null);
          } else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
            event.preventDefault();
            setTyped(null);
            set(
              path,
              value + (event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? step[1] : step[0]),
            );
          }
        }}
      />
      {(message || hint) && (
        <p
          id={`${id}-note`}
          role={message ? "alert" : undefined}
          className={`text-sm mt-1 ${message ? "text-error font-semibold" : ""}`}
        >
          {message ?? hint}
        </p>
      )}
    </div>
  );
}
