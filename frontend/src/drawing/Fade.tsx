import { useId } from "react";
import type { XY } from "./view";

const FADE = 44;

/** Where the room goes on beyond the chart it fades, and is not cut. */
export function Fade({ room, width, height }: { room: XY[]; width: number; height: number }) {
  const id = useId();
  const xs = room.map((p) => p[0]);
  const ys = room.map((p) => p[1]);
  const sides: [string, boolean, XY, [number, number, number, number]][] = [
    ["left", Math.min(...xs) < 0, [1, 0], [0, 0, FADE, height]],
    ["right", Math.max(...xs) > width, [-1, 0], [width - FADE, 0, FADE, height]],
    ["top", Math.min(...ys) < 0, [0, 1], [0, 0, width, FADE]],
    ["bottom", Math.max(...ys) > height, [0, -1], [0, height - FADE, width, FADE]],
  ];
  return (
    <g aria-hidden pointerEvents="none">
      {sides.map(
        ([side, beyond, [dx, dy], [x, y, w, h]]) =>
          beyond && (
            <g key={side}>
              <linearGradient
                id={`${id}-${side}`}
                x1={dx < 0 ? 1 : 0}
                y1={dy < 0 ? 1 : 0}
                x2={dx > 0 ? 1 : 0}
                y2={dy > 0 ? 1 : 0}
              >
                <stop offset={0} stopColor="var(--paper)" />
                <stop offset={1} stopColor="var(--paper)" stopOpacity={0} />
              </linearGradient>
              <rect x={x} y={y} width={w} height={h} fill={`url(#${id}-${side})`} />
            </g>
          ),
      )}
    </g>
  );
}
