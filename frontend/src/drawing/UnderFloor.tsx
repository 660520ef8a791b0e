import type { Solution } from "../api/client";
import { useLights, useShown } from "../job/shown";
import { type Box, halfOf, put } from "./clear";
import { HaloText } from "./HaloText";
import { middleOf, path, type View, type XY } from "./view";

interface Props {
  solution: Solution;
  stack: XY | null;
  view: View;
}

/** Size of a timber's name, pixels. */
const NAME = 14;

const INK = { hole: 2.5, body: 1.4, flange: 1, channel: 1.8 };

/** What carries the floor, what the drain takes of it, what was found in it, and the waste's run. */
export function UnderFloor({ solution, stack, view }: Props) {
  const lights = useLights();
  const lit = useShown((shown) => shown.lit);
  const { structure, waste } = solution;
  if (!structure) return null;
  const run = waste?.run;
  const outline = run?.line.map(view.at) ?? [];
  const wide = Math.max((run?.profile.pipe ?? 50) * view.scale, 4);
  const ink = run?.fits ? "var(--entry)" : "var(--hazard)";
  // A name that would run into another one is left out.
  const taken: Box[] = [];
  return (
    <g aria-hidden data-part="under">
      {structure.timbers.map((timber, i) => {
        const corners = timber.outline.map(view.at);
        const joist = timber.kind === "joist";
        const [x, y] = ends(corners);
        const name = timber.number === null ? timber.kind : `J${timber.number}`;
        const free = put(taken, [[x, y]], halfOf(name, NAME), NAME / 2, 2);
        return (
          <g key={i} {...lights(timber.name)}>
            <path
              d={path(corners)}
              fill="var(--joist)"
              fillOpacity={lit === timber.name ? 0.75 : joist ? 0.22 : 0.45}
              stroke={joist ? "none" : "var(--ink)"}
              strokeDasharray={
                timber.kind === "girder" || timber.kind === "wall" ? "6 4" : undefined
              }
              data-timber={timber.name}
            />
            {(free || lit === timber.name) && (
              <text
                x={x}
                y={y}
                dy="0.35em"
                textAnchor="middle"
                fontSize={NAME}
                fontWeight={lit === timber.name ? 700 : 500}
                fill="var(--ink)"
                className="halo"
              >
                {name}
              </text>
            )}
          </g>
        );
      })}
      {structure.services.map((service, i) => (
        <g key={i} {...lights(service.name)}>
          <path d={path(service.strip.map(view.at))} fill="var(--hazard)" fillOpacity={0.12} />
          <path
            d={path(service.points.map(view.at), false)}
            fill="none"
            stroke="var(--hazard)"
            strokeWidth={lit === service.name ? 4 : 2}
            strokeDasharray="10 3 2 3"
          />
          {(lit === service.name || roomy(service.points.map(view.at), service.name)) && (
            <HaloText at={view.at(middle(service.points))} ink="var(--hazard)">
              {service.name}
            </HaloText>
          )}
        </g>
      ))}
      {run && (
        <g {...lights("run")} data-run={run.fits ? "fits" : "does not fit"}>
          <path
            d={path(outline, false)}
            fill="none"
            stroke={ink}
            strokeWidth={wide}
            opacity={0.28}
          />
          <path
            d={path(outline, false)}
            fill="none"
            stroke={ink}
            strokeWidth={lit === "run" ? 4 : 2.2}
            strokeDasharray={run.fits ? undefined : "10 5"}
          />
          {run.passed.map((passed) => {
            const [x, y] = view.at(passed.at);
            return passed.fits ? (
              <circle
                key={passed.distance}
                cx={x}
                cy={y}
                r={6}
                fill="var(--paper)"
                stroke={ink}
                strokeWidth={2.5}
              />
            ) : (
              <path
                key={passed.distance}
                d={`M${x - 8},${y - 8}L${x + 8},${y + 8}M${x - 8},${y + 8}L${x + 8},${y - 8}`}
                stroke="var(--hazard)"
                strokeWidth={3.5}
              />
            );
          })}
        </g>
      )}
      {structure.bodies.map((body, i) => {
        const met = body.meets.length > 0;
        return (
          <path
            key={i}
            data-body={body.part}
            data-meets={met ? "yes" : undefined}
            d={path(body.outline.map(view.at))}
            fill={met ? "var(--hazard)" : body.part === "hole" ? "var(--paper)" : "none"}
            fillOpacity={met ? 0.35 : 0.6}
            stroke={met ? "var(--hazard)" : "var(--ink)"}
            strokeWidth={met ? 3 : INK[body.part]}
            strokeDasharray={body.part === "flange" ? "5 3" : undefined}
          />
        );
      })}
      {stack && <Stack at={view.at(stack)} />}
    </g>
  );
}

function Stack({ at: [x, y] }: { at: XY }) {
  return (
    <g>
      <circle cx={x} cy={y} r={10} fill="var(--paper)" stroke="var(--ink)" strokeWidth={2.5} />
      <path
        d={`M${x - 5},${y}H${x + 5}M${x},${y - 5}V${y + 5}`}
        stroke="var(--ink)"
        strokeWidth={2}
      />
      <HaloText at={[x, y - 20]} ink="var(--ink)">
        stack
      </HaloText>
    </g>
  );
}

/** Whether a line's first stretch is longer than its name, pixels. */
function roomy([a, b]: XY[], name: string): boolean {
  return !!a && !!b && Math.hypot(b[0] - a[0], b[1] - a[1]) > name.length * 9;
}

const middle = (points: XY[]): XY => middleOf(points.slice(0, 2));

/** Where a timber's name stands: inside, near its lower or left end. */
function ends(corners: XY[]): XY {
  const xs = corners.map((c) => c[0]);
  const ys = corners.map((c) => c[1]);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [top, bottom] = [Math.min(...ys), Math.max(...ys)];
  const upright = bottom - top > right - left;
  return upright ? [(left + right) / 2, bottom - 16] : [left + 18, (top + bottom) / 2];
}
