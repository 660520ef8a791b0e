import type { ReactNode } from "react";
import type { XY } from "./view";

interface Props {
  at: XY;
  ink: string;
  size?: number;
  bold?: boolean;
  anchor?: "start" | "middle" | "end";
  /** The base line lies at the place; else the middle of the letters does. */
  raised?: boolean;
  children: ReactNode;
}

/** A figure on a drawing, with paper round its letters so that lines do not run into them. */
export function HaloText({
  at: [x, y],
  ink,
  size = 16,
  bold = true,
  anchor = "middle",
  raised = false,
  children,
}: Props) {
  return (
    <text
      x={x}
      y={y}
      dy={raised ? undefined : "0.35em"}
      textAnchor={anchor}
      fontSize={size}
      fontWeight={bold ? 700 : undefined}
      fill={ink}
      className="halo"
    >
      {children}
    </text>
  );
}
