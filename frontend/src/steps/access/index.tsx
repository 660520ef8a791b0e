import { Accessibility } from "lucide-react";
import { Spaces } from "../../drawing/Spaces";
import { useScreen } from "../../job/context";
import type { Step } from "../step";
import { AccessStep } from "./AccessStep";

export const access: Step = {
  id: "access",
  phase: "Plan",
  label: "Getting in",
  icon: Accessibility,
  fields: ["/users"],
  says: (solution) => (solution.access?.spaces[0]?.enough ? "clear" : null),
  Panel: AccessStep,
  useChart: (_plan, solution) => {
    const { shown, show } = useScreen();
    return {
      focus: "room",
      handles: [],
      bare: true,
      overlay: (view) =>
        solution && <Spaces solution={solution} view={view} lit={shown.lit} show={show} />,
    };
  },
};
