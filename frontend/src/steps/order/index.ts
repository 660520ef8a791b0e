import { ShoppingCart } from "lucide-react";
import type { Step } from "../step";
import { OrderStep } from "./OrderStep";

export const order: Step = {
  id: "order",
  phase: "Build",
  label: "Order",
  icon: ShoppingCart,
  fields: ["/order"],
  part: "order",
  says: (solution) => (solution.order?.lines.every((line) => line.bought) ? "clear" : null),
  answers: (solution) => solution.order?.total_text ?? "",
  Panel: OrderStep,
  useChart: (plan) => ({ focus: plan.shower.rest ? "room" : "shower", handles: [] }),
};
