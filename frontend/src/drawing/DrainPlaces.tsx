import { type KeyboardEvent, type PointerEvent, useId, useMemo } from "react";
import type { DrainMap } from "../api/generated/solution";
import { path, type View, type XY } from "./view";

export type Verdict = DrainMap["verdict"][number];

/** What each verdict is called, and how it is drawn: colour and a pattern of lines or dots. */
export const VERDICTS: Record<
  Exclude<Verdict, "edge">,
  { name: string; ink: string; lines: string }
> = {
  open: { name: "can go here", ink: "var(--entry)", lines: "" },
  blocked: { name: "something is in the way", ink: "var(--hazard)", lines: "M0,8L8,0M0,0L8,8" },
  falls: { name: "falls out of the rules", ink: "var(--sounding)", lines: "M0,8L8,0" },
  deep: { name: "recess too deep", ink: "var(--ink)", lines: "M0,2H8M0,6H8" },
  waste: {
    name: "pipe does not get away",
    ink: "var(--hazard)",
    lines: "M3,4h2M7,0h1M0,0h1M0,8h1",
  },
};

interface Props {
  map: DrainMap;
  /** It is of the plan before the last edit: the new one is being worked out. */
  stale: boolean;
  view: View;
  place: number | null;
  /** A place is looked at; it is taken when it is confirmed. */
  look: (place: number | null) => void;
  take: (place: number) => void;
}

/** Every place for the drain by what it comes to; walked with the arrow keys or pointed at. */
export function DrainPlaces({ map, stale, view, place, look, take }: Props) {
  const pattern = useId();
  const cells = useMemo(() => {
    const found = new Map<string, number>();
    for (let i = 0; i < map.x.length; i++) found.set(`${map.column[i]},${map.row[i]}`, i);
    return found;
  }, [map]);
  const shapes = useMemo(() => runs(map), [map]);
  const [ax, ay] = map.along;
  /** A place on plan, `u` along the rows and `v` across them from a map's place. */
  const from = (i: number, u: number, v: number): XY => [
    (map.x[i] ?? 0) + ax * u - ay * v,
    (map.y[i] ?? 0) + ay * u + ax * v,
  ];
  const half = map.stride / 2;
  const whole = Object.values(shapes).flat();
  const box = (first: number, last: number) =>
    path(
      [
        from(first, -half, -half),
        from(last, half, -half),
        from(last, half, half),
        from(first, -half, half),
      ].map(view.at),
    );

  function at(event: PointerEvent<SVGGElement>): number | null {
    const svg = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!svg || !map.x.length) return null;
    const [x, y] = view.back([event.clientX - svg.left, event.clientY - svg.top]);
    const [dx, dy] = [x - (map.x[0] ?? 0), y - (map.y[0] ?? 0)];
    const column = (map.column[0] ?? 0) + Math.round((dx * ax + dy * ay) / map.stride);
    const row = (map.row[0] ?? 0) + Math.round((dy * ax - dx * ay) / map.stride);
    return cells.get(`${column},${row}`) ?? null;
  }

  function walk(event: KeyboardEvent) {
    const ways: Record<string, XY> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, 1],
      ArrowDown: [0, -1],
    };
    const now = place ?? map.here ?? map.nearest?.place ?? 0;
    if (event.key === "Enter" && place !== null && !stale) {
      event.preventDefault();
      take(place);
    }
    const way = ways[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    // Up on the keyboard is up on the drawing, however the channel lies.
    const [du, dv] = [way[0] * ax + way[1] * ay, way[1] * ax - way[0] * ay];
    const [column, row] = [
      (map.column[now] ?? 0) + Math.round(du),
      (map.row[now] ?? 0) + Math.round(dv),
    ];
    const next = cells.get(`${column},${row}`);
    if (next !== undefined) look(next);
  }

  const shown =
    place !== null && place < map.x.length ? view.at([map.x[place] ?? 0, map.y[place] ?? 0]) : null;
  return (
    <g
      data-part="drain-map"
      opacity={stale ? 0.4 : 1}
      role="button"
      tabIndex={0}
      aria-label="Places for the drain. Arrow keys step from place to place, Enter puts the drain there."
      className="outline-none focus-visible:[filter:drop-shadow(0_0_3px_var(--ink))]"
      onKeyDown={walk}
      onPointerMove={(event) => event.pointerType === "mouse" && look(at(event))}
      onClick={(event) => look(at(event as unknown as PointerEvent<SVGGElement>))}
    >
      <defs>
        {Object.entries(VERDICTS).map(
          ([verdict, { ink, lines }]) =>
            lines && (
              <pattern
                key={verdict}
                id={`${pattern}-${verdict}`}
                width={8}
                height={8}
                patternUnits="userSpaceOnUse"
              >
                <path d={lines} stroke={ink} strokeWidth={1.3} opacity={0.75} />
              </pattern>
            ),
        )}
      </defs>
      <path d={whole.map(([a, b]) => box(a, b)).join("")} fill="transparent" />
      {Object.entries(VERDICTS).map(([verdict, { ink, lines }]) => {
        const drawn = (shapes[verdict as Verdict] ?? []).map(([a, b]) => box(a, b)).join("");
        return (
          drawn && (
            <g key={verdict} pointerEvents="none" data-verdict={verdict}>
              <path d={drawn} fill={ink} opacity={lines ? 0.1 : 0.32} />
              {lines && <path d={drawn} fill={`url(#${pattern}-${verdict})`} />}
            </g>
          )
        );
      })}
      {shown && (
        <rect
          pointerEvents="none"
          data-part="looked-at"
          x={shown[0] - 7}
          y={shown[1] - 7}
          width={14}
          height={14}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={2.5}
        />
      )}
    </g>
  );
}

/** Places that follow each other in a row with one verdict, by their first and last. */
function runs(map: DrainMap): Partial<Record<Verdict, [number, number][]>> {
  const found: Partial<Record<Verdict, [number, number][]>> = {};
  let open: { verdict: Verdict; first: number; last: number } | null = null;
  const order = map.x
    .map((_, i) => i)
    .sort(
      (a, b) =>
        (map.row[a] ?? 0) - (map.row[b] ?? 0) || (map.column[a] ?? 0) - (map.column[b] ?? 0),
    );
  const close = () => {
    if (!open) return;
    const list = found[open.verdict] ?? [];
    list.push([open.first, open.last]);
    found[open.verdict] = list;
  };
  for (const i of order) {
    const verdict = map.verdict[i] as Verdict;
    const follows =
      open &&
      open.verdict === verdict &&
      map.row[open.last] === map.row[i] &&
      (map.column[open.last] ?? 0) + 1 === map.column[i];
    if (open && follows) open.last = i;
    else {
      close();
      open = { verdict, first: i, last: i };
    }
  }
  close();
  return found;
}
