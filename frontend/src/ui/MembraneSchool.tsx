import { useId } from "react";
import { useScreen } from "../job/context";

/** By which school the floor is made watertight. */
export function MembraneSchool() {
  const { plan, solution, set } = useScreen();
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-sm mb-1">
        Membrane
      </label>
      <select
        id={id}
        className="select h-11 w-full text-base font-medium"
        value={plan.days.membrane}
        onChange={(event) => set("/days/membrane", event.currentTarget.value)}
      >
        {solution?.membrane_schools.map(({ name, text }) => (
          <option key={name} value={name}>
            {text}
          </option>
        ))}
      </select>
    </div>
  );
}
