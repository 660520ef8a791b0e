import { Layers } from "lucide-react";
import type { Step } from "../step";
import { DepthStep } from "./DepthStep";

export const depth: Step = {
  id: "depth",
  phase: "Plan",
  label: "Depth",
  icon: Layers,
  fields: [
    "/system",
    "/shower/former",
    "/shower/layers",
    "/shower/set_down",
    "/shower/bevel",
    "/room/layers",
  ],
  part: "ways",
  later: true,
  answers: (solution) => solution.figures.recess_needed.text,
  Panel: DepthStep,
  useChart: (plan) => ({
    focus: plan.shower.rest ? "room" : "shower",
    handles: [],
  }),
};
