import { CheckCheck } from "lucide-react";
import { useScreen } from "./context";

/** What of the open step is only assumed, and one press that confirms it, but for what decides
between a hit and a miss: that is confirmed by itself. */
export function AssumedBar() {
  const { solution, step, confirm } = useScreen();
  const { paths = [], alone = [] } = solution?.assumed ?? {};
  const mine = (path: string) => step.fields.some((field) => path.startsWith(field));
  const own = (path: string) => mine(path) && !alone.includes(path);
  const decisive = alone.some(mine);
  if (!paths.some(mine)) return null;
  return (
    <div className="flex items-center gap-2 border-2 border-dashed border-warning rounded-box p-2">
      <p className="flex-1 text-sm leading-snug">
        What is dashed here is assumed. Type what you measured, or confirm it.
        {decisive &&
          " Joist and stack positions decide what is in the way: confirm each in its own field, with Enter."}
      </p>
      {paths.some(own) && (
        <button type="button" className="btn h-11 px-3" onClick={() => confirm(own)}>
          <CheckCheck size={18} aria-hidden />{" "}
          {decisive ? "Confirm all else of this step" : "Confirm all of this step"}
        </button>
      )}
    </div>
  );
}
