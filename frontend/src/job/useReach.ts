import { useCallback, useEffect } from "react";
import { useLocation, useNavigate } from "react-router";
import { stepOf } from "../steps";

/** How long a step may take to draw its fields, ms. */
const PATIENCE = 3000;

interface Reached {
  field?: string;
}

/** Opens the step in which a value of the plan is typed, and gives its field the keyboard. */
export function useReach(jobId: string) {
  const navigate = useNavigate();
  const { state, key } = useLocation();
  const field = (state as Reached | null)?.field;
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked for again it is reached again
  useEffect(() => {
    if (!field) return;
    const end = Date.now() + PATIENCE;
    let timer: ReturnType<typeof setTimeout>;
    function look() {
      const found = document.querySelector<HTMLElement>(
        `[data-panel] [data-field~="${CSS.escape(field ?? "")}"]`,
      );
      if (found) give(found);
      else if (Date.now() < end) timer = setTimeout(look, 30);
    }
    look();
    return () => clearTimeout(timer);
  }, [field, key]);
  return useCallback(
    (path: string) => {
      const step = stepOf({ field: path });
      if (!step) return;
      const view = step.view?.(path) ?? "";
      void navigate(`/jobs/${jobId}/${step.id}${view}`, { state: { field: path } });
    },
    [navigate, jobId],
  );
}

function give(field: HTMLElement) {
  for (let at = field.parentElement; at; at = at.parentElement)
    if (at instanceof HTMLDetailsElement) at.open = true;
  field.scrollIntoView({ block: "center" });
  field.focus();
}
