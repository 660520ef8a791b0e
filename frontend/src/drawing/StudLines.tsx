import type { WallsResult } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { path, type View, type XY } from "./view";

/** The studs behind the finished walls, the shower up to them, and the walls' numbers. */
export function StudLines({ view, walls }: { view: View; walls: WallsResult }) {
  const middle = walls.studs.reduce<XY>(
    ([x, y], place) => [x + place[0] / walls.studs.length, y + place[1] / walls.studs.length],
    [0, 0],
  );
  return (
    <g data-part="walls" pointerEvents="none">
      <path
        d={path(walls.pocket.map(view.at))}
        fill="var(--sounding)"
        fillOpacity={0.14}
        stroke="none"
      />
      {walls.given && (
        <path
          data-studs
          d={path(walls.studs.map(view.at))}
          fill="none"
          stroke="var(--paper)"
          strokeWidth={2}
          strokeDasharray="8 3"
        />
      )}
      {walls.lines.map((line) => {
        // Not in its middle, where the line of the section's cut ends as a rule.
        const [x, y] = view.at([
          line.start[0] + 0.3 * (line.end[0] - line.start[0]),
          line.start[1] + 0.3 * (line.end[1] - line.start[1]),
        ]);
        const [cx, cy] = view.at(middle);
        const far = Math.hypot(cx - x, cy - y) || 1;
        // Outside the room, where nothing else is drawn.
        const at: XY = [x - ((cx - x) / far) * 26, y - ((cy - y) / far) * 26];
        return (
          <g key={line.number} data-wall={line.number}>
            <title>{`wall ${line.number}`}</title>
            <circle cx={at[0]} cy={at[1]} r={11} fill="var(--paper)" stroke="var(--ink)" />
            <HaloText at={at} ink="var(--ink)" size={14}>
              {String(line.number)}
            </HaloText>
          </g>
        );
      })}
    </g>
  );
}
