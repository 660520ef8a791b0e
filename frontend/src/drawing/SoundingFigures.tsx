import type { View } from "./view";

interface Props {
  soundings: { x: number; y: number; text: string }[];
  view: View;
}

/** Depths in slanted figures, as a chart has them: the tenth stands lower and smaller. */
export function SoundingFigures({ soundings, view }: Props) {
  return (
    <g className="sounding" fontSize={17}>
      {soundings.map((sounding) => {
        const [x, y] = view.at([sounding.x, sounding.y]);
        const [whole, tenth] = sounding.text.split(".");
        return (
          <text key={`${sounding.x},${sounding.y}`} x={x} y={y} dy="0.35em" textAnchor="middle">
            {whole}
            {tenth && (
              <tspan fontSize={12} dy={4}>
                {tenth}
              </tspan>
            )}
          </text>
        );
      })}
    </g>
  );
}
