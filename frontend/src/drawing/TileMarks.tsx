import { useId } from "react";
import type { TileResult } from "../api/generated/solution";
import { path, type View, type XY } from "./view";

interface Props {
  view: View;
  tile: TileResult;
}

const whole = (rings: readonly (readonly XY[])[], view: View) =>
  rings.map((ring) => path(ring.map(view.at))).join("");

/** The tile piece by piece: whole tiles plain, cut ones hatched, slivers in the ink of what is wrong. */
export function TileMarks({ view, tile }: Props) {
  const id = useId();
  return (
    <g data-part="tile" pointerEvents="none">
      <defs>
        <pattern
          id={`${id}-cut`}
          width={7}
          height={7}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V7" stroke="var(--ink)" strokeWidth={1} opacity={0.45} />
        </pattern>
        <pattern
          id={`${id}-sliver`}
          width={5}
          height={5}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(-45)"
        >
          <path d="M0 0V5" stroke="var(--hazard)" strokeWidth={2.5} />
        </pattern>
      </defs>
      {tile.floors.map((floor) => (
        <g key={floor.name} data-tiled={floor.name} strokeLinejoin="round">
          <path
            data-pieces="whole"
            d={whole(floor.drawn_whole, view)}
            fill="var(--paper)"
            fillOpacity={0.9}
            stroke="var(--ink)"
            strokeWidth={0.9}
          />
          <path
            d={whole([...floor.drawn_cut, ...floor.drawn_slivers], view)}
            fill="var(--paper)"
            fillOpacity={0.9}
          />
          <path
            data-pieces="cut"
            d={whole(floor.drawn_cut, view)}
            fill={`url(#${id}-cut)`}
            stroke="var(--ink)"
            strokeWidth={0.9}
          />
          <path
            data-pieces="sliver"
            d={whole(floor.drawn_slivers, view)}
            fill={`url(#${id}-sliver)`}
            stroke="var(--hazard)"
            strokeWidth={1.6}
          />
        </g>
      ))}
    </g>
  );
}
