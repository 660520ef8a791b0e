import type { TiledWalls as Tiled } from "../api/generated/solution";
import { TilePieces } from "./TilePieces";
import { UnfoldedWalls } from "./UnfoldedWalls";
import { path } from "./view";

/** The shower's walls with their tile, unfolded. */
export function TiledWalls({ walls }: { walls: Tiled }) {
  return (
    <UnfoldedWalls
      walls={walls.views}
      low={0}
      top={(wall) => wall.height}
      label={`Tiled walls from inside: ${walls.views.map((one) => `${one.name}, ${one.said}`).join("; ")}`}
    >
      {(wall, { at }) => (
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
        </g>
      )}
    </UnfoldedWalls>
  );
}
