import { createContext, useContext } from "react";
import type { Figure } from "../api/generated/solution";
import type { Step } from "../steps/step";
import type { Job } from "./useJob";

/** What has a working: a figure, or a line or a task with it. */
export type Worked = Pick<Figure, "label" | "text" | "working">;

/** The job on screen and what its parts ask of the screen. */
export interface Screen extends Job {
  /** Show the working of a figure. */
  why: (figure: Worked) => void;
  /** Open the step in which a value of the plan is typed, at its field. */
  reach: (path: string) => void;
  jobId: string;
  /** The step that is open. */
  step: Step;
  /** The place on the chart that was touched last, for a reading. */
  picked: [number, number] | null;
  pick: (place: [number, number] | null) => void;
}

export const ScreenContext = createContext<Screen | null>(null);

export function useScreen(): Screen {
  const screen = useContext(ScreenContext);
  if (!screen) throw new Error("This part stands outside a job's screen.");
  return screen;
}
