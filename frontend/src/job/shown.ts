import { createContext, useContext, useState } from "react";
import { createStore, type StoreApi, useStore } from "zustand";

export const LAYERS = ["recess", "bed", "membrane", "tile"] as const;
export type BuiltLayer = (typeof LAYERS)[number];
export type Look = "planned" | "built" | "difference" | "after";

/** What is shown of a job beside its plan: it is kept nowhere, and each part draws only what it
 * asks for itself. */
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
  /** Of a level that is read: where it lies on the floor, before its other end is touched. */
  lies: [number, number] | null;
  /** The place of the plan whose measures are typed, as a pointer: the chart draws them. */
  measuring: string | null;
  /** What the chart does not show. */
  hidden: readonly string[];
}

const calm = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

/** What is shown when a job is opened. */
export function useFirstShown(): StoreApi<Shown> {
  const [store] = useState(() =>
    createStore<Shown>(() => ({
      corridor: false,
      running: !calm(),
      map: true,
      place: null,
      lit: null,
      group: null,
      layer: "bed",
      look: "difference",
      newest: false,
      zero: "",
      readTo: "",
      walk: null,
      lies: null,
      measuring: null,
      hidden: [],
    })),
  );
  return store;
}

export const ShownContext = createContext<StoreApi<Shown> | null>(null);

/** All of what is shown, for what listens to it without being drawn again. */
export function useShownStore(): StoreApi<Shown> {
  const store = useContext(ShownContext);
  if (!store) throw new Error("This part stands outside a job's screen.");
  return store;
}

/** A part of what is shown; only a change of it draws again. */
export const useShown = <T>(select: (shown: Shown) => T): T => useStore(useShownStore(), select);

/** Changes what is shown. */
export const useShow = (): ((part: Partial<Shown>) => void) => useShownStore().setState;

/** Whether this is what is pointed at. */
export const useLit = (name: string) => useShown(({ lit }) => lit === name);

/** What lights a thing up while it is pointed at or has the keyboard. */
export function useLights() {
  const show = useShow();
  return (name: string) => ({
    "data-lights": name,
    onPointerEnter: () => show({ lit: name }),
    onPointerLeave: () => show({ lit: null }),
    onFocus: () => show({ lit: name }),
    onBlur: () => show({ lit: null }),
  });
}
