import type { Typed } from "../api/client";

/** A measure so many steps larger, as arrow keys and buttons make it: a length by what is shown on
 * site, a fall by whole runs of 1, at most 1:5, a flow by litres a minute. */
export const nudged = (kind: Typed, value: number, steps: number, step = 1) =>
  kind === "fall" ? 1 / Math.max(5, Math.round(1 / value) - steps) : value + steps * step;
