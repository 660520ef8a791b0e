import { useId } from "react";
import type { Solution } from "../api/client";
import type { Band, Section } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { path, useSize, type XY } from "./view";

const FILL: Record<Band["kind"], string> = {
  finish: "var(--finish)",
  bed: "var(--bed)",
  tray: "var(--tray)",
  packing: "var(--packing)",
  deck: "var(--deck)",
  refitted: "var(--refitted)",
  slab: "var(--slab)",
  joist: "var(--wood)",
  riser: "var(--paper)",
  drain: "var(--ink)",
  clash: "var(--hazard)",
};
/** Lines over the fills, so that materials are told apart without colour: a path in a tile of so
 * many pixels. */
const HATCH: Partial<Record<Band["kind"], [tile: number, lines: string]>> = {
  bed: [8, "M0,8L8,0"],
  tray: [10, "M0,10L10,0M0,0L10,10"],
  packing: [6, "M0,0L6,6"],
  deck: [7, "M0,3.5H7"],
  refitted: [9, "M0,4.5H9M4.5,0V9"],
  slab: [14, "M0,14L14,0M3,4h1.5M9,9h1.5"],
  joist: [7, "M3.5,0V7"],
  riser: [6, "M3,0V2"],
  clash: [6, "M0,6L6,0M0,0L6,6"],
};
const SCALES = [1, 2, 3, 4, 5, 6, 8, 10, 12, 15];
const [LEFT, RIGHT, TOP, BOTTOM] = [218, 158, 16, 46];

/** A cut through entry and drain, layer by layer, with the recess as a dimension. */
export function SectionDrawing({
  solution,
  own,
  trueScale,
}: {
  solution: Solution;
  own: boolean;
  /** Heights as large as widths, in place of the largest that fit. */
  trueScale: boolean;
}) {
  const [box, { width, height }] = useSize<SVGSVGElement>();
  const title = useId();
  const section = solution.section;
  return (
    <svg ref={box} className="size-full block" role="img" aria-labelledby={title}>
      <title id={title}>
        Section A {own ? "along your line" : "through entry and drain"}.{" "}
        {solution.figures.recess_needed.label}: {solution.figures.recess_needed.text}.
      </title>
      {section && width > 0 && height > 60 && (
        <Cut
          section={section}
          solution={solution}
          width={width}
          height={height}
          own={own}
          trueScale={trueScale}
        />
      )}
      {!section && width > 0 && (
        <text x={width / 2} y={height / 2} textAnchor="middle" fontSize={16} fill="var(--ink)">
          The section is drawn once the falls can be worked out.
        </text>
      )}
    </svg>
  );
}

