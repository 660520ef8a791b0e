import { Lock } from "lucide-react";
import { useState } from "react";
import type { DaysResult, TaskSlot, WorkDay } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { useLights, useLit } from "../../job/shown";
import { Labelled } from "../../ui/Labelled";
import { WhyButton } from "../../ui/WhyButton";
import { Working } from "./Working";

const DAY = 24 * 60;

/** Day by day: a bar for hands, a lighter one for waits, hold points as gates. */
export function DayList({ result }: { result: DaysResult }) {
  const days = result.days.filter((day) => day.tasks.length > 0);
  return (
    <ol className="space-y-4" aria-label="Days">
      {days.map((day) => (
        <li key={day.number} data-day={day.number}>
          <h2 className="font-semibold">{day.text}</h2>
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {result.tasks
              .filter((slot) => day.tasks.includes(slot.task))
              .map((slot) => (
                <Task key={slot.task} slot={slot} day={day} result={result} />
              ))}
          </ul>
        </li>
      ))}
    </ol>
  );
}

function Task({ slot, day, result }: { slot: TaskSlot; day: WorkDay; result: DaysResult }) {
  const begins = slot.start >= day.number * DAY;
  const ends = slot.end <= (day.number + 1) * DAY;
  const lights = useLights();
  const lit = useLit(slot.task);
  return (
    <li
      className={`py-2 ${lit ? "bg-info/15" : ""}`}
      data-task={slot.task}
      data-state={slot.state}
      {...lights(slot.task)}
    >
      <div className="flex gap-2 items-start">
        <div className="flex-1 min-w-0">
          <span className="font-semibold leading-snug flex items-center gap-1.5">
            {slot.hold && <Lock size={16} aria-hidden className="shrink-0" />}
            {slot.name}
          </span>
          <span className="block text-sm">
            {begins ? slot.begin_text : "goes on"} to {ends ? slot.end_text : "the next day"} ·{" "}
            {slot.who}
            {slot.hold && " · hold point: written down before anything goes on"}
          </span>
          {slot.agreed_text && begins && (
            <span className="block text-sm font-semibold">{slot.agreed_text}</span>
          )}
          {slot.first_text && slot.first_text !== "as first agreed" && begins && (
            <span className="block text-sm">{slot.first_text}</span>
          )}
          {slot.wait_text && ends && (
            <span className="block text-sm">Then wait {slot.wait_text}.</span>
          )}
          {slot.meanwhile.length > 0 && ends && (
            <span className="block text-sm">Meanwhile: {slot.meanwhile.join(", ")}.</span>
          )}
          {slot.spare_text && ends && (
            <span className="block text-sm">May end up to {slot.spare_text} later.</span>
          )}
        </div>
        <WhyButton
          of={slot.name}
          text={`${slot.day_text}, ${slot.begin_text} to ${slot.end_text}`}
          working={slot.why}
        />
      </div>
      <Bar slot={slot} day={day} result={result} />
      {begins && (
        <div className="flex flex-wrap gap-1 items-end mt-1">
          <Working slot={slot} />
          {slot.state === "to come" && <Agree slot={slot} />}
        </div>
      )}
    </li>
  );
}

/** The day before which a task does not begin: a trade's appointment, or a choice. */
function Agree({ slot }: { slot: TaskSlot }) {
  const { plan, change } = useScreen();
  const [open, setOpen] = useState(false);
  const own = plan.days.agreed.find((one) => one.task === slot.task);
  function put(day: string) {
    setOpen(false);
    change((old) => {
      const others = old.days.agreed.filter((one) => one.task !== slot.task);
      const agreed = day ? [...others, { task: slot.task, day }] : others;
      return { ...old, days: { ...old.days, agreed } };
    });
  }
  if (!open)
    return (
      <button
        type="button"
        className="btn btn-ghost h-11 px-2 font-medium"
        aria-label={`${slot.name}: not before a day`}
        onClick={() => setOpen(true)}
      >
        {own ? `Not before ${own.day}` : "Not before…"}
      </button>
    );
  return (
    <div className="flex gap-2 items-end mt-1">
      <Labelled label="Not before">
        {(id) => (
          <input
            id={id}
            type="date"
            className="input w-full h-11 text-lg px-2.5"
            defaultValue={own?.day ?? ""}
            onChange={(event) => event.currentTarget.value && put(event.currentTarget.value)}
          />
        )}
      </Labelled>
      {own && (
        <button type="button" className="btn h-11" onClick={() => put("")}>
          Any day
        </button>
      )}
      <button type="button" className="btn btn-ghost h-11" onClick={() => setOpen(false)}>
        Cancel
      </button>
    </div>
  );
}

/** The task on its day, from midnight to midnight: the hours that are worked are paler ground. */
function Bar({ slot, day, result }: { slot: TaskSlot; day: WorkDay; result: DaysResult }) {
  const from = day.number * DAY;
  const share = (moment: number) => Math.min(Math.max((moment - from) / DAY, 0), 1) * 100;
  const worked = { x: (result.begin / DAY) * 100, w: ((result.end - result.begin) / DAY) * 100 };
  // Nobody works at night: what goes on the next day stops with this one's hours.
  const hours = (moment: number) =>
    share(Math.min(Math.max(moment, from + result.begin), from + result.end));
  const hands = [hours(slot.start), hours(slot.end)] as const;
  const wait = [share(slot.end), share(slot.free)] as const;
  return (
    <svg
      viewBox="0 0 100 6"
      preserveAspectRatio="none"
      className="w-full h-3 mt-1 block rounded"
      aria-hidden
    >
      <rect width="100" height="6" fill="var(--color-base-300)" opacity="0.5" />
      <rect x={worked.x} width={worked.w} height="6" fill="var(--color-base-100)" />
      <rect
        x={wait[0]}
        width={wait[1] - wait[0]}
        height="6"
        fill="var(--color-info)"
        opacity="0.3"
      />
      <rect
        x={hands[0]}
        width={Math.max(hands[1] - hands[0], 0.6)}
        height="6"
        fill={slot.critical ? "var(--ink)" : "var(--color-info)"}
      />
    </svg>
  );
}
