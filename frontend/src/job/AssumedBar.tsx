import { CheckCheck, Ruler } from "lucide-react";
import { useScreen } from "./context";
import { useShow, useShown } from "./shown";
import { leftToMeasure } from "./Walk";

/** What of the open step is only assumed: the way through all of it, and one press that confirms it,
 * but for what decides between a hit and a miss: that is confirmed by itself. */
export function AssumedBar() {
  const { plan, solution, step, confirm, reach } = useScreen();
  const walks = useShown(({ walk }) => walk !== null);
  const show = useShow();
  const { paths = [], alone = [] } = solution?.assumed ?? {};
  const mine = (path: string) => step.fields.some((field) => path.startsWith(field));
  const own = (path: string) => mine(path) && !alone.includes(path);
  const decisive = alone.some(mine);
  if (!paths.some(mine)) return null;
  const left = leftToMeasure(plan, solution).flatMap(({ fields }) => fields);
  const begin = () => {
    const first = left.find(mine) ?? left[0];
    if (!first) return;
    show({ walk: first });
    reach(first);
  };
  return (
    <div className="border-2 border-dashed border-warning rounded-box p-2 space-y-2">
      <p className="text-sm leading-snug">
        What is dashed is assumed. Type what you measured, or confirm it.
        {decisive &&
          " Where joists and stack are decides what is in the way: confirm each by itself."}
      </p>
      <div className="flex flex-wrap gap-2">
        {!walks && (
          <button type="button" className="btn h-11 px-3 btn-info" onClick={begin}>
            <Ruler size={18} aria-hidden /> Measure one by one
          </button>
        )}
        {paths.some(own) && (
          <button type="button" className="btn h-11 px-3" onClick={() => confirm(own)}>
            <CheckCheck size={18} aria-hidden />{" "}
            {decisive ? "Confirm all else here" : "Confirm all here"}
          </button>
        )}
      </div>
    </div>
  );
}
