import { scaleLinear } from "d3-scale";
import { type ReactNode, useId } from "react";
import type { Plan, Solution } from "../api/client";
import type { FloorSurface, Plane } from "../api/generated/solution";
import { along, type Box, clearance, inward, put, short } from "./clear";
import { type Sounding, SoundingFigures } from "./SoundingFigures";
import { type Side, SideText, sideLabels } from "./sides";
import { edges, holds, middleOf, path, type View, type XY } from "./view";

interface Props {
  plan: Plan;
  solution: Solution;
  view: View;
  /** Whether the sides carry their numbers and lengths. */
  measured: boolean;
  /** Whether planes and places carry their figures. */
  labelled: boolean;
  /** What is taken on the drawing by what is drawn later. */
  taken: Box[];
  /** Whether entries are named inside the shower: outside stand the room's walls. */
  within: boolean;
  /** What is drawn over the floor and beneath its figures. */
  children?: ReactNode;
}

const INK = { stop: "var(--hazard)", caution: "var(--caution)" };

/** The shower as shallow water: tints by depth, contours, folds, soundings, drain and entry. */
export function Floor({
  plan,
  solution,
  view,
  measured,
  labelled,
  taken,
  within,
  children,
}: Props) {
  const id = useId();
  const surface = solution.surface;
  const { room_level, entry_level } = solution.figures;
  const datum = (plan.shower.rest ? room_level : entry_level).value ?? 0;
  const outline = plan.shower.outline.map(view.at);
  const rims = solution.drawing.rims.map((rim) => rim.map(view.at));
  const kept: Box[] = [
    ...taken,
    ...rims.map((rim): Box => {
      const middle = middleOf(rim);
      const half = (axis: 0 | 1) => Math.max(...rim.map((p) => Math.abs(p[axis] - middle[axis])));
      return [...middle, half(0), half(1)];
    }),
  ];
  const sides = sideLabels(sidesOf(), plan.shower.outline, view, kept);
  function sidesOf() {
    const { shower_names: names, shower_sides: lengths } = solution.drawing;
    return edges(plan.shower.outline).map((edge, i): Side => {
      const entry = plan.shower.entries.includes(i);
      const parts = measured ? [`side ${i + 1}`, names[i], lengths[i]].filter(Boolean) : [];
      if (entry && labelled) parts.push(`entry ${solution.figures.step_at_entry.text}`);
      return {
        edge,
        text: parts.join(" · "),
        short: parts.at(-1),
        offset: entry && within ? -18 : 22,
        ink: entry ? "var(--entry)" : undefined,
      };
    });
  }
  const falls = labelled && surface ? placed(surface.planes, view, kept) : [];
  return (
    <g aria-hidden>
      <defs>
        <pattern
          id={`${id}-hatch`}
          width={9}
          height={9}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <line x1={0} y1={0} x2={0} y2={9} stroke="var(--hazard)" strokeWidth={1.6} />
        </pattern>
      </defs>
      {surface ? (
        <>
          <g data-part="tints">
            {surface.planes.map((plane, i) => (
              <PlaneTint
                key={i}
                id={`${id}-tint-${i}`}
                hatch={`url(#${id}-hatch)`}
                plane={plane}
                surface={surface}
                datum={datum}
                view={view}
              />
            ))}
          </g>
          <g fill="none" stroke="var(--contour)" strokeWidth={0.8} data-part="contours">
            {surface.contours.flatMap((contour) =>
              contour.lines.map((line) => (
                <path key={`${contour.depth} ${line[0]}`} d={path(line.map(view.at), false)} />
              )),
            )}
          </g>
          <g stroke="var(--sounding)" strokeWidth={1.3} strokeDasharray="7 4" data-part="folds">
            {surface.folds.map((fold) => (
              <path
                data-line
                key={`${fold.start}${fold.end}`}
                d={path([view.at(fold.start), view.at(fold.end)], false)}
                strokeDasharray={fold.valley ? undefined : "1.5 4"}
                {...(fold.cut && {
                  stroke: "var(--hazard)",
                  strokeWidth: 2.4,
                  strokeDasharray: "14 4 3 4",
                })}
              />
            ))}
          </g>
        </>
      ) : (
        <path d={path(outline)} fill={`url(#${id}-hatch)`} opacity={0.5} />
      )}
      <path
        data-line
        d={path(outline)}
        fill="none"
        stroke="var(--sounding)"
        strokeWidth={2.2}
        strokeLinejoin="round"
      />
      <g stroke="var(--entry)" strokeWidth={6} strokeLinecap="butt">
        {solution.drawing.entries.map(([a, b]) => (
          <path key={`${a}${b}`} d={path([view.at(a), view.at(b)], false)} />
        ))}
      </g>
      {rims.map((rim) => (
        <g key={String(rim)}>
          <path data-part="rim" d={path(rim)} fill="var(--ink)" />
          <Slots rim={rim} />
        </g>
      ))}
      <Outlet plan={plan} at={solution.drawing.outlet} view={view} />
      {children}
      {surface && labelled && (
        <Soundings
          solution={solution}
          surface={surface}
          view={view}
          outline={outline}
          taken={kept}
        />
      )}
      <g data-part="falls">
        {falls.map(({ plane, at }) => (
          <PlaneLabel key={plane.name} plane={plane} at={at} />
        ))}
      </g>
      {sides.map((label) => (
        <SideText key={label.side} label={label} />
      ))}
    </g>
  );
}

