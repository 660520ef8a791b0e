import { useId } from "react";
import { path, type XY } from "./view";

interface Rings {
  drawn_whole: readonly (readonly XY[])[];
  drawn_cut: readonly (readonly XY[])[];
  drawn_slivers: readonly (readonly XY[])[];
}

interface Props {
  of: Rings;
  at: (place: XY) => XY;
}

/** Tile piece by piece: whole tiles plain, cut ones hatched, slivers in the ink of what is wrong. */
export function TilePieces({ of, at }: Props) {
  const id = useId();
  const shapes = (rings: readonly (readonly XY[])[]) =>
    rings.map((ring) => path(ring.map(at))).join("");
  return (
    <g strokeLinejoin="round">
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
      <path
        data-pieces="whole"
        d={shapes(of.drawn_whole)}
        fill="var(--paper)"
        fillOpacity={0.9}
        stroke="var(--ink)"
        strokeWidth={0.9}
      />
      <path
        d={shapes([...of.drawn_cut, ...of.drawn_slivers])}
        fill="var(--paper)"
        fillOpacity={0.9}
      />
      <path
        data-pieces="cut"
        d={shapes(of.drawn_cut)}
        fill={`url(#${id}-cut)`}
        stroke="var(--ink)"
        strokeWidth={0.9}
      />
      <path
        data-pieces="sliver"
        d={shapes(of.drawn_slivers)}
        fill={`url(#${id}-sliver)`}
        stroke="var(--hazard)"
        strokeWidth={1.6}
      />
    </g>
  );
}
