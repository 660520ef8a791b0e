import { useState } from "react";
import { WallsDrawing } from "../../drawing/WallsDrawing";
import { useScreen } from "../../job/context";

/** The walls from inside, framed or boarded. */
export function Unfolded() {
  const { solution } = useScreen();
  const [boarded, board] = useState(false);
  const views = solution?.walls?.views;
  if (!views) return null;
  if (views.length === 0) {
    return <p className="p-4">No wall at the shower, and nothing hung on a wall.</p>;
  }
  return (
    <div className="absolute inset-0">
      <WallsDrawing walls={views} boarded={boarded} />
      {boarded && views.every((one) => one.boards.length === 0) && (
        <p className="absolute left-2 top-14 bg-base-100 p-1">
          Add a board to the shower walls to lay out boards.
        </p>
      )}
      <fieldset className="absolute left-2 top-2 join">
        <legend className="sr-only">Show</legend>
        {[false, true].map((which) => (
          <input
            key={String(which)}
            type="radio"
            name="walls shown"
            aria-label={which ? "Boards" : "Framing"}
            className="btn join-item h-11 lg:h-9 text-sm font-medium px-3 checked:bg-info! checked:text-info-content!"
            checked={boarded === which}
            onChange={() => board(which)}
          />
        ))}
      </fieldset>
    </div>
  );
}
