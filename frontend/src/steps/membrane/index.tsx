import { Layers2 } from "lucide-react";
import { MembraneMarks } from "../../drawing/MembraneMarks";
import type { Step } from "../step";
import { MembraneStep } from "./MembraneStep";
import { OnWalls } from "./OnWalls";

export const membrane: Step = {
  id: "membrane",
  phase: "Finish",
  label: "Membrane",
  icon: Layers2,
  fields: ["/membrane", "/days/membrane"],
  part: "membrane",
  // What is left to lay is work, not a fault.
  says: ({ membrane }) => (membrane ? "clear" : null),
  Panel: MembraneStep,
  below: (plan) =>
    plan.membrane.walls > 0 ||
    plan.days.membrane === "boards" ||
    plan.room.fixtures.some(({ kind }) => kind === "bench" || kind === "half wall")
      ? { label: "Walls", Drawing: OnWalls }
      : null,
  useChart: (_plan, solution) => ({
    focus: "room",
    handles: [],
    bare: true,
    overlay: (view) =>
      solution?.membrane && <MembraneMarks view={view} membrane={solution.membrane} />,
  }),
};
