import { BrickWall } from "lucide-react";
import { StudLines } from "../../drawing/StudLines";
import type { Step } from "../step";
import { Unfolded } from "./Unfolded";
import { WallsStep } from "./WallsStep";

export const walls: Step = {
  id: "walls",
  phase: "Finish",
  label: "Walls",
  icon: BrickWall,
  fields: ["/walls"],
  part: "walls",
  // Nobody has said yet what is on the studs: nothing can agree.
  says: ({ walls }) => (walls?.given ? "clear" : null),
  Panel: WallsStep,
  below: () => ({ label: "Walls", Drawing: Unfolded }),
  useChart: (_plan, solution) => ({
    focus: "room",
    handles: [],
    bare: true,
    overlay: (view) => solution?.walls && <StudLines view={view} walls={solution.walls} />,
  }),
};
