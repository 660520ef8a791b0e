import { Heater } from "lucide-react";
import type { HeatingResult } from "../../api/generated/solution";
import { HeatMarks } from "../../drawing/HeatMarks";
import type { Handle } from "../../drawing/handles";
import { withValue } from "../../job/pointer";
import type { Step } from "../step";
import { HeatingStep } from "./HeatingStep";

/** Where the cable begins. */
const joint = ({ start }: HeatingResult): Handle => ({
  key: "joint",
  label: "Cold joint",
  at: start,
  kind: "drain",
  snap: { xs: [], ys: [], walls: [] },
  move: (plan, to) => withValue(plan, "/heating/start", to),
});

export const heating: Step = {
  id: "heating",
  phase: "Finish",
  label: "Heating",
  icon: Heater,
  fields: ["/heating"],
  part: "heating",
  later: true,
  says: ({ heating }) => {
    if (!heating || heating.state === "none") return null;
    return heating.state === "fits" ? "clear" : "caution";
  },
  Panel: HeatingStep,
  useChart: (plan, solution) => {
    const found = plan.heating && solution?.heating;
    return {
      focus: "room",
      handles: found && found.route.length > 1 ? [joint(found)] : [],
      bare: true,
      overlay: (view) => found && <HeatMarks view={view} heating={found} />,
    };
  },
};
