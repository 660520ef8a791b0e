import { NotebookPen } from "lucide-react";
import { useScreen } from "../../job/context";
import type { Step } from "../step";
import { LogStep } from "./LogStep";
import { PhotoMarks } from "./PhotoMarks";

export const log: Step = {
  id: "log",
  phase: "Prove",
  label: "Site log",
  icon: NotebookPen,
  fields: [],
  // What is written down is judged entry by entry.
  says: () => null,
  Panel: LogStep,
  useChart: (plan) => {
    const { picked, pick } = useScreen();
    return {
      focus: plan.shower.rest ? "room" : "shower",
      handles: [],
      picked,
      onPick: pick,
      over: (view) => <PhotoMarks view={view} />,
    };
  },
};
