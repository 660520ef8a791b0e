import type { Solution } from "../api/client";
import { useLights, useShown } from "../job/shown";
import { type Box, put } from "./clear";
import { HaloText } from "./HaloText";
import { Light } from "./Light";
import { middleOf, path, type View } from "./view";

interface Props {
  solution: Solution;
  view: View;
  running: boolean;
}

/** The ways of drops over the finished floor, where they gather, and hazards where water stands. */
export function Runoff({ solution, view, running }: Props) {
  const lights = useLights();
  const lit = useShown((shown) => shown.lit);
  const water = solution.water;
  if (!water) return null;
  const rim = solution.drawing.rims[0] ?? [];
  const middle = middleOf(rim);
  // Drops that gather near one another are told once.
  const taken: Box[] = [];
  return (
    <g aria-hidden data-part="runoff">
      {water.runs.map((run, i) => {
        const d = path(run.points.map(view.at), false);
        const ink = run.ends === "drain" ? "var(--sounding)" : "var(--hazard)";
        return (
          <g key={i} fill="none" stroke={ink} strokeLinecap="round">
            <path d={d} strokeWidth={1} opacity={0.35} />
            <path
              d={d}
              className={running ? "drop" : undefined}
              strokeWidth={2}
              strokeDasharray="7 49"
              strokeDashoffset={running ? undefined : -(i * 17) % 56}
              style={{ animationDelay: `${-(i * 0.37) % 2.2}s` }}
            />
          </g>
        );
      })}
      {water.gatherings.map((gathering, i) => {
        const name = `gathering ${i}`;
        const [x, y] = view.at([gathering.x, gathering.y]);
        const [mx, my] = view.at(middle);
        const away = Math.hypot(x - mx, y - my) || 1;
        const out = (28 + away) / away;
        const told = put(taken, [[mx + (x - mx) * out, my + (y - my) * out]], 18, 9);
        return (
          <g key={`${gathering.x},${gathering.y}`} {...lights(name)}>
            <Light at={[x, y]} on={lit === name} />
            <circle cx={x} cy={y} r={4} fill="var(--sounding)" />
            {told && (
              <HaloText at={told} ink="var(--sounding)">
                {gathering.text}
              </HaloText>
            )}
          </g>
        );
      })}
      {water.puddles.slice(0, 12).map((puddle, i) => {
        const name = `puddle ${i}`;
        const [x, y] = view.at([puddle.x, puddle.y]);
        return (
          <g key={`${puddle.x},${puddle.y}`} data-part="puddle" {...lights(name)}>
            <Light at={[x, y]} on={lit === name} />
            <circle
              cx={x}
              cy={y}
              r={Math.max(10, Math.sqrt(puddle.area / Math.PI) * view.scale)}
              fill="var(--hazard)"
              fillOpacity={0.2}
              stroke="var(--hazard)"
              strokeWidth={2}
              strokeDasharray="4 3"
            />
            <HaloText at={[x, y]} ink="var(--hazard)" size={15}>
              {puddle.text}
            </HaloText>
          </g>
        );
      })}
    </g>
  );
}
