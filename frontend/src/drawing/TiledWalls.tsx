import type { TiledWalls as Tiled } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { TilePieces } from "./TilePieces";
import { UnfoldedWalls } from "./UnfoldedWalls";
import { path } from "./view";

/** The shower's walls with their tile, unfolded. */
export function TiledWalls({ walls }: { walls: Tiled }) {
  const top = Math.max(...walls.views.map((one) => one.height));
  return (
    <UnfoldedWalls
      walls={walls.views}
      low={0}
      top={top}
      label={`Tiled walls from inside: ${walls.views.map((one) => `${one.name}, ${one.said}`).join("; ")}`}
    >
      {(wall, { at }) => {
        const [left, floor] = at([0, 0]);
        const [right] = at([wall.length, 0]);
        return (
          <g data-tiled-wall={wall.name}>
            <TilePieces of={wall} at={at} />
            <path
              data-niches
              d={wall.niches.map((ring) => path(ring.map(at))).join("")}
              fill="var(--sounding)"
              fillOpacity={0.35}
              stroke="var(--ink)"
              strokeWidth={1.5}
            />
            <line x1={left} x2={right} y1={floor} y2={floor} stroke="var(--ink)" strokeWidth={2} />
            <HaloText at={[(left + right) / 2, floor + 15]} ink="var(--ink)" size={14}>
              {wall.name}
            </HaloText>
          </g>
        );
      }}
    </UnfoldedWalls>
  );
}
