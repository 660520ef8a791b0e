import { useQuery } from "@tanstack/react-query";
import {
  CircleHelp,
  Download,
  EllipsisVertical,
  Moon,
  Printer,
  Redo2,
  Sun,
  Undo2,
} from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api } from "../api/client";
import type { DisplayChoice } from "../api/generated/plan";
import { NameField } from "../ui/NameField";
import { useTheme } from "../ui/theme";
import { useScreen } from "./context";
import { SheetDialog } from "./SheetDialog";
import type { SaveState } from "./useJob";

const SAVED: Record<SaveState, string> = {
  opening: "Opening…",
  saved: "Saved",
  saving: "Saving…",
  conflict: "Not saved: changed elsewhere",
  offline: "Not saved: no connection",
  stuck: "Not saved: see why",
  gone: "Not saved: the job was deleted",
  refused: "Not saved: see the findings",
};

const UNITS: { label: string; display: Partial<DisplayChoice> }[] = [
  { label: "mm", display: { length: "mm" } },
  { label: "cm", display: { length: "cm" } },
  { label: "m", display: { length: "m" } },
  { label: "inches, 1/16", display: { length: "in", fraction: 16 } },
  { label: "inches, 1/32", display: { length: "in", fraction: 32 } },
  { label: "feet & inches", display: { length: "ft", fraction: 16 } },
];

const FALLS: { label: string; fall: DisplayChoice["fall"] }[] = [
  { label: "1:48", fall: "ratio" },
  { label: "2.08 %", fall: "percent" },
  { label: "1/4 in per ft", fall: "in_per_ft" },
  { label: "mm per m", fall: "mm_per_m" },
  { label: "degrees", fall: "degrees" },
];

export function Header({ jobId, onHelp }: { jobId: string; onHelp: () => void }) {
  const { plan, set, undo, redo, canUndo, canRedo, saveState } = useScreen();
  const rules = useQuery({
    queryKey: ["rules"],
    queryFn: api.rules,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [theme, turn] = useTheme();
  // On a phone what is seldom needed is folded away.
  const [more, setMore] = useState(false);
  const [printing, setPrinting] = useState(false);
  const unit = UNITS.findIndex(
    ({ display }) =>
      display.length === plan.display.length &&
      (!display.fraction || display.fraction === plan.display.fraction),
  );
  const select =
    "select h-11 w-auto bg-primary text-primary-content border-primary-content/40 text-base";
  const button =
    "btn btn-ghost btn-square size-11 text-primary-content hover:bg-primary-content/15 border-0 disabled:opacity-40 disabled:text-primary-content";
  return (
    <header className="bg-primary text-primary-content flex flex-wrap items-center gap-x-2 max-lg:gap-x-0.5 gap-y-1 px-3 max-lg:px-1 py-1.5">
      <Link
        to="/"
        className="flex items-center gap-2 font-bold text-lg h-11 pr-2 max-lg:px-1.5"
        aria-label="Calm Basin: all jobs"
      >
        <img src="/favicon.svg" alt="" className="size-7 rounded" />
        <span className="hidden sm:inline">Calm Basin</span>
      </Link>
      <div className="flex-1 min-w-16 max-w-md">
        <NameField
          label="Name of the job"
          value={plan.job.name}
          onCommit={(name) => set("/job/name", name)}
          className="bg-transparent border-transparent hover:border-primary-content/40 text-lg font-semibold"
        />
      </div>
      <span
        className="text-sm max-w-16 lg:max-w-none lg:whitespace-nowrap leading-tight lg:mr-auto"
        role="status"
        data-save={saveState}
      >
        {SAVED[saveState]}
      </span>
      <button
        type="button"
        className={`${button} lg:hidden`}
        aria-label="Rule set, units and more"
        aria-expanded={more}
        onClick={() => setMore(!more)}
      >
        <EllipsisVertical aria-hidden />
      </button>
      <div
        className={`${more ? "flex" : "hidden"} lg:flex flex-wrap items-center gap-2 max-lg:order-last max-lg:w-full`}
      >
        <select
          className={select}
          aria-label="Rule set"
          value={plan.rule_set}
          onChange={(e) => set("/rule_set", e.currentTarget.value)}
        >
          {rules.data?.map((rule) => (
            <option key={rule.id} value={rule.id}>
              {rule.name}
            </option>
          )) ?? <option value={plan.rule_set}>{plan.rule_set}</option>}
        </select>
        <select
          className={select}
          aria-label="Units of length"
          value={unit}
          onChange={(e) =>
            set("/display", { ...plan.display, ...UNITS[Number(e.currentTarget.value)]?.display })
          }
        >
          {UNITS.map(({ label }, i) => (
            <option key={label} value={i}>
              {label}
            </option>
          ))}
        </select>
        <select
          className={select}
          aria-label="Form of falls"
          value={plan.display.fall}
          onChange={(e) => set("/display/fall", e.currentTarget.value)}
        >
          {FALLS.map(({ label, fall }) => (
            <option key={fall} value={fall}>
              {label}
            </option>
          ))}
        </select>
      </div>
      <div className="flex">
        <button
          type="button"
          className={button}
          aria-label="Undo"
          title="Undo (Ctrl Z)"
          disabled={!canUndo}
          onClick={() => void undo()}
        >
          <Undo2 aria-hidden />
        </button>
        <button
          type="button"
          className={button}
          aria-label="Redo"
          title="Redo (Ctrl Y)"
          disabled={!canRedo}
          onClick={() => void redo()}
        >
          <Redo2 aria-hidden />
        </button>
        <button
          type="button"
          className={`${button} ${more ? "" : "max-lg:hidden"}`}
          aria-label="Job sheet for the site"
          title="Job sheet for the site (PDF)"
          onClick={() => setPrinting(true)}
        >
          <Printer aria-hidden />
        </button>
        <a
          className={`${button} ${more ? "" : "max-lg:hidden"}`}
          href={`/api/jobs/${jobId}/plan-file`}
          aria-label="Download the plan file"
          title="Download the plan file"
        >
          <Download aria-hidden />
        </a>
        <button
          type="button"
          className={`${button} ${more ? "" : "max-lg:hidden"}`}
          aria-label={theme === "tide-day" ? "Dark colours" : "Light colours"}
          onClick={turn}
        >
          {theme === "tide-day" ? <Moon aria-hidden /> : <Sun aria-hidden />}
        </button>
        <button
          type="button"
          className={`${button} ${more ? "" : "max-lg:hidden"}`}
          aria-label="Keys and help"
          title="Keys (?)"
          onClick={onHelp}
        >
          <CircleHelp aria-hidden />
        </button>
      </div>
      {printing && <SheetDialog onClose={() => setPrinting(false)} />}
    </header>
  );
}
