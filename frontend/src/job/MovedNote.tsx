import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api } from "../api/client";
import type { XY } from "../drawing/view";
import { useScreen } from "./context";

/** What a drag moved, or what a finger touched that is moved by holding it. */
export type Moved = { label: string; from: XY; to: XY } | { label: string; touched: true };

/** Says on the chart what was moved and how far, until the plan changes again. */
export function MovedNote({ moved }: { moved: Moved | null }) {
  const { plan, undo } = useScreen();
  const [at, setAt] = useState(plan);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the plan that was moved is the one that stands when it is told
  useEffect(() => setAt(plan), [moved]);
  const by = moved && "to" in moved ? Math.hypot(...between(moved.from, moved.to)) : null;
  const far = useQuery({
    queryKey: ["far", by, plan.display],
    queryFn: () => api.lengths([by ?? 0], plan.display),
    enabled: by !== null,
    retry: false,
  });
  const unit = plan.display.length.endsWith("m") ? ` ${plan.display.length}` : "";
  if (!moved || at !== plan) return null;
  return (
    <div
      className="absolute z-10 flex items-center gap-2 pl-3 pr-1 min-h-11 rounded-box bg-base-100 border border-base-300 text-sm max-lg:inset-x-2 max-lg:bottom-1 lg:left-14 lg:top-2 lg:max-w-[calc(100%-15rem)]"
      role="status"
      data-note="moved"
    >
      {"touched" in moved ? (
        <span className="py-2">{moved.label}: hold it to move it</span>
      ) : (
        <>
          <span className="flex-1">
            {moved.label} moved{far.data && ` by ${far.data[0]}${unit}`}
          </span>
          <button
            type="button"
            className="btn h-11 border-0 bg-transparent"
            onClick={() => void undo()}
          >
            Undo
          </button>
        </>
      )}
    </div>
  );
}

const between = (a: XY, b: XY): XY => [b[0] - a[0], b[1] - a[1]];