/** Tint of one plane: bands between its contours, which lie square to the way it falls. */
function PlaneTint({
  id,
  hatch,
  plane,
  surface,
  datum,
  view,
}: {
  id: string;
  hatch: string;
  plane: Plane;
  surface: FloorSurface;
  datum: number;
  view: View;
}) {
  const tint = scaleLinear<number>()
    .domain([surface.shallowest, Math.max(surface.deepest, surface.shallowest + 0.1)])
    .range([0, 100]);
  const mix = (depth: number) =>
    `color-mix(in oklab, var(--deep) ${Math.round(Math.min(100, Math.max(0, tint(depth))))}%, var(--shallow))`;
  const d = path(plane.polygon.map(view.at));
  const high = Math.max(...plane.heights);
  const low = Math.min(...plane.heights);
  const top = plane.polygon[plane.heights.indexOf(high)] as XY;
  const level = plane.gradient < 1e-9;
  const run = level ? 0 : (high - low) / plane.gradient;
  const foot: XY = [top[0] + plane.downhill[0] * run, top[1] + plane.downhill[1] * run];
  const [x1, y1] = view.at(top);
  const [x2, y2] = view.at(foot);
  const from = datum - high;
  const to = datum - low;
  const stops = surface.contours
    .map((c) => c.depth)
    .filter((depth) => depth > from && depth < to)
    .sort((a, b) => a - b);
  const bounds = [from, ...stops, to];
  const step = surface.contour_interval;
  const band = (depth: number) => (Math.floor(depth / step + 1e-9) + 0.5) * step;
  return (
    <>
      {!level && (
        <linearGradient id={id} gradientUnits="userSpaceOnUse" x1={x1} y1={y1} x2={x2} y2={y2}>
          {bounds.slice(0, -1).flatMap((start, i) => {
            const end = bounds[i + 1] as number;
            const color = mix(Math.min(band((start + end) / 2), surface.deepest));
            const share = (depth: number) => (depth - from) / (to - from || 1);
            return [
              <stop key={`${start}a`} offset={share(start)} stopColor={color} />,
              <stop key={`${start}b`} offset={share(end)} stopColor={color} />,
            ];
          })}
        </linearGradient>
      )}
      <path
        d={d}
        fill={level ? mix(to) : `url(#${id})`}
        stroke={level ? mix(to) : `url(#${id})`}
        strokeWidth={0.8}
      />
      {(plane.severity === "stop" || level) && <path d={d} fill={hatch} opacity={0.3} />}
    </>
  );
}

/** How far a fall may stand from its usual place in its plane, pixels, and in how many ways. */
const [OFF, WAYS] = [[0, 22, 44, 66], 8];

const bubble = (plane: Plane) => plane.text.length * 8.4 + 16;

/** Where the fall of each plane stands clear of all that is taken, in its plane; it takes its place
 * then. A narrow plane leaves it to a neighbour that falls alike. */