function Cut({
  section,
  solution,
  width,
  height,
  own,
  trueScale,
}: {
  section: Section;
  solution: Solution;
  width: number;
  height: number;
  own: boolean;
  trueScale: boolean;
}) {
  const hatch = useId();
  const narrow = width < 560;
  const [left, right] = narrow
    ? [58, 8]
    : [
        Math.max(LEFT, AXIS + longest(section, 0)),
        Math.max(RIGHT, EDGE + longest(section, section.length)),
      ];
  const across = (width - left - right) / section.length;
  const most = (height - TOP - BOTTOM) / (section.top - section.bottom) / across;
  const times = trueScale ? Math.min(1, most) : (SCALES.findLast((n) => n <= most) ?? most);
  const up = across * times;
  const at = ([s, z]: XY): XY => [left + s * across, TOP + (section.top - z) * up];
  const figures = solution.figures;
  const base = figures.base_level.value ?? 0;
  const recess = figures.recess_needed;
  const short = (figures.recess_left_to_find.value ?? 0) > 1e-6;
  const crossesShower = section.shower[1] > section.shower[0];
  const crossesDrain = section.drain[1] > section.drain[0];
  // The dimension stands on the wider side of the drain, where it covers least.
  const [front, back] = [
    section.drain[0] - section.shower[0],
    section.shower[1] - section.drain[1],
  ];
  const dim = !crossesDrain
    ? (section.shower[0] + section.shower[1]) / 2
    : front >= back - 1
      ? (section.shower[0] + section.drain[0]) / 2
      : (section.drain[1] + section.shower[1]) / 2;
  const [dx, deckY] = at([dim, 0]);
  const [, baseY] = at([dim, base]);
  const finishes = section.bands.filter((band) => band.kind === "finish");
  const labelled = narrow ? [] : labels(section, at);
  const shownRecess = crossesShower && recess.value !== null && recess.value > 0;
  const chip = `recess ${recess.text}`;
  const chipWidth = chip.length * 9.2 + 20;
  // Under the build-up, and beside the drain that comes down through it: on the dimension's side
  // where there is room.
  const half = chipWidth / 2;
  const within = [left + half, width - right - half] as const;
  const clear = (x: number) => Math.min(Math.max(x, within[0]), within[1]);
  const beside = crossesDrain
    ? [
        Math.min(dx, at([section.drain[0], 0])[0] - half - 8),
        Math.max(dx, at([section.drain[1], 0])[0] + half + 8),
      ]
    : [dx];
  const sides = dim < section.drain[0] ? beside : beside.toReversed();
  const chipX = clear(sides.find((x) => x >= within[0] && x <= within[1]) ?? dx);
  return (
    <>
      <defs>
        {Object.entries(HATCH).map(([kind, [tile, lines]]) => (
          <pattern
            key={kind}
            id={`${hatch}-${kind}`}
            width={tile}
            height={tile}
            patternUnits="userSpaceOnUse"
          >
            <path d={lines} stroke="var(--ink)" strokeWidth={0.8} opacity={0.38} />
          </pattern>
        ))}
      </defs>
      {section.bands.map((band, i) => (
        <path
          key={i}
          data-build-up={band.kind}
          d={path(band.outline.map(at))}
          fill={
            band.kind === "finish" && finishes.indexOf(band) % 2
              ? "var(--finish-2)"
              : FILL[band.kind]
          }
          fillOpacity={band.kind === "joist" ? 0.75 : 1}
          stroke="var(--ink)"
          strokeWidth={0.7}
          strokeOpacity={0.6}
        />
      ))}
      {section.bands
        .filter((band) => HATCH[band.kind])
        .map((band, i) => (
          <path
            key={i}
            data-hatch={band.kind}
            d={path(band.outline.map(at))}
            fill={`url(#${hatch}-${band.kind})`}
          />
        ))}
      <line
        x1={left - 8}
        x2={width - right + 8}
        y1={deckY}
        y2={deckY}
        stroke="var(--entry)"
        strokeDasharray="6 4"
        strokeWidth={1.4}
      />
      <ScaleBoard section={section} at={at} x={narrow ? 40 : 60} />
      {shownRecess && (
        <g>
          <path
            d={`M${dx - 9},${deckY}H${dx + 9}M${dx - 9},${baseY}H${dx + 9}M${dx},${deckY}V${baseY}`}
            stroke={short ? "var(--hazard)" : "var(--ink)"}
            strokeWidth={2.5}
          />
          <rect
            data-part="recess"
            x={chipX - chipWidth / 2}
            y={baseY + 6}
            width={chipWidth}
            height={30}
            rx={6}
            fill={short ? "var(--hazard)" : "var(--ink)"}
          />
          <text
            x={chipX}
            y={baseY + 21}
            dy="0.35em"
            textAnchor="middle"
            fontSize={17}
            fontWeight={700}
            fill="var(--paper)"
          >
            {chip}
          </text>
        </g>
      )}
      {crossesDrain && <DropDimension section={section} solution={solution} at={at} />}
      {labelled.map((label) => (
        <g key={label.key}>
          <path
            d={`M${label.from.join(",")}L${label.x},${label.y}`}
            stroke="var(--ink)"
            strokeWidth={0.8}
            opacity={0.7}
          />
          <text
            x={label.x + (label.side === "left" ? -4 : 4)}
            y={label.y}
            dy="0.35em"
            fontSize={14}
            textAnchor={label.side === "left" ? "end" : "start"}
            fill="var(--ink)"
          >
            {label.text}
          </text>
        </g>
      ))}
      <text fontSize={14} fill="var(--ink)" className="halo">
        {[
          !narrow &&
            !own &&
            `0 is the ${solution.survey.floor ? "floor's high spot" : "deck or slab top"}`,
          [
            `Section A${own ? " along your line" : ""}`,
            times === 1 ? "true scale" : `heights drawn ${times < 1 ? times.toFixed(2) : times}×`,
            ...(section.joists_along ? ["cut along joists"] : []),
          ].join(" · "),
        ]
          .filter((line) => line !== false)
          .map((line, i, all) => (
            <tspan key={line} x={12} y={height - 8 - 17 * (all.length - 1 - i)}>
              {line}
            </tspan>
          ))}
      </text>
    </>
  );
}

