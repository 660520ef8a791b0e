import { Columns2, Maximize2 } from "lucide-react";
import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef, useState } from "react";

type Shown = "both" | "chart" | "section";

const LEAST = 0.2;
const STEP = 0.05;
const bounded = (share: number) => Math.min(1 - LEAST, Math.max(LEAST, share));

interface Props {
  chart: ReactNode;
  section: ReactNode;
  /** What stands in the section's place, where it is something else: it takes more of the column. */
  lower?: string;
}

/** Chart over section; the edge between them can be moved, and either can take the whole column.
 * A phone has room for one of them. */
export function Panes({ chart, section, lower }: Props) {
  const column = useRef<HTMLDivElement>(null);
  const [share, setShare] = useState(lower ? 0.42 : 0.61);
  const [shown, setShown] = useState<Shown>("both");

  function drag(event: PointerEvent) {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = column.current?.getBoundingClientRect();
    if (box) setShare(bounded((event.clientY - box.top) / box.height));
  }

  function nudge(event: KeyboardEvent) {
    const way = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    setShare((old) => bounded(old + way * STEP));
  }

  const phone = shown === "section" ? "section" : "chart";
  const visible = (pane: "chart" | "section") =>
    `${phone === pane ? "" : "max-lg:hidden"} ${shown === "both" || shown === pane ? "" : "lg:hidden"}`;
  const button = "btn h-11 lg:h-9 min-w-11 px-2.5 text-sm font-medium";
  return (
    <div
      ref={column}
      className="relative h-55 lying:h-[calc(100dvh-2.75rem)] lg:h-full min-h-0 flex flex-col"
    >
      <div
        className={`relative min-h-0 flex-1 ${visible("chart")}`}
        style={{ flexGrow: shown === "both" ? 100 * share : 1 }}
        data-pane="chart"
      >
        {chart}
      </div>
      {shown === "both" && (
        <div
          role="separator"
          tabIndex={0}
          aria-label={`Edge between chart and ${lower?.toLowerCase() ?? "section"}. Arrow keys move it.`}
          aria-orientation="horizontal"
          aria-valuenow={Math.round(share * 100)}
          aria-valuemin={LEAST * 100}
          aria-valuemax={100 - LEAST * 100}
          className="max-lg:hidden h-2.5 shrink-0 cursor-row-resize border-y border-base-300 bg-base-200 hover:bg-info/30 touch-none"
          onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
          onPointerMove={drag}
          onKeyDown={nudge}
        />
      )}
      <div
        className={`relative min-h-0 flex-1 ${visible("section")}`}
        style={{ flexGrow: shown === "both" ? 100 * (1 - share) : 1 }}
        data-pane="section"
      >
        {section}
      </div>
      <div className="absolute right-2 top-2 z-10 flex gap-1">
        {(["chart", "section"] as const).map((pane) => {
          const alone = shown === pane;
          return (
            <button
              key={pane}
              type="button"
              aria-pressed={alone}
              className={`${button} ${alone || (phone === pane && shown !== "section") ? "max-lg:btn-info" : ""} lg:bg-base-100 lg:border-base-300`}
              onClick={() => setShown(alone ? "both" : pane)}
            >
              {alone ? (
                <Columns2 size={16} className="rotate-90 max-lg:hidden" aria-hidden />
              ) : (
                <Maximize2 size={16} className="max-lg:hidden" aria-hidden />
              )}
              {pane === "chart" ? "Chart" : (lower ?? "Section")}
            </button>
          );
        })}
      </div>
    </div>
  );
}