function placed(planes: Plane[], view: View, taken: Box[]) {
  const found: { plane: Plane; at: XY }[] = [];
  for (const plane of planes) {
    if (!plane.labelled) continue;
    const polygon = plane.polygon.map(view.at);
    const size = ([0, 1] as const).map((axis) => {
      const all = polygon.map((p) => p[axis]);
      return Math.max(...all) - Math.min(...all);
    });
    const width = bubble(plane);
    const said = found.some((other) => other.plane.text === plane.text);
    if (Math.max(...size) < 46 || Math.min(...size) < 16 || (said && (size[0] ?? 0) < width))
      continue;
    const [x, y] = view.at(plane.label_at);
    const places = OFF.flatMap((off) =>
      Array.from({ length: off ? WAYS : 1 }, (_, i): XY => {
        const angle = (2 * Math.PI * i) / WAYS;
        return [x + off * Math.cos(angle), y + off * Math.sin(angle)];
      }).filter((place) => off === 0 || holds(polygon, place)),
    );
    const at = put(taken, places, width / 2, 14, 1);
    if (at) found.push({ plane, at });
  }
  return found;
}

function PlaneLabel({ plane, at: [x, y] }: { plane: Plane; at: XY }) {
  const width = bubble(plane);
  const ink = plane.severity ? INK[plane.severity] : "var(--sounding)";
  return (
    <g>
      <rect
        x={x - width / 2}
        y={y - 14}
        width={width}
        height={28}
        rx={14}
        fill="var(--paper)"
        stroke={ink}
        strokeWidth={1.5}
      />
      <text x={x} y={y} dy="0.35em" textAnchor="middle" fontSize={16} fontWeight={700} fill={ink}>
        {plane.text}
      </text>
    </g>
  );
}

/** With fewer soundings than this, some may stand aside of the lines that run through them. */
const FEW = 6;
const ASIDE: XY[] = [-12, 12, -22, 22].flatMap((d): XY[] => [
  [0, d],
  [d, 0],
]);

/** Spot levels as soundings; those that would run into each other, a label or a line are left out. */
function Soundings({
  solution,
  surface,
  view,
  outline,
  taken,
}: {
  solution: Solution;
  surface: FloorSurface;
  view: View;
  outline: XY[];
  taken: Box[];
}) {
  const { section } = solution;
  const lines: [XY, XY][] = [
    ...edges(outline),
    ...surface.folds.map(({ start, end }): [XY, XY] => [view.at(start), view.at(end)]),
    ...(section ? [[view.at(section.start), view.at(section.end)] as [XY, XY]] : []),
  ];
  const free = clearance([...taken, ...lines.flatMap(([a, b]) => along(a, b))]);
  const shown: Sounding[] = [];
  const middle = middleOf(outline);
  for (const aside of [false, true]) {
    if (shown.length >= FEW) break;
    for (const { kind, x, y, ...spot } of surface.spot_levels) {
      const text = short(spot.text);
      const of = view.at([x, y]);
      if (kind !== "grid" || shown.some((other) => String(other.of) === String(of))) continue;
      const at = aside ? free(of, text, inward(ASIDE, of, middle)) : free(of, text);
      if (at) shown.push({ at, of, text });
    }
  }
  return <SoundingFigures soundings={shown} />;
}

/** Where the waste leaves a channel. */
function Outlet({ plan, at, view }: { plan: Plan; at: XY | null; view: View }) {
  if (!at) return null;
  const [x, y] = view.at(at);
  const drain = plan.shower.drain;
  const r = Math.max(4, (drain.width * view.scale) / 2 - 1.5);
  return <circle cx={x} cy={y} r={r} fill="var(--ink)" stroke="var(--paper)" strokeWidth={2.5} />;
}

function Slots({ rim }: { rim: XY[] }) {
  const [a, b, c, d] = rim as [XY, XY, XY, XY];
  if (!d) return null;
  const mix = (p: XY, q: XY, t: number): XY => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const count = Math.max(3, Math.min(40, Math.round(long / 9)));
  const slots = Array.from({ length: count }, (_, i) => (i + 0.5) / count);
  return (
    <g stroke="var(--paper)" strokeWidth={1.4} opacity={0.85}>
      {slots.map((t) => {
        const [p, q] = [mix(a, b, t), mix(d, c, t)];
        return <path key={t} d={path([mix(p, q, 0.2), mix(p, q, 0.8)], false)} />;
      })}
    </g>
  );
}
