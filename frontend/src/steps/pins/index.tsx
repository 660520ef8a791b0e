import { MapPin } from "lucide-react";
import { Pins } from "../../drawing/Pins";
import { useScreen } from "../../job/context";
import type { Step } from "../step";
import { PinsStep } from "./PinsStep";

export const pins: Step = {
  id: "pins",
  phase: "Build",
  label: "Pins",
  icon: MapPin,
  fields: ["/pin_spacing", "/staff_on_high_spot"],
  part: "pins",
  Panel: PinsStep,
  useChart: (plan, solution) => {
    const { shown, show } = useScreen();
    return {
      focus: plan.shower.rest ? "room" : "shower",
      handles: [],
      bare: true,
      overlay: (view) =>
        solution && (
          <Pins plan={plan} solution={solution} view={view} lit={shown.lit} show={show} />
        ),
    };
  },
};
