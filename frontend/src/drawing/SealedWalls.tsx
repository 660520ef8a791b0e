import type { MembraneResult } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { UnfoldedWalls } from "./UnfoldedWalls";
import { path } from "./view";

/** What of the shower's walls is sealed, unfolded: bands at the foot and up the corners, niches,
 * pipes, patches over fasteners. */
export function SealedWalls({ membrane }: { membrane: MembraneResult }) {
  const { walls, band_width: band } = membrane;
  return (
    <UnfoldedWalls
      walls={walls}
      low={0}
      top={(wall) => Math.max(...wall.sealed.map((one) => one.height))}
      label={`Sealed walls from inside: ${walls.map((one) => one.name).join(", ")}`}
    >
      {(wall, { at, rect, scale }) => {
        const [, floor] = at([0, 0]);
        const half = (band / 2) * scale;
        return (
          <g data-sealed={wall.name}>
            {wall.sealed.map((one) => {
              const { x, y, width, height } = rect(one);
              const ends = [one.x < 1, one.x + one.width > wall.length - 1];
              return (
                <g key={one.x}>
                  <rect
                    {...{ x, y, width, height }}
                    fill="var(--sounding)"
                    fillOpacity={0.14}
                    stroke="var(--sounding)"
                    strokeWidth={2}
                    strokeDasharray="9 5"
                  />
                  <rect
                    x={x}
                    y={floor - half}
                    width={width}
                    height={half}
                    fill="var(--hazard)"
                    opacity={0.45}
                  />
                  {ends.map(
                    (end, i) =>
                      end && (
                        <rect
                          key={i === 0 ? "left" : "right"}
                          data-upright
                          x={i === 0 ? x : x + width - half}
                          y={y}
                          width={half}
                          height={height}
                          fill="var(--hazard)"
                          opacity={0.45}
                        />
                      ),
                  )}
                </g>
              );
            })}
            {wall.joints.map((ends) => (
              <path
                key={String(ends)}
                data-joint
                d={path(ends.map(at), false)}
                stroke="var(--hazard)"
                strokeWidth={Math.max(half, 3)}
                opacity={0.45}
              />
            ))}
            {wall.patches.map((place) => {
              const [x, y] = at(place);
              const size = band * scale;
              return (
                <rect
                  key={String(place)}
                  data-patch
                  x={x - size / 2}
                  y={y - size / 2}
                  width={size}
                  height={size}
                  fill="var(--paper)"
                  fillOpacity={0.8}
                  stroke="var(--hazard)"
                  strokeWidth={1}
                />
              );
            })}
            {wall.niches.map((one) => {
              const { x, y, width, height } = rect(one);
              return (
                <g key={one.text}>
                  <rect
                    {...{ x, y, width, height }}
                    fill="var(--paper)"
                    stroke="var(--hazard)"
                    strokeOpacity={0.6}
                    strokeWidth={Math.max(half, 3)}
                  />
                  <HaloText at={[x + width / 2, y + height / 2]} ink="var(--ink)" size={14}>
                    {one.text}
                  </HaloText>
                </g>
              );
            })}
            {wall.pipes.map((place) => {
              const [x, y] = at(place);
              return (
                <circle
                  key={String(place)}
                  data-pipe
                  cx={x}
                  cy={y}
                  r={9}
                  fill="var(--paper)"
                  stroke="var(--hazard)"
                  strokeWidth={4}
                />
              );
            })}
          </g>
        );
      }}
    </UnfoldedWalls>
  );
}
