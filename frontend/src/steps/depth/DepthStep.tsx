import { HardHat } from "lucide-react";
import { useSearchParams } from "react-router";
import { useScreen } from "../../job/context";
import { BuildUp } from "./BuildUp";
import { CardsPanel } from "./CardsPanel";
import { SystemPanel } from "./SystemPanel";
import { WaysPanel } from "./WaysPanel";

const VIEWS = [
  { id: "system", label: "System", Panel: SystemPanel },
  { id: "build-up", label: "Build-up", Panel: BuildUp },
  { id: "ways", label: "Options", Panel: WaysPanel },
  { id: "cards", label: "Instructions", Panel: CardsPanel },
] as const;

/** By which system it is built, how deep that goes, where the depth can come from, how it is put in. */
export function DepthStep() {
  const [query, setQuery] = useSearchParams();
  const open = VIEWS.find((view) => view.id === query.get("view")) ?? VIEWS[0];
  return (
    <div className="space-y-4">
      <div
        role="tablist"
        aria-label="Depth"
        className="tabs tabs-border -mt-1"
        onKeyDown={(event) => {
          const way = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
          const next = VIEWS[(VIEWS.indexOf(open) + way + VIEWS.length) % VIEWS.length];
          if (way === 0 || !next) return;
          setQuery({ view: next.id }, { replace: true });
          event.currentTarget.querySelector<HTMLElement>(`#depth-${next.id}`)?.focus();
        }}
      >
        {VIEWS.map((view) => (
          <button
            key={view.id}
            id={`depth-${view.id}`}
            type="button"
            role="tab"
            tabIndex={view === open ? 0 : -1}
            aria-selected={view === open}
            className={`tab h-11 text-base flex-1 px-1 ${view === open ? "tab-active font-bold" : "text-base-content!"}`}
            onClick={() => setQuery({ view: view.id }, { replace: true })}
          >
            {view.label}
          </button>
        ))}
      </div>
      <div role="tabpanel" aria-label={open.label} data-view={open.id} className="space-y-5">
        <open.Panel />
      </div>
      <Cautions />
    </div>
  );
}

function Cautions() {
  const { solution } = useScreen();
  return (
    <section className="border-2 border-warning rounded-box p-3">
      <h2 className="font-bold flex items-center gap-2 mb-1">
        <HardHat size={20} aria-hidden /> Before anything is cut
      </h2>
      <ul className="space-y-1 list-disc pl-5">
        {solution?.cautions.map((caution) => (
          <li key={caution.code}>{caution.text}</li>
        ))}
      </ul>
    </section>
  );
}
