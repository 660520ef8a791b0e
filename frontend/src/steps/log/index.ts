import { NotebookPen } from "lucide-react";
import type { Step } from "../step";
import { LogStep } from "./LogStep";

export const log: Step = {
  id: "log",
  phase: "Prove",
  label: "Site log",
  icon: NotebookPen,
  fields: [],
  // What is written down is judged entry by entry.
  says: () => null,
  Panel: LogStep,
  useChart: (plan) => ({ focus: plan.shower.rest ? "room" : "shower", handles: [] }),
};
