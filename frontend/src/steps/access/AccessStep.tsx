import { Check } from "lucide-react";
import type { Plan } from "../../api/generated/plan";
import { lights, useScreen } from "../../job/context";
import { FigureRows } from "../../ui/FigureRows";

type User = Plan["users"][number];

const USERS: { user: User; label: string }[] = [
  { user: "walks", label: "Walks" },
  { user: "frame", label: "With a frame" },
  { user: "chair", label: "In a chair" },
];

/** Who will use the room, whether they get in, and where a chair can turn on the built floor. */
export function AccessStep() {
  const { plan, set, solution } = useScreen();
  const access = solution?.access;
  return (
    <div className="space-y-5">
      <fieldset>
        <legend className="font-semibold mb-1">Who will use the room</legend>
        <div className="flex flex-wrap gap-1.5">
          {USERS.map(({ user, label }) => {
            const on = plan.users.includes(user);
            return (
              <button
                key={user}
                type="button"
                aria-pressed={on}
                className={`btn h-11 text-base font-medium px-3 ${on ? "btn-info" : ""}`}
                onClick={() =>
                  set("/users", on ? plan.users.filter((u) => u !== user) : [...plan.users, user])
                }
              >
                {on && <Check size={18} aria-hidden />}
                {label}
              </button>
            );
          })}
        </div>
      </fieldset>
      {solution && !solution.complete && (
        <p>Where a chair can turn follows when the falls can be worked out.</p>
      )}
      {!plan.users.length && (
        <p>
          Say who will use the room: doors and the space to turn are then held against the rules.
        </p>
      )}
      {access && (
        <>
          <Circles />
          <p className="text-sm">{access.asked}</p>
          <FigureRows figures={access.figures} />
          <p className="text-sm">
            Clear floors beside fixtures, reach and the way from door to shower are not looked at
            yet. {solution?.deference}
          </p>
        </>
      )}
    </div>
  );
}

const BOX = {
  true: "border-success bg-success/10",
  false: "border-error bg-error/10",
  null: "border-base-300 bg-base-200",
};

/** The circles as they are drawn: what fits, and whether that is enough. */
function Circles() {
  const { solution, shown, show } = useScreen();
  return (
    <ul className="space-y-1.5" aria-label="Space to turn">
      {solution?.access?.spaces.map((space, i) => (
        <li
          key={space.name}
          className={`border-l-4 rounded-r-box p-2 flex gap-2 ${i ? BOX.null : BOX[`${space.enough}`]} ${shown.lit === `space ${i}` ? "outline-2 outline-info" : ""}`}
          {...lights(show, `space ${i}`)}
        >
          <span className="flex-1">{space.name}</span>
          <strong>{space.text}</strong>
        </li>
      ))}
    </ul>
  );
}
