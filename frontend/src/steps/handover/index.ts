import { FileCheck2 } from "lucide-react";
import type { Step } from "../step";
import { HandOverStep } from "./HandOverStep";

export const handover: Step = {
  id: "hand-over",
  phase: "Prove",
  label: "Hand over",
  icon: FileCheck2,
  fields: [],
  // What is open is told by what was written down, not by the plan.
  says: () => null,
  Panel: HandOverStep,
  useChart: (plan) => ({ focus: plan.shower.rest ? "room" : "shower", handles: [] }),
};
