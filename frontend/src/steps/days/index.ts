import { CalendarDays } from "lucide-react";
import type { Step } from "../step";
import { DaysStep } from "./DaysStep";
import { Schedule } from "./Schedule";

export const days: Step = {
  id: "days",
  phase: "Build",
  label: "Days",
  icon: CalendarDays,
  fields: ["/days"],
  part: "days",
  // That there is a day for each task says nothing of whether it is kept.
  says: (solution) => (solution.days?.warned.length ? "caution" : null),
  answers: (solution) => solution.days?.visits_text ?? "",
  Panel: DaysStep,
  Drawing: Schedule,
  useChart: (plan) => ({ focus: plan.shower.rest ? "room" : "shower", handles: [] }),
};
