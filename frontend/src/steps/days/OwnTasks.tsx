import { Trash2 } from "lucide-react";
import { useState } from "react";
import type { Plan } from "../../api/client";
import type { DaysResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { Labelled } from "../../ui/Labelled";

type Own = Plan["days"]["own"][number];

const NEW = { name: "", hours: "1", wait: "0", after: "", before: "", hold: false };

/** A number as it is typed, or why it is none. */
function numberOf(text: string, least: number, most: number): number | string {
  const value = Number(text.replace(",", ".").trim() || "0");
  const fits = Number.isFinite(value) && value >= least && value <= most;
  return fits ? value : `“${text}” is no number of hours from ${least} to ${most}.`;
}

/** Tasks of one's own: what they come after, and what comes after them. */
export function OwnTasks({ result }: { result: DaysResult }) {
  const { plan, change } = useScreen();
  const [typed, setTyped] = useState(NEW);
  const [error, setError] = useState({ name: "", hours: "", wait: "" });
  const own = plan.days.own;
  const names = new Map(result.tasks.map((slot) => [slot.task, slot.name]));
  const put = (next: Own[]) => change((old) => ({ ...old, days: { ...old.days, own: next } }));
  function add() {
    const [hours, wait] = [numberOf(typed.hours, 0.25, 400), numberOf(typed.wait, 0, 2000)];
    const wrong = {
      name: typed.name.trim() ? "" : "What is done? Give it a name.",
      hours: typeof hours === "string" ? hours : "",
      wait: typeof wait === "string" ? wait : "",
    };
    setError(wrong);
    if (typeof hours === "string" || typeof wait === "string" || wrong.name) return;
    const number = 1 + Math.max(0, ...own.map((one) => Number(one.id.slice(4)) || 0));
    const { name, hold, after, before } = typed;
    put([
      ...own,
      {
        id: `own_${number}`,
        name: name.trim(),
        who: "crew",
        hours,
        wait,
        hold,
        after: after ? [after] : [],
        before: before ? [before] : [],
      },
    ]);
    setTyped(NEW);
  }
  const field = (label: string, key: "name" | "hours" | "wait") => (
    <Labelled label={label} error={error[key]}>
      {(id, note) => (
        <input
          id={id}
          className={`input w-full h-11 text-lg px-2.5 ${error[key] ? "input-error" : ""}`}
          inputMode={key === "name" ? undefined : "decimal"}
          maxLength={60}
          value={typed[key]}
          aria-invalid={error[key] ? true : undefined}
          aria-describedby={note}
          onChange={(event) => setTyped({ ...typed, [key]: event.currentTarget.value })}
          onKeyDown={(event) => event.key === "Enter" && add()}
        />
      )}
    </Labelled>
  );
  const choice = (label: string, key: "after" | "before") => (
    <Labelled label={label}>
      {(id) => (
        <select
          id={id}
          className="select w-full h-11 text-base"
          value={typed[key]}
          onChange={(event) => setTyped({ ...typed, [key]: event.currentTarget.value })}
        >
          <option value="">no task</option>
          {[...names].map(([task, name]) => (
            <option key={task} value={task}>
              {name}
            </option>
          ))}
        </select>
      )}
    </Labelled>
  );
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Tasks of your own</legend>
      {own.length > 0 && (
        <ul className="divide-y divide-base-300 border-y border-base-300">
          {own.map((one) => (
            <li key={one.id} className="flex items-center gap-2 py-1" data-own={one.id}>
              <span className="flex-1 leading-snug">
                <span className="block font-semibold">{one.name}</span>
                <span className="block text-sm">
                  {one.hours} h
                  {one.after[0] && `, after ${names.get(one.after[0]) ?? one.after[0]}`}
                  {one.before[0] && `, before ${names.get(one.before[0]) ?? one.before[0]}`}
                </span>
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-square size-11"
                aria-label={`Remove ${one.name}`}
                onClick={() => put(own.filter((other) => other.id !== one.id))}
              >
                <Trash2 size={18} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      {field("What is done", "name")}
      <div className="fields">
        {field("Hands, h", "hours")}
        {field("Then wait, h", "wait")}
      </div>
      {choice("After", "after")}
      {choice("Before", "before")}
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          aria-pressed={typed.hold}
          className={`btn h-11 font-medium ${typed.hold ? "btn-info" : ""}`}
          onClick={() => setTyped({ ...typed, hold: !typed.hold })}
        >
          Hold point
        </button>
        <button type="button" className="btn h-11" onClick={add}>
          Add the task
        </button>
      </div>
    </fieldset>
  );
}
