import type { TrayLayout } from "../api/generated/solution";
import { fitted, path, useSize, type XY } from "./view";

/** The tray as it is cut, from above or turned over: its own outline, what is left, the drain. */
export function TrayCut({ tray, under }: { tray: TrayLayout; under: boolean }) {
  const [box, { width }] = useSize<SVGSVGElement>();
  // Turned over about the line from the entry to the back, left and right change places.
  const seen = ([x, y]: XY): XY => (under ? [-x, y] : [x, y]);
  const height = 290;
  const stays = [...tray.kept, ...tray.sides.map((side) => side.start)].map(seen);
  // What is cut off is shown as far as it leaves what stays large enough to read.
  const near = tray.outline.map(seen).map(
    (place) =>
      place.map((value, axis) => {
        const reach = stays.map((other) => other[axis] ?? 0);
        const [low, high] = [Math.min(...reach), Math.max(...reach)];
        const more = (high - low) * 0.25;
        return Math.min(Math.max(value, low - more), high + more);
      }) as XY,
  );
  const view = fitted([...stays, ...near], width || 1, height, 44);
  const at = (place: XY) => view.at(seen(place));
  const [cx, cy] = view.at([0, 0]);
  const kept = tray.kept.map(at);
  const middle = [0, 1].map(
    (axis) => kept.reduce((sum, place) => sum + (place[axis] ?? 0), 0) / (kept.length || 1),
  ) as XY;
  return (
    <svg
      ref={box}
      className="w-full block border border-base-300 rounded-box bg-base-100"
      height={height}
      role="img"
      aria-label={`Cutting diagram, ${under ? "underside" : "from above"}: ${tray.verdict}`}
    >
      {width > 0 && (
        <>
          <path
            d={path(tray.outline.map(at))}
            fill="var(--packing)"
            stroke="var(--ink)"
            strokeDasharray="6 4"
          />
          <path d={path(kept)} fill="var(--paper)" stroke="none" />
          {tray.sides.map((side) => {
            const ends = [side.start, side.end].map(at) as [XY, XY];
            const ink = side.state === "as delivered" ? "var(--ink)" : "var(--hazard)";
            const [mx, my] = [(ends[0][0] + ends[1][0]) / 2, (ends[0][1] + ends[1][1]) / 2];
            // The figure stands inside, a little off its side, and beside the drain.
            const [dx, dy] = [middle[0] - mx, middle[1] - my];
            const far = Math.hypot(dx, dy) || 1;
            // Figures are wider than they are high.
            const off = 22 + (26 * Math.abs(dx)) / far;
            const [x, y] = [mx + (dx / far) * off, my + (dy / far) * off];
            const level = Math.abs(dx) < Math.abs(dy);
            const aside = level && Math.abs(x - cx) < 44 && Math.abs(y - cy) < 26 ? 62 : 0;
            return (
              <g key={side.name}>
                <path
                  d={path(ends, false)}
                  stroke={ink}
                  strokeWidth={side.state === "as delivered" ? 2 : 3}
                  strokeDasharray={side.state === "missing" ? "3 5" : undefined}
                />
                <text
                  x={x + aside}
                  y={y}
                  dy="0.35em"
                  textAnchor="middle"
                  fontSize={20}
                  fontWeight={700}
                  fill="var(--ink)"
                  className="halo"
                >
                  {side.riser_text}
                </text>
              </g>
            );
          })}
          {tray.joint.length > 0 && (
            <path
              d={path(tray.joint.map(at), false)}
              stroke="var(--ink)"
              strokeWidth={1.5}
              strokeDasharray="10 3 2 3"
            />
          )}
          <path d={path(tray.rim.map(at))} fill="var(--ink)" />
          <text x={width / 2} y={height - 8} textAnchor="middle" fontSize={14} fill="var(--entry)">
            entry
          </text>
          <text x={width / 2} y={18} textAnchor="middle" fontSize={14} fill="var(--ink)">
            back
          </text>
        </>
      )}
    </svg>
  );
}
