import { useId } from "react";
import type { FloorResult } from "../api/generated/solution";
import { along, type Box, clearance, inward, short } from "./clear";
import { SoundingFigures } from "./SoundingFigures";
import { edges, middleOf, path, type View, type XY } from "./view";

interface Props {
  room: XY[];
  floor: FloorResult;
  view: View;
  edge: { ends: [XY, XY]; at: XY; text: string } | null;
}

/** The floor that is there: tinted by how far it lies below its high spot, with its readings. */
export function Ground({ room, floor, view, edge }: Props) {
  const clip = useId();
  const { grid } = floor;
  const outline = room.map(view.at);
  const [middle, centre] = middleOf(outline);
  const deepest = Math.max(...grid.depths.map((depth) => depth ?? 0), 0.5);
  const cell = (i: number): XY => [
    grid.left + (i % grid.columns) * grid.width,
    grid.bottom + (Math.floor(i / grid.columns) + 1) * grid.height,
  ];
  const marks: [string, XY, string][] = [
    ["high", floor.high, "high spot"],
    ["low", floor.low, `low ${floor.range.text}`],
  ];
  return (
    <g aria-hidden>
      <clipPath id={clip}>
        <path d={path(outline)} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        {grid.depths.map((depth, i) => {
          if (depth === null) return null;
          const [x, y] = view.at(cell(i));
          const share = Math.min(100, Math.max(0, (depth / deepest) * 100));
          return (
            <rect
              key={i}
              x={x - 0.3}
              y={y - 0.3}
              width={grid.width * view.scale + 0.6}
              height={grid.height * view.scale + 0.6}
              fill={`color-mix(in oklab, var(--deep) ${share.toFixed(0)}%, var(--shallow))`}
              opacity={grid.read[i] ? 0.9 : 0.4}
            />
          );
        })}
      </g>
      {edge && (
        <g>
          <path
            data-line
            d={path(edge.ends.map(view.at), false)}
            stroke="var(--hazard)"
            strokeWidth={5}
            strokeLinecap="round"
          />
          <Tag
            at={view.at(edge.at)}
            text={`gap ${edge.text}`}
            below={view.at(edge.at)[1] < centre}
          />
        </g>
      )}
      {floor.cleats.map(({ joist, marks: [mark] }) => {
        if (!mark) return null;
        const [x, y] = view.at([mark.x, mark.y]);
        return (
          <text
            key={joist}
            x={x}
            y={y + (y < centre ? JOIST[0] : JOIST[1])}
            textAnchor="middle"
            fontSize={14}
            fill="var(--ink)"
            className="halo"
          >
            J{joist}
          </text>
        );
      })}
      <Readings room={room} floor={floor} view={view} edge={edge} />
      {marks.map(([key, at, text]) => {
        const [x, y] = view.at(at);
        const up = key === "high";
        return (
          <g key={key}>
            <path
              d={path(
                up
                  ? [
                      [x - 8, y + 6],
                      [x + 8, y + 6],
                      [x, y - 8],
                    ]
                  : [
                      [x - 8, y - 6],
                      [x + 8, y - 6],
                      [x, y + 8],
                    ],
              )}
              fill={up ? "var(--entry)" : "var(--hazard)"}
              stroke="var(--paper)"
              strokeWidth={1.5}
            />
            <text
              x={x + (x > middle ? -14 : 14)}
              y={y}
              dy="0.35em"
              textAnchor={x > middle ? "end" : "start"}
              fontSize={14}
              fontWeight={700}
              fill={up ? "var(--entry)" : "var(--hazard)"}
              className="halo"
            >
              {text}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** How far the name of a joist stands under or over its mark, pixels. */
const JOIST = [30, -22] as const;

function Tag({ at: [x, y], text, below }: { at: XY; text: string; below: boolean }) {
  const top = below ? y + 12 : y - 38;
  const width = text.length * 8 + 18;
  return (
    <g>
      <rect x={x - width / 2} y={top} width={width} height={26} rx={13} fill="var(--hazard)" />
      <text
        x={x}
        y={top + 13}
        dy="0.35em"
        textAnchor="middle"
        fontSize={15}
        fontWeight={700}
        fill="var(--paper)"
      >
        {text}
      </text>
    </g>
  );
}

/** Beside its place, where a line or a wall runs through it. */
const BESIDE: XY[] = [
  [0, -16],
  [0, 16],
  [-22, 0],
  [22, 0],
  [-22, -16],
  [22, -16],
  [-22, 16],
  [22, 16],
];

/** Handles at a straightedge's ends, and the tag with its gap, half of each in pixels. */
const [HANDLE, TAG] = [12, [52, 44] as const];

function Readings({ room, floor, view, edge }: Props) {
  const centre = middleOf(room.map(view.at));
  const lines = [...edges(room), ...(edge ? [edge.ends] : [])];
  const free = clearance([
    ...[floor.high, floor.low].map((at): Box => [...view.at(at), 30, 12]),
    ...floor.cleats.flatMap(({ marks: [mark] }): Box[] => {
      if (!mark) return [];
      const [x, y] = view.at([mark.x, mark.y]);
      return [[x, y + (y < centre[1] ? JOIST[0] : JOIST[1]) - 5, 14, 8]];
    }),
    ...lines.flatMap(([a, b]) => along(view.at(a), view.at(b))),
    ...(edge ? edge.ends.map((end): Box => [...view.at(end), HANDLE, HANDLE]) : []),
    ...(edge ? [[...view.at(edge.at), ...TAG] as Box] : []),
  ]);
  const shown = floor.soundings.flatMap(({ x, y, ...sounding }) => {
    const text = short(sounding.text);
    const of = view.at([x, y]);
    // Into the room rather than out of it.
    const at = free(of, text) ?? free(of, text, inward(BESIDE, of, centre));
    return at ? [{ at, of, text }] : [];
  });
  return <SoundingFigures soundings={shown} />;
}
