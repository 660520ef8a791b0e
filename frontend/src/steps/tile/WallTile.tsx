import { TiledWalls } from "../../drawing/TiledWalls";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { AddButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";

/** The tile of the shower's walls: its size and pattern, and how it begins on each wall. */
export function WallTile() {
  const { plan, solution, set } = useScreen();
  if (!plan.tiling.wall) {
    return (
      <AddButton what="wall tile" outlined>
        Add wall tile
      </AddButton>
    );
  }
  const walls = solution?.tile?.walls;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Wall tile</legend>
      <div className="fields">
        <MeasureField label="Wall tile length" path="/tiling/wall/length" />
        <MeasureField label="Wall tile width" path="/tiling/wall/width" />
        <MeasureField label="Wall joint" path="/tiling/wall/joint" />
      </div>
      <Choice
        label="Walls tiled"
        value={plan.tiling.walls}
        options={[
          { value: "shower", label: "At the shower" },
          { value: "all", label: "All walls" },
        ]}
        onChange={(walls) => set("/tiling/walls", walls)}
      />
      <Choice
        label="Wall pattern"
        value={plan.tiling.wall_pattern}
        options={[
          { value: "straight", label: "Straight" },
          { value: "half", label: "Half" },
          { value: "third", label: "Third" },
          { value: "hexagon", label: "Hexagon" },
        ]}
        onChange={(pattern) => set("/tiling/wall_pattern", pattern)}
      />
      <Sheets />
      <div className="fields items-end">
        <MeasureField
          label="Height of wall tile"
          covers={["/tiling/wall_height"]}
          value={walls?.height ?? 0}
          text={walls?.height_text ?? ""}
          onCommit={(height) => set("/tiling/wall_height", height)}
        />
        <button type="button" className="btn h-11" onClick={() => set("/tiling/wall", null)}>
          Remove wall tile
        </button>
      </div>
      {walls?.none_because ? (
        <p className="border-l-4 border-info bg-info/10 rounded-r-box p-3" role="status">
          {walls.none_because}
        </p>
      ) : (
        walls && (
          <ul className="list-disc pl-5 space-y-1" aria-label="How the wall tile begins">
            <li>{walls.said}.</li>
            {walls.views.map((one) => (
              <li key={one.name} className="first-letter:uppercase">
                {one.name}: {one.said}
              </li>
            ))}
            <li>{walls.narrowest}</li>
          </ul>
        )
      )}
    </fieldset>
  );
}

function Sheets() {
  const { plan, set } = useScreen();
  if (plan.tiling.wall_sheet == null) {
    return <AddButton what="wall tile sheets">Wall tile on sheets</AddButton>;
  }
  return (
    <div className="fields items-end">
      <MeasureField label="Wall sheet size" path="/tiling/wall_sheet" />
      <button type="button" className="btn h-11" onClick={() => set("/tiling/wall_sheet", null)}>
        Single wall tiles
      </button>
    </div>
  );
}

/** The walls with their tile, in place of the section. */
export function OnWalls() {
  const { solution } = useScreen();
  const walls = solution?.tile?.walls;
  if (!walls) return null;
  if (walls.views.length === 0) return <p className="p-4">{walls.none_because}</p>;
  return (
    <div className="absolute inset-0">
      <TiledWalls walls={walls} />
    </div>
  );
}
