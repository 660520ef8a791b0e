import { MapPin } from "lucide-react";
import { Marks } from "../../drawing/Marks";
import { useShown } from "../../job/shown";
import type { Step } from "../step";
import { MarksStep } from "./MarksStep";
import { openGroup } from "./noted";

export const marks: Step = {
  id: "marks",
  phase: "Build",
  label: "Setting out",
  icon: MapPin,
  fields: ["/setting_out"],
  part: "marks",
  says: ({ marks }) => (marks ? (marks.stale.length ? "caution" : "clear") : null),
  Panel: MarksStep,
  useChart: (plan, solution) => {
    const asked = useShown((shown) => shown.group);
    const open = solution?.marks ? openGroup(plan, solution.marks, asked) : null;
    return {
      // Lines are measured from the walls of the room: all of them are in sight.
      focus: open === "pin" && !plan.shower.rest ? "shower" : "room",
      handles: [],
      bare: true,
      overlay: (view) =>
        solution?.marks && <Marks plan={plan} result={solution.marks} open={open} view={view} />,
    };
  },
};
