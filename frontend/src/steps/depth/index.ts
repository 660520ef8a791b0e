import { Layers } from "lucide-react";
import type { Step } from "../step";
import { DepthStep } from "./DepthStep";

/** What is typed where the layers are; all else of the build-up is the system's. */
const LAYERED = /^\/(room|survey|shower\/layers|shower\/former\/lower)/;

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
    "/room/laid",
    "/survey/correction/cover",
  ],
  view: (field) => `?view=${LAYERED.test(field) ? "build-up" : "system"}`,
  part: "ways",
  later: true,
  answers: (solution) => solution.figures.recess_needed.text,
  Panel: DepthStep,
  useChart: (plan) => ({
    focus: plan.shower.rest ? "room" : "shower",
    handles: [],
  }),
};
