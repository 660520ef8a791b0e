import { Ruler } from "lucide-react";
import { BuiltMarks } from "../../drawing/BuiltMarks";
import { useScreen } from "../../job/context";
import { useShown } from "../../job/shown";
import type { Step } from "../step";
import { BuiltStep } from "./BuiltStep";
import { useBuilt } from "./useBuilt";
import { useDraft } from "./useDraft";

export const built: Step = {
  id: "as-built",
  phase: "Prove",
  label: "As built",
  icon: Ruler,
  fields: [],
  // What was built is judged by what the log says of it, not by the plan.
  says: () => null,
  Panel: BuiltStep,
  useChart: (plan) => {
    const { picked, pick, jobId } = useScreen();
    const look = useShown((shown) => shown.look);
    const { data } = useBuilt();
    const { draft } = useDraft(jobId);
    const planned = look === "planned";
    return {
      focus: plan.shower.rest ? "room" : "shower",
      handles: [],
      bare: !planned,
      overlay: (view) =>
        data && !planned && <BuiltMarks view={view} built={data} look={look} draft={draft} />,
      picked,
      onPick: pick,
    };
  },
};
