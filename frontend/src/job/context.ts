import { createContext, useContext } from "react";
import type { Step } from "../steps/step";
import type { Worked } from "../ui/Why";
import type { Job } from "./useJob";

export interface Shown {
  /** Where the drain may lie. */
  corridor: boolean;
  /** Whether the water moves. */
  running: boolean;
  /** Where the drain can go, and which of its places is looked at. */
  map: boolean;
  place: number | null;
  /** What is pointed at on the chart or in a list, such as "pin 7": both show it. */
  lit: string | null;
  /** Which group of a list is open; null: the first with something left, "": none. */
  group: string | null;
  /** Of the floor as built: the layer that was read, how the chart shows it, whether only what was
   * read last counts; what the staff reads at the finished entry level, and how finely it is read. */
  layer: BuiltLayer;
  look: Look;
  newest: boolean;
  zero: string;
  readTo: string;
  /** Of the walk over what is assumed: the field that it stands at, "" at its end, null without one. */
  walk: string | null;
  /** What the chart does not show. */
  hidden: readonly string[];
}

export const LAYERS = ["recess", "bed", "membrane", "tile"] as const;
export type BuiltLayer = (typeof LAYERS)[number];
export type Look = "planned" | "built" | "difference" | "after";

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
  /** What the chart shows besides. */
  shown: Shown;
  show: (shown: Partial<Shown>) => void;
}

/** What lights a thing up while it is pointed at or has the keyboard. */
export const lights = (show: Screen["show"], name: string) => ({
  onPointerEnter: () => show({ lit: name }),
  onPointerLeave: () => show({ lit: null }),
  onFocus: () => show({ lit: name }),
  onBlur: () => show({ lit: null }),
});

export const ScreenContext = createContext<Screen | null>(null);

export function useScreen(): Screen {
  const screen = useContext(ScreenContext);
  if (!screen) throw new Error("This part stands outside a job's screen.");
  return screen;
}
