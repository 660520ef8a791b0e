import type { Plan, Solution } from "../api/client";
import type { Pin } from "../api/generated/solution";
import { lights, type Screen } from "../job/context";
import { along, type Box, clearance, halfOf, short } from "./clear";
import { HaloText } from "./HaloText";
import { Light } from "./Light";
import { edges, path, type View, type XY } from "./view";

const INK: Record<Pin["kind"], string> = {
  rim: "var(--hazard)",
  fold: "var(--sounding)",
  edge: "var(--entry)",
  field: "var(--ink)",
};

/** Half of a pin's dot, pixels, and the size of its number. */
const [DOT, NUMBER] = [5, 14];

/** Pins that stand farther apart, pixels, carry their numbers. */
const NUMBERED = 80;

/** Where a pin's figures may stand: over it, under it, beside it. */
function beside(text: string, size?: number): XY[] {
  const half = halfOf(text, size);
  const side = half + DOT + 5;
  const up = DOT + 14;
  return [
    [0, -up],
    [0, up],
    [side, 0],
    [-side, 0],
    [half, -up],
    [-half, -up],
    [half, up],
    [-half, up],
  ];
}

const nameOf = (pin: Pin) => `pin ${pin.number}`;

interface Props {
  plan: Plan;
  solution: Solution;
  view: View;
  /** The pin that is pointed at, in the list or here. */
  lit: string | null;
  show: Screen["show"];
}

/** Screed pins with what they are cut to and, where there is room, their numbers; and the lines of
 * the check card. */
export function Pins({ plan, solution, view, lit, show }: Props) {
  const result = solution.pins;
  if (!result) return null;
  const at = (pin: Pin) => view.at([pin.x, pin.y]);
  // The pin that is pointed at is served first.
  const isLit = (pin: Pin) => lit === nameOf(pin);
  const pins = [...result.pins].sort((a, b) => Number(isLit(b)) - Number(isLit(a)));
  const walls = edges(plan.shower.outline);
  const place = clearance([
    ...pins.map((pin): Box => [...at(pin), DOT, DOT]),
    ...walls.flatMap(([a, b]) => along(view.at(a), view.at(b))),
  ]);
  const heights = pins.map((pin) => place(at(pin), short(pin.text), beside(short(pin.text))));
  // Numbers would be taken for heights where pins stand close together.
  const apart = plan.pin_spacing * view.scale > NUMBERED;
  const numbers = pins.map((pin) =>
    apart || isLit(pin)
      ? place(at(pin), String(pin.number), beside(String(pin.number), NUMBER), NUMBER)
      : null,
  );
  return (
    <g aria-hidden data-part="pins">
      <g stroke="var(--caution)" strokeWidth={1.6} strokeDasharray="2 5">
        {result.lines.map((line) => (
          <path key={line.name} d={path([view.at(line.start), view.at(line.end)], false)} />
        ))}
      </g>
      {pins.map((pin, i) => {
        const [x, y] = at(pin);
        const own = isLit(pin);
        const height = heights[i] ?? (own ? ([x, y - DOT - 14] as XY) : null);
        const number = numbers[i];
        return (
          <g key={pin.number} data-pin={pin.number} {...lights(show, nameOf(pin))}>
            <Light at={[x, y]} on={own} />
            <circle cx={x} cy={y} r={4.5} fill={INK[pin.kind]} stroke="var(--paper)" />
            {height && (
              <HaloText at={height} ink={INK[pin.kind]} size={17}>
                {short(pin.text)}
              </HaloText>
            )}
            {number && (
              <HaloText at={number} ink="var(--ink)" size={NUMBER} bold={false}>
                {pin.number}
              </HaloText>
            )}
          </g>
        );
      })}
    </g>
  );
}
