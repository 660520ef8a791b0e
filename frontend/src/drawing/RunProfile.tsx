import type { RunMark } from "../api/generated/solution";
import { path, useSize, type XY } from "./view";

const [LEFT, RIGHT, TOP, BOTTOM] = [10, 10, 8, 24];

/** The waste's run drawn out straight, from trap to stack: deck, timbers with the band in which a
 * hole may be, the pipe, the ceiling, and the branch. Heights are drawn larger. */
export function RunProfile({ run }: { run: RunMark }) {
  const [box, { width }] = useSize<SVGSVGElement>();
  const { profile } = run;
  const height = 200;
  const across = (width - LEFT - RIGHT) / Math.max(profile.length, 1);
  const up = (height - TOP - BOTTOM) / (profile.top - profile.bottom);
  const at = ([s, z]: XY): XY => [LEFT + s * across, TOP + (profile.top - z) * up];
  const half = profile.pipe / 2;
  const upper = profile.levels.map(([s, z]) => at([s, z + half]));
  const lower = profile.levels.map(([s, z]) => at([s, z - half])).reverse();
  const box_ = (s0: number, s1: number, z0: number, z1: number) =>
    path([at([s0, z0]), at([s1, z0]), at([s1, z1]), at([s0, z1])]);
  return (
    <svg
      ref={box}
      className="w-full block border border-base-300 rounded-box bg-base-100"
      height={height}
      role="img"
      aria-label={`Profile of the run: ${run.passed.map((p) => `${p.name}, ${p.level_text}`).join("; ") || "it passes no timber"}`}
    >
      {width > 0 && (
        <>
          <path d={box_(0, profile.length, -profile.deck, 0)} fill="var(--deck)" />
          {profile.timbers.map((timber) => (
            <g key={timber.start}>
              <path
                d={box_(timber.start, timber.end, timber.bottom, timber.top)}
                fill="var(--wood)"
                stroke="var(--ink)"
                strokeWidth={0.7}
              />
              {timber.low !== null && timber.high !== null && (
                <path
                  d={box_(timber.start, timber.end, timber.low - half, timber.high + half)}
                  fill="var(--paper)"
                  opacity={0.75}
                />
              )}
              {clearOf(at([(timber.start + timber.end) / 2, 0])[0], width) && (
                <text
                  x={at([(timber.start + timber.end) / 2, 0])[0]}
                  y={height - 8}
                  textAnchor="middle"
                  fontSize={14}
                  fill="var(--ink)"
                >
                  {timber.name.replace("joist ", "J")}
                </text>
              )}
            </g>
          ))}
          {profile.ceiling !== null && (
            <path
              d={path([at([0, profile.ceiling]), at([profile.length, profile.ceiling])], false)}
              stroke="var(--ink)"
              strokeWidth={3}
            />
          )}
          <path
            d={path([...upper, ...lower])}
            fill={run.fits ? "var(--deep)" : "var(--hazard)"}
            fillOpacity={0.75}
            stroke="var(--ink)"
          />
          {profile.branch !== null && (
            <path
              d={path(
                [
                  at([profile.length, profile.branch + half]),
                  at([profile.length, profile.branch - half]),
                ],
                false,
              )}
              stroke="var(--hazard)"
              strokeWidth={5}
            />
          )}
          <text x={LEFT} y={height - 8} fontSize={14} fill="var(--ink)">
            trap
          </text>
          <text x={width - RIGHT} y={height - 8} textAnchor="end" fontSize={14} fill="var(--ink)">
            stack
          </text>
        </>
      )}
    </svg>
  );
}

/** Whether a name at the foot keeps clear of "trap" and "stack". */
const clearOf = (x: number, width: number) => x > 52 && x < width - 58;
