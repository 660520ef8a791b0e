import type { MembraneResult } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { path, type View } from "./view";

/** What is sealed, with every band, corner and collar; what is laid is pale. */
export function MembraneMarks({ view, membrane }: { view: View; membrane: MembraneResult }) {
  const wide = Math.max(membrane.band_width * view.scale * 0.5, 6);
  return (
    <g data-part="membrane" pointerEvents="none">
      <path
        d={path(membrane.outline.map(view.at))}
        fill="var(--sounding)"
        fillOpacity={0.14}
        stroke="var(--sounding)"
        strokeWidth={2}
        strokeDasharray="9 5"
      />
      {membrane.pieces.map((piece, i) => {
        const [from, to] = piece.places.map(view.at);
        if (!from) return null;
        if (piece.kind === "sheet") {
          return (
            <path
              key={piece.name}
              data-sheet
              d={path(piece.places.map(view.at))}
              fill={piece.laid ? "var(--sounding)" : "none"}
              fillOpacity={0.15}
              stroke="var(--ink)"
              strokeWidth={1}
              strokeDasharray="3 3"
            />
          );
        }
        const ink = piece.laid ? "var(--ink)" : "var(--hazard)";
        if (to) {
          const middle = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2] as [number, number];
          return (
            <g key={piece.name} data-band={piece.name}>
              <path
                d={path([from, to], false)}
                stroke={ink}
                strokeWidth={wide}
                opacity={piece.laid ? 0.18 : 0.45}
              />
              <HaloText at={middle} ink="var(--ink)" size={14}>
                {String(i + 1)}
              </HaloText>
            </g>
          );
        }
        if (piece.kind === "collar") {
          return (
            <circle
              key={piece.name}
              data-collar
              cx={from[0]}
              cy={from[1]}
              r={13}
              fill="none"
              stroke={ink}
              strokeWidth={4}
              opacity={piece.laid ? 0.25 : 0.8}
            />
          );
        }
        if (piece.kind === "upright" || piece.kind === "bench") return null;
        return (
          <rect
            key={piece.name}
            data-corner={piece.kind}
            x={from[0] - 7}
            y={from[1] - 7}
            width={14}
            height={14}
            fill={piece.kind === "inside corner" ? ink : "var(--paper)"}
            stroke={ink}
            strokeWidth={2}
            opacity={piece.laid ? 0.3 : 0.9}
          />
        );
      })}
    </g>
  );
}
