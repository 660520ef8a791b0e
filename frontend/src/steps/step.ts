import type { LucideIcon } from "lucide-react";
import type { ComponentType, ReactNode } from "react";
import type { Plan, Solution } from "../api/client";
import type { Part } from "../api/generated/part";
import type { Handle } from "../drawing/handles";
import type { View, XY } from "../drawing/view";

/** The phases of a job in their order; each has its steps. */
export const PHASES = ["Measure", "Plan", "Finish", "Build", "Prove"] as const;
export type Phase = (typeof PHASES)[number];

export type Mark = "stop" | "caution" | "clear";

/** What a step shows on the chart. */
export interface StepChart {
  /** Which part fills the chart and has its sides measured. */
  focus: "room" | "shower";
  handles: Handle[];
  /** Planes and places carry no figures: the step's own overlay does. */
  bare?: boolean;
  /** What is drawn over the finished floor. */
  overlay?: (view: View) => ReactNode;
  /** What is drawn over that and has the keyboard. */
  over?: (view: View) => ReactNode;
  /** The floor that is there, in place of the finished one; null while it is not known. */
  ground?: (view: View) => ReactNode;
  picked?: XY | null;
  onPick?: (place: XY) => void;
}

/** One step of the work: the shell shows it and knows none by name. */
export interface Step {
  id: string;
  phase: Phase;
  label: string;
  icon: LucideIcon;
  /** Findings at these places of the plan are the step's own. */
  fields: readonly string[];
  /** In which of its views one of them is typed, as its address says it, where it has several. */
  view?: (field: string) => string;
  /** What is worked out only while the step is open. */
  part?: Part;
  /** That part takes longer: after an edit the rest is answered first. */
  later?: boolean;
  /** What the step itself says, beside its findings; null while that is not known. */
  says?: (solution: Solution) => Mark | null;
  /** Its answer in a word or number, for the list of steps; empty where it is not known. */
  answers?: (solution: Solution) => string;
  Panel: ComponentType;
  /** What is drawn in place of chart and section. */
  Drawing?: ComponentType;
  /** What is drawn in place of the section, and what that pane is called. */
  below?: (plan: Plan) => { label: string; Drawing: ComponentType } | null;
  useChart: (plan: Plan, solution: Solution | null) => StepChart;
}
