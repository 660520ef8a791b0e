import { SealedWalls } from "../../drawing/SealedWalls";
import { useScreen } from "../../job/context";

/** The shower's walls with what of them is sealed. */
export function OnWalls() {
  const { solution } = useScreen();
  const membrane = solution?.membrane;
  if (!membrane) return null;
  if (membrane.walls.length === 0) return <p className="p-4">No wall at the shower.</p>;
  return (
    <div className="absolute inset-0">
      <SealedWalls membrane={membrane} />
    </div>
  );
}
