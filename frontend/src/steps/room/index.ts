import { Square } from "lucide-react";
import type { Step } from "../step";
import { outlineHandles } from "./handles";
import { RoomStep } from "./RoomStep";

export const room: Step = {
  id: "room",
  phase: "Measure",
  label: "Room",
  icon: Square,
  fields: [
    "/room/outline",
    "/room/doors",
    "/room/fixtures",
    "/floor",
    "/shower/outline",
    "/survey/tape",
  ],
  answers: ({ drawing: { room_box: box } }) => (box ? `${box.width_text} × ${box.depth_text}` : ""),
  Panel: RoomStep,
  useChart: (plan, solution) => ({
    focus: "room",
    handles: outlineHandles(plan, solution?.drawing.of_shower ?? []),
  }),
};
