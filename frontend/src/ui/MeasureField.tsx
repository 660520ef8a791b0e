import { useId, useRef, useState } from "react";
import { api, type Outlined, type Problem, type Typed } from "../api/client";
import { type Into, type OfPlace, putAt, waitingAt } from "../job/asks";
import { useScreen } from "../job/context";
import { valueAt } from "../job/pointer";
import { useShown } from "../job/shown";
import { nudged } from "./nudged";

interface Props {
  label: string;
  kind?: Typed;
  /** JSON pointer of the plan's value; else `of` says which measure of a place it is, `stretches`
   * which size of an outline, or `onCommit` takes what is none of the plan's, with `text` and
   * `value` as they stand. */
  path?: string;
  of?: OfPlace;
  stretches?: { which: Outlined; axis: 0 | 1 };
  text?: string;
  value?: number;
  onCommit?: (value: number) => void;
  /** Pointers of all values that the field stands for, where it is not one. */
  covers?: string[];
  hint?: string;
  compact?: boolean;
}

/** A length, fall or flow that is typed as people write it, or nudged with the arrow keys. */
export function MeasureField({
  label,
  kind = "length",
  path,
  of,
  stretches,
  hint,
  compact,
  covers = path === undefined ? [] : [path],
  ...own
}: Props) {
  const screen = useScreen();
  const walks = useShown(({ walk }) => walk !== null);
  const { plan, solution, refused } = screen;
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  // What was taken last, in the server's words: it stands even while the plan is refused.
  const [taken, setTaken] = useState<{ value: number; text: string } | null>(null);
  const reading = useRef(0);

  const value = own.value ?? (path ? Number(valueAt(plan, path)) : 0);
  const into: Into | null = path === undefined ? (of ?? stretches ?? null) : { path };
  const waits = waitingAt(screen.waits, into);
  const waiting = waits?.ask.what === "measure" ? waits.ask.text : null;
  // In a field it is text to be edited: there nothing is kept from parting.
  const solved = (own.text ?? (path && solution?.plan_texts[path]) ?? "").replaceAll("\u00a0", " ");
  const shown = waiting ?? (refused && taken?.value === value ? taken.text : solved);
  const stands = path ?? of?.place;
  const refusal = stands && refused?.errors.find((problem) => problem.path === stands)?.message;

  const assumed = covers.some((of) => plan.assumed.includes(of));

  async function read(entered = false) {
    if (typed === null || typed === shown) {
      // Typed again as it stands, it is measured all the same. One digit over the same digit is no
      // change to the browser: Enter tells it.
      if (assumed && (typed !== null || entered)) screen.confirm((of) => covers.includes(of));
      setTyped(null);
      setError(null);
      return;
    }
    reading.current += 1;
    const turn = reading.current;
    try {
      const { display } = plan;
      const answer = await (into
        ? screen.ask({ what: "measure", label, text: typed, kind, display, into, covers })
        : screen.during(api.read(typed, kind, display)));
      if (turn !== reading.current) return;
      setTaken(answer);
      setError(null);
      setTyped(null);
      if (answer) own.onCommit?.(answer.value);
    } catch (problem) {
      if (turn === reading.current) setError((problem as Problem).message);
    }
  }

  function nudge(direction: number, big: boolean) {
    const next = nudged(
      kind,
      value,
      direction * (big ? 10 : 1),
      kind === "length" ? solution?.nudge : 1,
    );
    if (waits) screen.letGo(waits.key);
    if (path !== undefined) screen.set(path, next);
    else if (of) screen.change((old) => putAt(old, of, next));
    else if (stretches) void screen.edit({ act: "stretch", ...stretches, size: next });
    else own.onCommit?.(next);
    setTyped(null);
    setError(null);
  }

  const message = error ?? (waits?.unread || refusal);
  const note = message ?? (waits ? "Waits for the connection" : hint);
  // Inches carry their marks in the text, and so does what is told in a unit of its own.
  const marked = /[a-z]/.test(own.text ?? "");
  const unit =
    kind === "length" && plan.display.length.endsWith("m") && !marked ? plan.display.length : "";
  return (
    <div className={compact ? "min-w-0" : "min-w-0 flex-1 basis-24"}>
      <label htmlFor={id} className={compact ? "sr-only" : "block text-sm leading-tight mb-1"}>
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          className={`input w-full h-11 text-lg pl-2.5 ${unit ? "pr-9" : "pr-2.5"} ${waits ? "italic border-2 border-info" : assumed ? "border-dashed border-2 border-warning italic" : "font-semibold"} ${message ? "input-error" : ""}`}
          data-assumed={assumed || undefined}
          data-field={path ?? (covers.join(" ") || undefined)}
          title={assumed ? "Assumed: type what you measured, or confirm it" : undefined}
          value={typed ?? shown}
          autoComplete="off"
          enterKeyHint={walks ? "next" : undefined}
          data-typing={typed === null ? undefined : "yes"}
          spellCheck={false}
          aria-invalid={message ? true : undefined}
          aria-describedby={note ? `${id}-note` : undefined}
          onFocus={(event) => event.currentTarget.select()}
          onChange={(event) => setTyped(event.currentTarget.value)}
          onBlur={() => void read()}
          onKeyDown={(event) => {
            if (event.key === "Enter") void read(true);
            else if (event.key === "Escape") {
              setTyped(null);
              setError(null);
            } else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
              event.preventDefault();
              nudge(event.key === "ArrowUp" ? 1 : -1, event.shiftKey);
            }
          }}
        />
        {unit && (
          <span
            aria-hidden
            className="absolute right-2.5 inset-y-0 flex items-center text-sm pointer-events-none"
          >
            {unit}
          </span>
        )}
      </div>
      {note && (
        <p
          id={`${id}-note`}
          className={`text-sm mt-1 leading-snug ${message ? "text-error font-semibold" : ""}`}
          role={message ? "alert" : undefined}
          ref={message ? (note) => note?.scrollIntoView({ block: "nearest" }) : undefined}
        >
          {note}
        </p>
      )}
    </div>
  );
}
