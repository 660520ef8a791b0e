import type { TileResult } from "../api/generated/solution";
import { TilePieces } from "./TilePieces";
import type { View } from "./view";

interface Props {
  view: View;
  tile: TileResult;
}

/** The tile of every floor, piece by piece. */
export function TileMarks({ view, tile }: Props) {
  return (
    <g data-part="tile" pointerEvents="none">
      {tile.floors.map((floor) => (
        <g key={floor.name} data-tiled={floor.name}>
          <TilePieces of={floor} at={view.at} />
        </g>
      ))}
    </g>
  );
}
