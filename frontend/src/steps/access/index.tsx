import { Accessibility } from "lucide-react";
import { fixtureHandles } from "../../drawing/fixtures";
import { Spaces } from "../../drawing/Spaces";
import type { Step } from "../step";
import { AccessStep } from "./AccessStep";

export const access: Step = {
  id: "access",
  phase: "Plan",
  label: "Getting in",
  icon: Accessibility,
  fields: ["/users", "/transfer", "/overrides", "/accessible"],
  says: (solution) => {
    const access = solution.access;
    if (!access) return null;
    const judged = [...access.spaces, ...access.ways, ...access.thresholds];
    return judged.some((one) => one.enough === false) ? "caution" : "clear";
  },
  Panel: AccessStep,
  useChart: (plan, solution) => {
    return {
      focus: "room",
      handles: fixtureHandles(plan),
      bare: true,
      overlay: (view) => solution && <Spaces solution={solution} view={view} />,
    };
  },
};
