import { Ruler } from "lucide-react";
import { BuiltMarks } from "../../drawing/BuiltMarks";
import { useScreen } from "../../job/context";
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
    const { picked, pick, shown, jobId } = useScreen();
    const { data } = useBuilt();
    const { draft } = useDraft(jobId);
    const planned = shown.look === "planned";
    return {
      focus: plan.shower.rest ? "room" : "shower",
      handles: [],
      bare: !planned,
      overlay: (view) =>
        data && !planned && <BuiltMarks view={view} built={data} look={shown.look} draft={draft} />,
      picked,
      onPick: pick,
    };
  },
};
