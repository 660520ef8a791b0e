import { MapPin } from "lucide-react";
import { Marks } from "../../drawing/Marks";
import { useScreen } from "../../job/context";
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
    const { shown, show } = useScreen();
    const open = solution?.marks ? openGroup(plan, solution.marks, shown.group) : null;
    return {
      // Lines are measured from the walls of the room: all of them are in sight.
      focus: open === "pin" && !plan.shower.rest ? "shower" : "room",
      handles: [],
      bare: true,
      overlay: (view) =>
        solution?.marks && (
          <Marks
            plan={plan}
            result={solution.marks}
            open={open}
            view={view}
            lit={shown.lit}
            show={show}
          />
        ),
    };
  },
};
