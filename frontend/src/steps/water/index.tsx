import { ShowerHead } from "lucide-react";
import { Runoff } from "../../drawing/Runoff";
import { useShown } from "../../job/shown";
import type { Step } from "../step";
import { WaterStep } from "./WaterStep";

export const water: Step = {
  id: "water",
  phase: "Plan",
  label: "Water",
  icon: ShowerHead,
  fields: ["/water"],
  part: "water",
  says: (solution) => (solution.water ? (solution.water.clear ? "clear" : "caution") : null),
  answers: (solution) => solution.water?.flow.text ?? "",
  Panel: WaterStep,
  useChart: (plan, solution) => {
    const running = useShown((shown) => shown.running);
    return {
      focus: plan.shower.rest ? "room" : "shower",
      handles: [],
      bare: true,
      overlay: (view) => solution && <Runoff solution={solution} view={view} running={running} />,
    };
  },
};
