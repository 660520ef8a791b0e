import { Download } from "lucide-react";
import type { DaysResult } from "../../api/generated/solution";
import { unbroken } from "../../api/unbroken";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { Labelled } from "../../ui/Labelled";
import { MembraneSchool } from "../../ui/MembraneSchool";
import { NumberField } from "../../ui/NumberField";
import { DayList } from "./DayList";
import { OwnTasks } from "./OwnTasks";

const WEEK = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** Which task on which day, what is waited for, and by which calendar. */
export function DaysStep() {
  const { plan, solution, jobId, set } = useScreen();
  const result = solution?.days;
  if (solution && !solution.complete) return <p>The days are worked out once the falls can be.</p>;
  if (!result) return <p aria-busy>Looking for the best order…</p>;
  const { days } = plan;
  return (
    <div className="space-y-5">
      <DayField label="First day" value={days.start} onChange={(day) => set("/days/start", day)} />
      {result.none_because ? (
        <p className="border-l-4 border-error bg-error/10 rounded-r-box p-3" role="alert">
          {result.none_because}
        </p>
      ) : (
        <p className="border-l-4 border-info bg-info/10 rounded-r-box p-3 leading-snug">
          <strong className="block text-lg" data-finish={result.finish}>
            Done {unbroken(result.finish_text)}
          </strong>
          <span className="block" data-part="visits">
            {result.visits_text}; quick to slow: {unbroken(result.range_text)}
          </span>
          {result.said.map((said) => (
            <span key={said} className="block text-sm">
              {said}
            </span>
          ))}
        </p>
      )}
      {result.warned.map((said) => (
        <p key={said} className="border-l-4 border-warning bg-warning/10 rounded-r-box px-3 py-2">
          {said}
        </p>
      ))}
      <FirstAgreed result={result} />
      <div className="flex flex-wrap gap-2">
        <a className="btn h-11" href={`/api/jobs/${jobId}/days.ics`}>
          <Download size={18} aria-hidden /> Calendar
        </a>
        <a className="btn h-11" href={`/api/jobs/${jobId}/days.csv`}>
          <Download size={18} aria-hidden /> CSV
        </a>
      </div>
      <DayList result={result} />
      <fieldset className="space-y-2">
        <legend className="font-semibold mb-1">Calendar</legend>
        <div className="fields">
          <NumberField label="Begins at, h" path="/days/begin" step={[0.5, 1]} />
          <NumberField label="Ends at, h" path="/days/end" step={[0.5, 1]} />
          <NumberField
            label="Room, °C"
            path="/days/temperature"
            step={[1, 5]}
            hint={result.warmth_text}
          />
        </div>
        <div className="flex flex-wrap gap-1" role="group" aria-label="Days that are worked">
          {WEEK.map((name, day) => {
            const worked = days.weekdays.includes(day);
            return (
              <button
                key={name}
                type="button"
                aria-pressed={worked}
                className={`btn h-11 w-12 px-0 font-medium ${worked ? "btn-info" : ""}`}
                onClick={() =>
                  set(
                    "/days/weekdays",
                    worked
                      ? days.weekdays.filter((one) => one !== day)
                      : [...days.weekdays, day].sort(),
                  )
                }
              >
                {name}
              </button>
            );
          })}
        </div>
        <DayField
          label="Add a day off"
          value={null}
          onChange={(day) =>
            day && !days.off.includes(day) && set("/days/off", [...days.off, day].sort())
          }
        />
        {days.off.length > 0 && (
          <ul className="flex flex-wrap gap-1">
            {days.off.map((day) => (
              <li key={day}>
                <button
                  type="button"
                  className="btn h-11 px-3 font-medium"
                  aria-label={`Work on ${day} after all`}
                  onClick={() =>
                    set(
                      "/days/off",
                      days.off.filter((one) => one !== day),
                    )
                  }
                >
                  {day} ×
                </button>
              </li>
            ))}
          </ul>
        )}
      </fieldset>
      <Choice
        label="What counts"
        value={days.goal}
        options={[
          { value: "done first", label: "Done first" },
          { value: "fewest days", label: "Fewest days on site" },
        ]}
        onChange={(goal) => set("/days/goal", goal)}
      />
      <MembraneSchool />
      <Choice
        label="Floor and walls"
        value={days.walls}
        options={[
          { value: "floor first", label: "Floor first" },
          { value: "walls first", label: "Walls first" },
        ]}
        onChange={(school) => set("/days/walls", school)}
      />
      {plan.tiling.wall && (
        <Choice
          label="Tile first"
          value={days.tile}
          options={[
            { value: "floor first", label: "Floor, then walls" },
            { value: "walls first", label: "Walls, then floor" },
          ]}
          onChange={(school) => set("/days/tile", school)}
        />
      )}
      {plan.shower.former.kind !== "bed" && (
        <Choice
          label="What keeps the tray down"
          value={days.tray}
          options={[
            { value: "weights", label: "Weights" },
            { value: "walls at once", label: "Walls at once" },
          ]}
          onChange={(school) => set("/days/tray", school)}
        />
      )}
      <Choice
        label="Plumbing"
        value={days.plumbing}
        options={[
          { value: "first", label: "First" },
          { value: "last", label: "Last, from below" },
        ]}
        onChange={(school) => set("/days/plumbing", school)}
      />
      <OwnTasks result={result} />
    </div>
  );
}

/** The days as they were first agreed: kept once, and told against what becomes of them. */
function FirstAgreed({ result }: { result: DaysResult }) {
  const { plan, set } = useScreen();
  const { start, first_agreed: first } = plan.days;
  if (!start || result.tasks.length === 0) return null;
  const agree = () =>
    set(
      "/days/first_agreed",
      result.tasks.map(({ task, begins, ends }) => ({ task, begins, ends })),
    );
  if (first.length === 0)
    return (
      <button type="button" className="btn h-11" onClick={agree}>
        These days are agreed
      </button>
    );
  return (
    <div className="flex flex-wrap gap-2 items-center" data-first={result.first_text}>
      <span className="flex-1 font-semibold">Ends {result.first_text}</span>
      <button type="button" className="btn h-11" onClick={agree}>
        Agree anew
      </button>
    </div>
  );
}

function DayField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string | null;
  onChange: (day: string | null) => void;
}) {
  return (
    <Labelled label={label}>
      {(id) => (
        <input
          id={id}
          type="date"
          className="input w-full h-11 text-lg px-2.5"
          value={value ?? ""}
          onChange={(event) => onChange(event.currentTarget.value || null)}
        />
      )}
    </Labelled>
  );
}
