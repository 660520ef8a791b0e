import { Droplets, Layers, MapPin, ShowerHead, Square, Waves } from "lucide-react";
import type { Solution } from "../api/client";

/** The steps of the work, in its order; `fields` says which findings are theirs. */
export const STEPS = [
  { id: "room", label: "Room", icon: Square, fields: ["/room", "/floor", "/shower/outline"] },
  { id: "levels", label: "Levels", icon: Waves, fields: ["/survey"] },
  {
    id: "drain",
    label: "Drain & falls",
    icon: Droplets,
    fields: [
      "/shower/drain",
      "/shower/second_drain",
      "/shower/fall",
      "/shower/entries",
      "/shower/rest",
    ],
  },
  {
    id: "depth",
    label: "Depth",
    icon: Layers,
    fields: ["/shower/former", "/shower/layers", "/shower/set_down"],
  },
  { id: "water", label: "Water", icon: ShowerHead, fields: ["/water"] },
  { id: "pins", label: "Pins", icon: MapPin, fields: ["/pin_spacing", "/staff_on_high_spot"] },
] as const;

export type StepId = (typeof STEPS)[number]["id"];

/** The gravest finding of a step. */
export function stepState(solution: Solution | null, fields: readonly string[]) {
  const own = solution?.findings.filter((f) => fields.some((field) => f.field.startsWith(field)));
  if (!own) return null;
  if (own.some((f) => f.severity === "stop")) return "stop" as const;
  return own.length ? ("caution" as const) : ("clear" as const);
}
