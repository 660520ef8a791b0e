import { FIGURE } from "./clear";
import type { XY } from "./view";

export interface Sounding {
  text: string;
  /** Where the figure stands, and where it holds, in pixels. */
  at: XY;
  of: XY;
}

/** Depths in slanted figures, as a chart has them: the tenth stands lower and smaller. A figure
 * that had to stand beside its place leaves a dot there. */
export function SoundingFigures({ soundings }: { soundings: Sounding[] }) {
  return (
    <g className="sounding" data-part="soundings" fontSize={FIGURE}>
      {soundings.map(({ at: [x, y], of, text }) => {
        const [whole, tenth] = text.split(".");
        return (
          <g key={String(of)}>
            {(of[0] !== x || of[1] !== y) && <circle cx={of[0]} cy={of[1]} r={2.2} stroke="none" />}
            <text x={x} y={y} dy="0.35em" textAnchor="middle">
              {whole}
              {tenth && (
                <tspan fontSize={12} dy={4}>
                  {tenth}
                </tspan>
              )}
            </text>
          </g>
        );
      })}
    </g>
  );
}
