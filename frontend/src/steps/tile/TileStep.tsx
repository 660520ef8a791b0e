import { CircleCheck, TriangleAlert } from "lucide-react";
import type { TiledFloor, TileResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { AddButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { Notes } from "../../ui/Notes";
import { NumberField } from "../../ui/NumberField";
import { WhyButton } from "../../ui/WhyButton";
import { BestOrigin } from "./BestOrigin";
import { WallTile } from "./WallTile";

/** How the tile lies, how many there are and which of them are cut. */
export function TileStep() {
  const { plan, solution } = useScreen();
  if (solution && !solution.complete) return <p>Tile is laid out once the falls work.</p>;
  const tile = solution?.tile;
  const { tile: chosen } = plan.shower;
  return (
    <div className="space-y-5">
      {chosen && <TileSize />}
      {tile && <Verdict tile={tile} />}
      {!tile && <p aria-busy>Working…</p>}
      {chosen ? (
        <>
          {tile && !tile.none_because && <BestOrigin />}
          <HowItLies />
          <Layout hexagon={plan.tiling.pattern === "hexagon"} />
          <RoomTile />
        </>
      ) : (
        <AddButton what="tile" outlined>
          Choose a tile
        </AddButton>
      )}
      <WallTile />
      {laidOf(tile).map((floor) => (
        <Pieces key={floor.name} floor={floor} />
      ))}
      {tile && tile.meets.length > 0 && (
        <section aria-label="Tile edges">
          <h2 className="font-semibold mb-1">Tile edges</h2>
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {tile.meets.map((row) => (
              <li key={row.name} className="py-1.5">
                <span className="first-letter:uppercase inline-block">{row.name}</span>:{" "}
                <span className="font-semibold">{row.text}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <Folds />
      {tile && <Notes title="Laying the tile" notes={tile.notes} />}
    </div>
  );
}

/** All that is laid out: floors, and the walls as one. */
const laidOf = (tile: TileResult | null | undefined): TiledFloor[] => [
  ...(tile?.floors ?? []),
  ...(tile?.walls?.tiled ? [tile.walls.tiled] : []),
];

function Verdict({ tile }: { tile: TileResult }) {
  const laid = laidOf(tile);
  if (tile.none_because && laid.length === 0) {
    return (
      <p
        className="border-l-4 border-info bg-info/10 rounded-r-box p-3 font-semibold"
        role="status"
      >
        {tile.none_because}
      </p>
    );
  }
  const bad = laid.some(({ slivers }) => slivers > 0);
  const badFloor = tile.floors.some(({ slivers }) => slivers > 0);
  const badWalls = (tile.walls?.tiled?.slivers ?? 0) > 0;
  // Of a floor that has no tile yet nothing can agree.
  const open = tile.none_because !== "";
  const tone = bad
    ? "border-warning bg-warning/10"
    : open
      ? "border-info bg-info/10"
      : "border-success bg-success/10";
  const Icon = badFloor ? TriangleAlert : CircleCheck;
  return (
    <section aria-label="How many tiles" className={`border-l-4 rounded-r-box p-3 ${tone}`}>
      {laid.map((floor) => (
        <div key={floor.name} className="flex items-start gap-2" data-floor={floor.name}>
          <p className="flex-1">
            <strong className="block text-lg leading-snug" data-buy={floor.buy}>
              {floor.name}: {floor.buy_text}
            </strong>
            {floor.made_text}
          </p>
          <WhyButton of={`${floor.name}, to buy`} text={floor.buy_text} working={floor.working} />
        </div>
      ))}
      <p className="flex gap-2 items-start mt-1 leading-snug" data-narrowest>
        {!open && (
          <Icon
            size={22}
            className={`shrink-0 ${badFloor ? "text-warning" : "text-success"}`}
            aria-hidden
          />
        )}
        {tile.none_because || tile.narrowest_text}
      </p>
      {badWalls && (
        <p className="flex gap-2 items-start mt-1 leading-snug" data-narrowest-wall>
          <TriangleAlert size={22} className="shrink-0 text-warning" aria-hidden />
          Walls: {tile.walls?.narrowest}
        </p>
      )}
    </section>
  );
}

function TileSize() {
  return (
    <fieldset>
      <legend className="font-semibold mb-1">Shower tile</legend>
      <div className="fields">
        <MeasureField label="Length" path="/shower/tile/length" />
        <MeasureField label="Width" path="/shower/tile/width" />
        <MeasureField label="Joint" path="/shower/tile/joint" />
      </div>
    </fieldset>
  );
}

function HowItLies() {
  const { set } = useScreen();
  return (
    <div className="space-y-2">
      <div className="fields items-end">
        <NumberField label="Angle to entry, °" path="/shower/tile/turn" />
        <button type="button" className="btn h-11" onClick={() => set("/shower/tile", null)}>
          Remove tile
        </button>
      </div>
      <Sheets />
    </div>
  );
}

function Sheets() {
  const { plan, set } = useScreen();
  if (plan.tiling.sheet == null) {
    return <AddButton what="tile sheets">Tile on sheets</AddButton>;
  }
  return (
    <div className="fields items-end">
      <MeasureField label="Sheet size" path="/tiling/sheet" />
      <button type="button" className="btn h-11" onClick={() => set("/tiling/sheet", null)}>
        Single tiles
      </button>
    </div>
  );
}

function Layout({ hexagon }: { hexagon: boolean }) {
  const { plan, set } = useScreen();
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Layout</legend>
      <Choice
        label={hexagon ? "Pattern, hexagon length flat to flat" : "Pattern"}
        value={plan.tiling.pattern}
        options={[
          { value: "straight", label: "Straight" },
          { value: "half", label: "Half" },
          { value: "third", label: "Third" },
          { value: "hexagon", label: "Hexagon" },
        ]}
        onChange={(pattern) => set("/tiling/pattern", pattern)}
      />
      <div className="fields">
        <MeasureField label="Shift along tile" path="/tiling/along" />
        <MeasureField label="Shift across tile" path="/tiling/across" />
      </div>
      <OnDrain />
      <p className="text-sm">
        {hexagon ? "A hexagon is centred" : "Two joints cross"} on the drain centre, shifted by
        this. Drag the ring on the chart to move it.
      </p>
    </fieldset>
  );
}

/** Puts a crossing of joints, or the middle of a tile, on the drain. */
function OnDrain() {
  const { solution, apply } = useScreen();
  const { on_joints: joints, on_tile: tile } = solution?.tile ?? {};
  if (!joints?.length || !tile?.length) return null;
  return (
    <div className="fields">
      <button type="button" className="btn h-11 flex-1" onClick={() => apply([...joints])}>
        Joints on drain
      </button>
      <button type="button" className="btn h-11 flex-1" onClick={() => apply([...tile])}>
        Tile on drain
      </button>
    </div>
  );
}

function RoomTile() {
  const { plan, set } = useScreen();
  if (!plan.tiling.room) {
    return (
      <AddButton what="room tile" outlined>
        Add room tile
      </AddButton>
    );
  }
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Room tile</legend>
      <div className="fields">
        <MeasureField label="Room tile length" path="/tiling/room/length" />
        <MeasureField label="Room tile width" path="/tiling/room/width" />
        <MeasureField label="Room joint" path="/tiling/room/joint" />
      </div>
      <div className="fields items-end">
        <NumberField label="Room angle, °" path="/tiling/room/turn" />
        <button type="button" className="btn h-11" onClick={() => set("/tiling/room", null)}>
          Remove room tile
        </button>
      </div>
      <p className="text-sm">
        With the same size, joint and angle its joints line up with the shower’s.
      </p>
    </fieldset>
  );
}

/** Which pieces are cut: what is set up on the saw once for all of a size. */
function Pieces({ floor }: { floor: TiledFloor }) {
  if (floor.sizes.length === 0) return null;
  return (
    <section aria-label={`Cuts, ${floor.name}`}>
      <h2 className="font-semibold">Cuts: {floor.name}</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {floor.sizes.map((piece) => (
          <li key={`${piece.text} ${piece.sliver}`} className="flex gap-3 py-1">
            <span className="w-12 shrink-0 text-right font-semibold">{piece.count} ×</span>
            <span className="flex-1">{piece.text}</span>
            {piece.sliver && <span className="text-error font-semibold">sliver</span>}
          </li>
        ))}
      </ul>
      {floor.sizes_left > 0 && <p className="text-sm">and {floor.sizes_left} of other sizes</p>}
    </section>
  );
}

function Folds() {
  const { solution } = useScreen();
  return (
    <section aria-label="Tile on the folds">
      <h2 className="font-semibold mb-1">Tile on the folds</h2>
      <ul className="space-y-1" aria-live="polite">
        {solution?.surface?.tile_notes.map((note) => (
          <li key={note}>{note}</li>
        ))}
      </ul>
    </section>
  );
}
