import type { Solution } from "../api/client";
import type { View } from "./view";

/** Where the drain may lie so that every plane keeps the rule set. */
export function Places({ solution, view }: { solution: Solution; view: View }) {
  const corridor = solution.corridor;
  if (!corridor) return null;
  const size = corridor.stride * view.scale;
  return (
    <g aria-hidden data-part="places">
      {corridor.places.map((place) => {
        const [x, y] = view.at(place);
        return (
          <rect
            key={String(place)}
            x={x - size / 2}
            y={y - size / 2}
            width={size}
            height={size}
            fill="var(--entry)"
            opacity={0.42}
          />
        );
      })}
    </g>
  );
}
