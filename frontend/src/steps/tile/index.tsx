import { Grid3x3 } from "lucide-react";
import type { TileResult } from "../../api/generated/solution";
import type { Handle } from "../../drawing/handles";
import { TileMarks } from "../../drawing/TileMarks";
import type { Step } from "../step";
import { TileStep } from "./TileStep";
import { OnWalls } from "./WallTile";

/** Where two joints cross: the tile is moved by it. */
const origin = ({ origin: at, counted_from: [x0, y0], row: [u, v] }: TileResult): Handle => ({
  key: "tile",
  label: "Tile start",
  at,
  kind: "drain",
  snap: { xs: [], ys: [], walls: [] },
  move: (plan, [x, y]) => ({
    ...plan,
    tiling: {
      ...plan.tiling,
      along: (x - x0) * u + (y - y0) * v,
      across: (y - y0) * u - (x - x0) * v,
    },
  }),
});

export const tile: Step = {
  id: "tile",
  phase: "Finish",
  label: "Tile",
  icon: Grid3x3,
  fields: ["/shower/tile", "/tiling"],
  part: "tile",
  says: ({ tile }) => {
    if (!tile || tile.none_because) return null;
    const laid = [...tile.floors, ...(tile.walls?.tiled ? [tile.walls.tiled] : [])];
    return laid.some(({ slivers }) => slivers) ? "caution" : "clear";
  },
  answers: (solution) => (solution.tile?.floors[0] ? `${solution.tile.floors[0].buy} to buy` : ""),
  Panel: TileStep,
  below: (plan) => (plan.tiling.wall ? { label: "Walls", Drawing: OnWalls } : null),
  useChart: (plan, solution) => ({
    focus: plan.tiling.room ? "room" : "shower",
    handles: solution?.tile && !solution.tile.none_because ? [origin(solution.tile)] : [],
    bare: true,
    overlay: (view) => solution?.tile && <TileMarks view={view} tile={solution.tile} />,
  }),
};
