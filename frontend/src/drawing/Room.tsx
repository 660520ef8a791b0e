import type { Plan, Solution } from "../api/client";
import { type SideLabel, SideText } from "./sides";
import { area, edges, path, type View, type XY } from "./view";

interface Props {
  plan: Plan;
  solution: Solution;
  view: View;
  /** The walls' numbers and lengths, where they stand. */
  labels: SideLabel[];
}

/** The dry land: floor, joists beneath it, walls, doors, and the walls' lengths. */
export function Room({ plan, solution, view, labels }: Props) {
  const outline = plan.room.outline.map(view.at);
  return (
    <g aria-hidden>
      <path
        d={path(outline)}
        fill="var(--land)"
        stroke="var(--ink)"
        strokeWidth={16}
        strokeLinejoin="miter"
      />
      <path d={path(outline)} fill="var(--land)" />
      <g fill="var(--joist)" opacity={0.28} data-part="joists">
        {solution.drawing.joists.map((joist) => (
          <path key={String(joist.outline[0])} d={path(joist.outline.map(view.at))} />
        ))}
      </g>
      <g data-part="fixtures">
        {plan.room.fixtures.map((fixture) => (
          <FixtureMark key={`${fixture.name}${fixture.centre}`} fixture={fixture} view={view} />
        ))}
      </g>
      {plan.room.doors.map((door) => (
        <DoorMark key={`${door.wall},${door.offset}`} plan={plan} door={door} view={view} />
      ))}
      {labels.map((label) => (
        <SideText key={label.side} label={label} />
      ))}
    </g>
  );
}

function DoorMark({
  plan,
  door,
  view,
}: {
  plan: Plan;
  door: Plan["room"]["doors"][number];
  view: View;
}) {
  const wall = edges(plan.room.outline)[door.wall];
  if (!wall) return null;
  const [a, b] = wall;
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const along: XY = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const inward = area(plan.room.outline) > 0 ? 1 : -1;
  const swing = door.swing === "in" ? inward : -inward;
  const square: XY = [-along[1] * swing, along[0] * swing];
  const on = (s: number): XY => [a[0] + along[0] * s, a[1] + along[1] * s];
  const [near, far] = [door.offset, door.offset + door.width];
  const hinge = on(door.hinge === "first" ? near : far);
  const latch = view.at(on(door.hinge === "first" ? far : near));
  const leaf = view.at([hinge[0] + square[0] * door.width, hinge[1] + square[1] * door.width]);
  const pivot = view.at(hinge);
  const outside = (s: number): XY => {
    const [x, y] = view.at(on(s));
    return [x + along[1] * inward * 4, y + along[0] * inward * 4];
  };
  const radius = door.width * view.scale;
  const turn =
    (leaf[0] - pivot[0]) * (latch[1] - pivot[1]) - (leaf[1] - pivot[1]) * (latch[0] - pivot[0]);
  return (
    <g fill="none" stroke="var(--ink)">
      <path
        d={path([outside(near), outside(far)], false)}
        stroke="var(--paper)"
        strokeWidth={8.5}
      />
      <path
        d={path([view.at(on(near)), view.at(on(far))], false)}
        stroke="var(--land-edge)"
        strokeWidth={2}
      />
      {door.kind === "sliding" ? (
        <path d={path([outside(near), outside(far)], false)} strokeWidth={2.5} />
      ) : (
        <>
          <path d={path([pivot, leaf], false)} strokeWidth={2.5} />
          <path
            d={`M${leaf.join(",")}A${radius},${radius} 0 0 ${turn > 0 ? 1 : 0} ${latch.join(",")}`}
            strokeDasharray="5 4"
            strokeWidth={1.2}
          />
        </>
      )}
    </g>
  );
}

type Fixture = Plan["room"]["fixtures"][number];

/** What leaves the floor free is drawn thin and dashed. */
const LIGHT: Fixture["kind"][] = ["folding seat", "bar", "control", "head", "curtain"];
/** What is built up from the subfloor is drawn as walls are. */
const FILL: Partial<Record<Fixture["kind"], string>> = {
  column: "var(--ink)",
  "half wall": "var(--ink)",
  bench: "var(--packing)",
};
/** Smaller than this on the screen, pixels, a fixture has no room for its name. */
const NAMED = 34;

/** Below its middle; of what is too thin or too dark for that in front of it, on the room's side. */
function nameAt({ turn, kind }: Fixture, [x, y]: XY, length: number) {
  const dark = FILL[kind] === "var(--ink)";
  if (length > NAMED / 2 && !dark) return { x, y: y + 22, textAnchor: "middle" } as const;
  const angle = (turn * Math.PI) / 180;
  const [right, down] = [-Math.sin(angle), -Math.cos(angle)];
  const textAnchor = right > 0.5 ? "start" : right < -0.5 ? "end" : "middle";
  const away = length / 2 + 6;
  return { x: x + right * away, y: y + down * (away + 5) + 5, textAnchor } as const;
}

function FixtureMark({ fixture, view }: { fixture: Fixture; view: View }) {
  const [x, y] = view.at(fixture.centre);
  const [width, length] = [fixture.width * view.scale, fixture.length * view.scale];
  const light = LIGHT.includes(fixture.kind);
  const round = { WC: 0.45, basin: 0.3, column: 0.1 }[fixture.kind as string] ?? 0.08;
  return (
    <g>
      <g transform={`rotate(${-fixture.turn} ${x} ${y})`}>
        <rect
          x={x - width / 2}
          y={y - length / 2}
          width={Math.max(width, 3)}
          height={Math.max(length, 3)}
          rx={Math.min(width, length) * round}
          fill={FILL[fixture.kind] ?? "var(--paper)"}
          fillOpacity={light ? 0.5 : 1}
          stroke="var(--land-edge)"
          strokeWidth={2}
          strokeDasharray={light ? "4 3" : undefined}
        />
        {(fixture.kind === "WC" || fixture.kind === "cabinet") && (
          // The cistern, or the doors' side: which end is the back.
          <path
            d={`M${x - width / 2},${y + length * 0.28}h${width}`}
            stroke="var(--land-edge)"
            strokeWidth={1.5}
          />
        )}
      </g>
      {Math.max(width, length) > NAMED && (
        <text {...nameAt(fixture, [x, y], length)} fontSize={14} fill="var(--ink)">
          {fixture.name}
        </text>
      )}
    </g>
  );
}

/** What stands or hangs where the shower is, over its floor. */
export function OverFloor({
  plan,
  solution,
  view,
}: {
  plan: Plan;
  solution: Solution;
  view: View;
}) {
  const over = plan.room.fixtures.filter((_, i) => solution.drawing.over_shower.includes(i));
  return (
    <g data-part="fixtures" aria-hidden>
      {over.map((fixture) => {
        const [x, y] = view.at(fixture.centre);
        const [width, length] = [fixture.width * view.scale, fixture.length * view.scale];
        return (
          <rect
            key={`${fixture.name}${fixture.centre}`}
            transform={`rotate(${-fixture.turn} ${x} ${y})`}
            x={x - width / 2}
            y={y - length / 2}
            width={Math.max(width, 3)}
            height={Math.max(length, 3)}
            rx={3}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.5}
            strokeDasharray={LIGHT.includes(fixture.kind) ? "4 3" : undefined}
            opacity={0.6}
          />
        );
      })}
    </g>
  );
}
