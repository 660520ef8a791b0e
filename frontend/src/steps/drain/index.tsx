import { Droplets } from "lucide-react";
import { Places } from "../../drawing/Places";
import { useShown } from "../../job/shown";
import type { Step } from "../step";
import { DrainStep } from "./DrainStep";
import { drainHandles } from "./handles";

export const drain: Step = {
  id: "drain",
  phase: "Plan",
  label: "Drain & falls",
  icon: Droplets,
  fields: [
    "/shower/drain",
    "/shower/second_drain",
    "/shower/fall",
    "/shower/entries",
    "/shower/rest",
  ],
  answers: (solution) => solution.figures.fall_steepest.text,
  Panel: DrainStep,
  useChart: (plan, solution) => {
    const corridor = useShown((shown) => shown.corridor);
    return {
      focus: plan.shower.rest ? "room" : "shower",
      handles: drainHandles(plan),
      overlay: (view) => solution && corridor && <Places solution={solution} view={view} />,
    };
  },
};
