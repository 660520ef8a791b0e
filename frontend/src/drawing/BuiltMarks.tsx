import type { AsBuilt } from "../api/generated/as-built";
import type { Look } from "../job/shown";
import { type Box, clearance, halfOf } from "./clear";
import { HaloText } from "./HaloText";
import { path, type View, type XY } from "./view";

interface Props {
  view: View;
  built: AsBuilt;
  look: Look;
  /** Readings that are not in the log yet. */
  draft: { at: XY; text: string }[];
}

/** The strongest tint of a difference, and the difference from which on it is as strong, mm. */
const [STRONGEST, FULL] = [0.75, 8];

/** Half of a reading's dot, and the size of its figure, pixels. */
const [DOT, SIZE] = [4, 15];

/** What the floor is off by: over the plan in one ink, under it in another, with the readings. */
export function BuiltMarks({ view, built, look, draft }: Props) {
  // What is out and what is read next is told of the floor as it is.
  const after = look === "after";
  const cells = after ? built.work?.after : built.map;
  // One scale for the floor before and after, so that what is put right looks it.
  const most = Math.max(...(built.map?.off ?? []).map((off) => Math.abs(off ?? 0)), 1);
  const full = Math.min(most, FULL);
  const dots = [...built.readings, ...draft].map(({ at }): Box => [...view.at(at), DOT, DOT]);
  const clear = clearance(dots);
  return (
    <g data-built-marks={look} data-part="built">
      {look !== "built" &&
        cells?.off.map((off, i) => {
          if (off === null) return null;
          const x = cells.left + (i % cells.columns) * cells.size;
          const y = cells.bottom + Math.floor(i / cells.columns) * cells.size;
          const corners: XY[] = [
            [x, y],
            [x + cells.size, y],
            [x + cells.size, y + cells.size],
            [x, y + cells.size],
          ];
          return (
            <path
              key={i}
              d={path(corners.map(view.at))}
              fill={off > 0 ? "var(--hazard)" : "var(--sounding)"}
              opacity={Math.min(Math.abs(off) / full, 1) * STRONGEST}
              shapeRendering="crispEdges"
            />
          );
        })}
      {!after &&
        built.planes.map(
          ({ hollow_from, hollow_to, hollow_text }) =>
            hollow_from &&
            hollow_to && (
              <path
                key={`${hollow_from}`}
                d={path([hollow_from, hollow_to].map(view.at))}
                stroke="var(--hazard)"
                strokeWidth={3}
                strokeDasharray="10 5"
                fill="none"
              >
                <title>{hollow_text}</title>
              </path>
            ),
        )}
      {!after &&
        built.puddles.map(({ at, text }) => {
          const [x, y] = view.at(at);
          return (
            <circle
              key={text}
              cx={x}
              cy={y}
              r={16}
              fill="none"
              stroke="var(--hazard)"
              strokeWidth={3}
            >
              <title>{text}</title>
            </circle>
          );
        })}
      {built.readings.map((reading) => {
        const at = view.at(reading.at);
        const text = look === "built" ? reading.height_text : reading.off_text;
        const side = halfOf(text, SIZE) + DOT + 4;
        const shifts: XY[] = [
          [0, -16],
          [0, 18],
          [side, 0],
          [-side, 0],
        ];
        const place = after ? null : clear(at, text, shifts, SIZE);
        return (
          <g key={`${reading.at}`} data-reading={reading.off.toFixed(1)}>
            <circle cx={at[0]} cy={at[1]} r={DOT} fill="var(--ink)" stroke="var(--paper)" />
            {place && (
              <HaloText at={place} ink="var(--ink)" size={SIZE}>
                {text}
              </HaloText>
            )}
          </g>
        );
      })}
      {draft.map(({ at, text }) => {
        const [x, y] = view.at(at);
        return (
          <g key={`${at} ${text}`} data-draft={text}>
            <circle cx={x} cy={y} r={6} fill="var(--paper)" stroke="var(--ink)" strokeWidth={2} />
            <HaloText at={[x, y - 16]} ink="var(--ink)" size={SIZE}>
              {text}
            </HaloText>
          </g>
        );
      })}
      {!after &&
        built.next.map((at, i) => {
          const [x, y] = view.at(at);
          return (
            <g key={`${at}`} data-next={i + 1}>
              <circle
                cx={x}
                cy={y}
                r={10}
                fill="var(--paper)"
                stroke="var(--entry)"
                strokeWidth={2.5}
                strokeDasharray="4 3"
              />
              <HaloText at={[x, y]} ink="var(--entry)" size={14}>
                ?
              </HaloText>
            </g>
          );
        })}
    </g>
  );
}
