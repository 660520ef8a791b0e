import { useState } from "react";
import type { Plan } from "../../api/client";
import type { TaskSlot } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { Labelled } from "../../ui/Labelled";
import { rightNow } from "../../ui/moment";

type Worked = Plan["days"]["worked"][number];

/** The plan with what was really done of a task; null takes it out. Without a first day the day on
 * which the first task begins is it. */
function withWorked(plan: Plan, task: string, worked: Worked | null): Plan {
  const others = plan.days.worked.filter((one) => one.task !== task);
  const start = plan.days.start ?? worked?.began.slice(0, 10) ?? null;
  return {
    ...plan,
    days: { ...plan.days, start, worked: worked ? [...others, worked] : others },
  };
}

const said = (moment: string) =>
  new Date(moment).toLocaleString(undefined, {
    weekday: "short",
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });

/** What was really done of a task: begun, ended, and a hold point signed. */
export function Working({ slot }: { slot: TaskSlot }) {
  const { plan, change } = useScreen();
  const [open, setOpen] = useState(false);
  const own = plan.days.worked.find((one) => one.task === slot.task);
  const put = (worked: Worked | null) => change((old) => withWorked(old, slot.task, worked));
  const begin = () => put({ task: slot.task, began: rightNow(), ended: null, signed: "" });
  if (!own) {
    return (
      <button
        type="button"
        className="btn h-11 px-3 font-medium"
        aria-label={`${slot.name}: begin`}
        onClick={begin}
      >
        Begin
      </button>
    );
  }
  const done = own.ended !== null && (!slot.hold || own.signed !== "");
  const end = () => put({ ...own, ended: rightNow() });
  return (
    <>
      {!done && slot.hold && <Sign slot={slot} worked={own} onSign={put} />}
      {!done && !slot.hold && (
        <button
          type="button"
          className="btn btn-info h-11 px-3 font-medium"
          aria-label={`${slot.name}: done`}
          onClick={end}
        >
          Done
        </button>
      )}
      <button
        type="button"
        className="btn btn-ghost h-11 px-2 font-medium"
        aria-expanded={open}
        aria-label={`${slot.name}: times`}
        onClick={() => setOpen(!open)}
      >
        {done
          ? `Done ${said(own.ended ?? own.began)}${own.signed && `, ${own.signed}`}`
          : `Begun ${said(own.began)}`}
      </button>
      {open && <Times slot={slot} worked={own} onPut={put} />}
    </>
  );
}

/** A hold point is done once somebody has put their initials to it. */
function Sign({
  slot,
  worked,
  onSign,
}: {
  slot: TaskSlot;
  worked: Worked;
  onSign: (worked: Worked) => void;
}) {
  const [typed, setTyped] = useState("");
  const [error, setError] = useState("");
  function sign() {
    const signed = typed.trim();
    if (!signed) setError("Type your initials.");
    else onSign({ ...worked, ended: rightNow(), signed });
  }
  return (
    <div className="flex gap-1 items-end">
      <Labelled label="Initials" error={error}>
        {(id, note) => (
          <input
            id={id}
            className="input w-24 h-11 text-lg px-2.5"
            maxLength={12}
            value={typed}
            aria-invalid={error ? true : undefined}
            aria-describedby={note}
            onChange={(event) => {
              setTyped(event.currentTarget.value);
              setError("");
            }}
            onKeyDown={(event) => event.key === "Enter" && sign()}
          />
        )}
      </Labelled>
      <button
        type="button"
        className="btn btn-info h-11 px-3 font-medium"
        aria-label={`${slot.name}: sign`}
        onClick={sign}
      >
        Sign
      </button>
    </div>
  );
}

/** When it was really begun and ended, to be corrected; or not at all. */
function Times({
  slot,
  worked,
  onPut,
}: {
  slot: TaskSlot;
  worked: Worked;
  onPut: (worked: Worked | null) => void;
}) {
  const fields = [
    ["Begun", worked.began, (began: string) => ({ ...worked, began })],
    ["Ended", worked.ended, (ended: string) => ({ ...worked, ended })],
  ] as const;
  return (
    <div className="basis-full space-y-1">
      {fields.map(([label, value, next]) => (
        <Labelled key={label} label={label}>
          {(id) => (
            <input
              id={id}
              type="datetime-local"
              className="input w-full h-11 text-lg px-2.5"
              value={value ?? ""}
              onChange={(event) =>
                event.currentTarget.value && onPut(next(event.currentTarget.value.slice(0, 16)))
              }
            />
          )}
        </Labelled>
      ))}
      <button
        type="button"
        className="btn h-11 px-3 font-medium"
        aria-label={`${slot.name}: not begun`}
        onClick={() => onPut(null)}
      >
        Not begun
      </button>
    </div>
  );
}
