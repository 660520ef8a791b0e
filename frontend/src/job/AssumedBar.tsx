import { CheckCheck } from "lucide-react";
import { useScreen } from "./context";

/** What of the open step is only assumed, and one press that confirms all of it. */
export function AssumedBar() {
  const { solution, step, confirm } = useScreen();
  const own = (path: string) => step.fields.some((field) => path.startsWith(field));
  const count = solution?.assumed.paths.filter(own).length ?? 0;
  if (!count) return null;
  return (
    <div className="flex items-center gap-2 border-2 border-dashed border-warning rounded-box p-2">
      <p className="flex-1 text-sm leading-snug">
        What is dashed here is assumed. Type what you measured, or confirm it.
      </p>
      <button type="button" className="btn h-11 px-3" onClick={() => confirm(own)}>
        <CheckCheck size={18} aria-hidden /> Confirm all of this step
      </button>
    </div>
  );
}
