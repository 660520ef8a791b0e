import { Waves } from "lucide-react";
import { Ground } from "../../drawing/Ground";
import { Level } from "../../drawing/Level";
import { useScreen } from "../../job/context";
import { useShown } from "../../job/shown";
import type { Step } from "../step";
import { LevelsStep } from "./LevelsStep";
import { useStraightedge } from "./useStraightedge";

export const levels: Step = {
  id: "levels",
  phase: "Measure",
  label: "Levels",
  icon: Waves,
  fields: ["/survey"],
  Panel: LevelsStep,
  useChart: (plan, solution) => {
    const { picked, pick } = useScreen();
    const lies = useShown((shown) => shown.lies);
    const floor = solution?.survey.floor ?? null;
    const { handles, edge } = useStraightedge(plan, floor);
    return {
      focus: "room",
      handles,
      ground: (view) =>
        floor && <Ground room={plan.room.outline} floor={floor} view={view} edge={edge} />,
      over: (view) => lies && <Level from={lies} to={picked} view={view} />,
      picked,
      onPick: pick,
    };
  },
};
