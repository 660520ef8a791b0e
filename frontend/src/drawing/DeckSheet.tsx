import type { CutSheet } from "../api/generated/solution";
import { fitted, middleOf, path, useSize, type XY } from "./view";

const INK = {
  cleat: ["var(--ink)", "3 3"],
  "plate cleat": ["var(--sounding)", "8 3"],
  edge: ["var(--sounding)", undefined],
  blocking: ["var(--entry)", undefined],
  "added joist": ["var(--hazard)", undefined],
} as const;

/** The deck as it is cut: saw lines, the pieces that go back, cleats, blocking and the hole. */
export function DeckSheet({ sheet, hole }: { sheet: CutSheet; hole: XY[] | null }) {
  const [box, { width }] = useSize<SVGSVGElement>();
  const corners = sheet.saw_lines.map((line) => line.start);
  const height = 260;
  const view = fitted(corners, width || 1, height, 30);
  return (
    <svg
      ref={box}
      className="w-full block border border-base-300 rounded-box bg-base-100"
      height={height}
      role="img"
      aria-label={`Deck cut sheet: ${sheet.pieces.length} pieces go back, ${sheet.hole}`}
    >
      {width > 0 && (
        <>
          {sheet.pieces.map((piece, i) => {
            const [x, y] = view.at(middleOf(piece.outline));
            return (
              <g key={i}>
                <path
                  d={path(piece.outline.map(view.at))}
                  fill={piece.loose ? "var(--packing)" : "var(--deck)"}
                  stroke="var(--ink)"
                  strokeWidth={0.8}
                />
                <text
                  x={x}
                  y={y}
                  dy="0.35em"
                  textAnchor="middle"
                  fontSize={14}
                  fill="var(--ink)"
                  className="halo"
                >
                  {i + 1}
                </text>
              </g>
            );
          })}
          {sheet.battens.map((batten, i) => {
            const [ink, dash] = INK[batten.kind];
            return (
              <path
                key={i}
                d={path([batten.start, batten.end].map(view.at), false)}
                stroke={ink}
                strokeWidth={batten.kind === "cleat" ? 2 : 5}
                strokeDasharray={dash}
              />
            );
          })}
          {hole && (
            <path
              d={path(hole.map(view.at))}
              fill="var(--paper)"
              stroke="var(--hazard)"
              strokeWidth={2}
            />
          )}
          <path
            d={path(corners.map(view.at))}
            fill="none"
            stroke="var(--hazard)"
            strokeWidth={2.5}
            strokeDasharray="10 4"
          />
        </>
      )}
    </svg>
  );
}
