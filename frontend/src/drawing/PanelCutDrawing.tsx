import type { PanelLayout } from "../api/generated/solution";
import { fitted, path, useSize, type XY } from "./view";

type Side = PanelLayout["sides"][number];

/** Panels from above, the drain below: as delivered, what is left of them, the outlet's notch. */
export function PanelCutDrawing({ side }: { side: Side }) {
  const [box, { width }] = useSize<SVGSVGElement>();
  const height = 230;
  const corners = side.panels.flat();
  const view = fitted(corners, width || 1, height, 30);
  const rect = ([[x0, y0], [x1, y1]]: [XY, XY]): XY[] => [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
  const drawn = (places: XY[]) => path(places.map(view.at));
  const rows = side.rows;
  const columns = side.panels.filter((_, i) => i % rows === 0);
  const right = Math.max(...side.kept.map(([x]) => x));
  const [, foot] = view.at([0, 0]);
  const [, top] = view.at([0, Math.max(...side.kept.map(([, y]) => y))]);
  return (
    <svg
      ref={box}
      className="w-full block border border-base-300 rounded-box bg-base-100 my-1"
      height={height}
      role="img"
      aria-label={`Panels of the ${side.name} side from above: ${side.text}`}
    >
      {width > 0 && (
        <>
          {side.panels.map((panel) => (
            <path
              key={String(panel)}
              d={drawn(rect(panel as [XY, XY]))}
              fill="var(--packing)"
              stroke="var(--ink)"
              strokeDasharray="5 4"
            />
          ))}
          <path
            d={drawn(side.kept as XY[])}
            fill="var(--paper)"
            stroke="var(--ink)"
            strokeWidth={2.5}
          />
          {side.panels.map(([from, to]) => (
            <path
              key={`edge ${String(from)}`}
              d={path(
                [
                  [Math.min(to[0], right), from[1]] as XY,
                  [Math.min(to[0], right), to[1]] as XY,
                ].map(view.at),
                false,
              )}
              stroke="var(--ink)"
              strokeDasharray="2 3"
            />
          ))}
          {side.notch.length === 2 && (
            <path d={drawn(rect(side.notch as [XY, XY]))} fill="var(--hazard)" />
          )}
          {columns.map(([from, to], i) => {
            const [x] = view.at([(from[0] + Math.min(to[0], right)) / 2, 0]);
            const ripped = i === columns.length - 1;
            return (
              <text
                key={String(from)}
                x={x}
                y={foot - 12}
                textAnchor="middle"
                fontSize={columns.length > 4 ? 14 : 18}
                fontWeight={700}
                fill="var(--ink)"
                className="halo"
              >
                {ripped ? side.last_text : side.width_text}
              </text>
            );
          })}
          <text
            x={width / 2}
            y={(foot + top) / 2}
            textAnchor="middle"
            fontSize={20}
            fontWeight={700}
            fill="var(--ink)"
            className="halo"
          >
            {side.run_text}
          </text>
          <text x={width / 2} y={height - 8} textAnchor="middle" fontSize={14} fill="var(--ink)">
            drain, thin end
          </text>
          <text x={width / 2} y={18} textAnchor="middle" fontSize={14} fill="var(--ink)">
            thick end
          </text>
        </>
      )}
    </svg>
  );
}
