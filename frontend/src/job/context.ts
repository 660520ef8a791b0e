import { createContext, useContext } from "react";
import type { Figure } from "../api/generated/solution";
import type { Step } from "../steps/step";
import type { Job } from "./useJob";

export interface Shown {
  /** Where the drain may lie. */
  corridor: boolean;
  /** Whether the water moves. */
  running: boolean;
  /** The pin that is pointed at, by its number. */
  pin: number | null;
}

/** The job on screen and what its parts ask of the screen. */
export interface Screen extends Job {
  /** Show the working of a figure. */
  why: (figure: Figure) => void;
  jobId: string;
  /** The step that is open. */
  step: Step;
  /** The place on the chart that was touched last, for a reading. */
  picked: [number, number] | null;
  pick: (place: [number, number] | null) => void;
  /** What the chart shows besides. */
  shown: Shown;
  show: (shown: Partial<Shown>) => void;
}

export const ScreenContext = createContext<Screen | null>(null);

export function useScreen(): Screen {
  const screen = useContext(ScreenContext);
  if (!screen) throw new Error("This part stands outside a job's screen.");
  return screen;
}