/** How far the floor drops from the entry to the drain, beside the drain. */
function DropDimension({
  section,
  solution,
  at,
}: {
  section: Section;
  solution: Solution;
  at: (p: XY) => XY;
}) {
  const { entry_level, drain_level, drop_at_drain } = solution.figures;
  const [x, top] = at([(section.drain[0] + section.drain[1]) / 2, entry_level.value ?? 0]);
  const [, bottom] = at([0, drain_level.value ?? 0]);
  const [start] = at([section.shower[0], 0]);
  if (bottom - top < 14) return null;
  return (
    <g stroke="var(--sounding)" strokeWidth={1.5}>
      <path d={`M${start},${top}H${x + 8}`} strokeDasharray="3 3" strokeWidth={1} />
      <path d={`M${x},${top}V${bottom}M${x - 6},${top}H${x + 6}`} />
      <HaloText at={[x - 8, (top + bottom) / 2]} ink="var(--sounding)" size={15} anchor="end">
        {drop_at_drain.text}
      </HaloText>
    </g>
  );
}

function ScaleBoard({ section, at, x }: { section: Section; at: (p: XY) => XY; x: number }) {
  const ticks = section.ticks;
  return (
    <g>
      {ticks.slice(0, -1).map((tick, i) => {
        const next = ticks[i + 1];
        if (!next) return null;
        const y1 = at([0, next.height])[1];
        const y2 = at([0, tick.height])[1];
        return (
          <rect
            key={tick.height}
            x={x}
            y={y1}
            width={8}
            height={y2 - y1}
            fill={i % 2 ? "var(--ink)" : "var(--paper)"}
            stroke="var(--ink)"
          />
        );
      })}
      {ticks.map((tick, i) => {
        const apart = Math.abs(
          at([0, ticks[1]?.height ?? 0])[1] - at([0, ticks[0]?.height ?? 1])[1],
        );
        if (apart < 16 && tick.height !== 0 && i % 2) return null;
        return (
          <text
            key={tick.height}
            x={x - 5}
            y={at([0, tick.height])[1]}
            dy="0.35em"
            textAnchor="end"
            fontSize={14}
            fontWeight={tick.height === 0 ? 700 : 400}
            fill={tick.height === 0 ? "var(--entry)" : "var(--ink)"}
          >
            {tick.text}
          </text>
        );
      })}
    </g>
  );
}

interface Label {
  key: string;
  side: "left" | "right";
  text: string;
  from: XY;
  x: number;
  y: number;
}

/** What stands left of the names, and right of them, pixels; and how wide a letter of them is. */
const [AXIS, EDGE, LETTER] = [90, 24, 7.7];

const endingAt = (section: Section, end: number) =>
  section.bands.filter(
    (band) =>
      band.outline.some(([s]) => Math.abs(s - end) < 1) &&
      !["drain", "riser", "clash"].includes(band.kind),
  );

const nameOf = (band: Section["bands"][number]) =>
  `${band.name.length > 15 ? `${band.name.slice(0, 14)}…` : band.name} ${band.text}`;

/** How much room the longest name at an end of the cut takes, pixels. */
const longest = (section: Section, end: number) =>
  Math.max(0, ...endingAt(section, end).map((band) => nameOf(band).length)) * LETTER;

/** Names of the layers at both ends of the cut, spread so that none covers another. */
function labels(section: Section, at: (p: XY) => XY): Label[] {
  const found: Label[] = [];
  for (const side of ["left", "right"] as const) {
    const end = side === "left" ? 0 : section.length;
    const ends = endingAt(section, end)
      .map((band) => {
        const heights = band.outline.filter(([s]) => Math.abs(s - end) < 1).map(([, z]) => z);
        return { band, middle: (Math.max(...heights) + Math.min(...heights)) / 2 };
      })
      .sort((a, b) => b.middle - a.middle);
    let last = Number.NEGATIVE_INFINITY;
    const placed = ends.map(({ band, middle }) => {
      const from = at([end, middle]);
      const y = Math.max(from[1], last + 17);
      last = y;
      return {
        key: `${side}${band.kind}${band.name}${middle}`,
        side,
        text: nameOf(band),
        from,
        x: from[0] + (side === "left" ? -14 : 14),
        y,
      };
    });
    // Labels pushed down as a group are drawn back up around their layers.
    const push =
      placed.reduce((sum, label) => sum + label.y - label.from[1], 0) / (placed.length || 1);
    const first = placed[0];
    const lift = first ? Math.min(push, Math.max(0, first.y - 12)) : 0;
    found.push(...placed.map((label) => ({ ...label, y: label.y - lift })));
  }
  return found;
}
