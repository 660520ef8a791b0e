import type { Solution } from "../api/client";
import type { Pin } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { path, type View, type XY } from "./view";

const INK: Record<Pin["kind"], string> = {
  rim: "var(--hazard)",
  fold: "var(--sounding)",
  edge: "var(--entry)",
  field: "var(--ink)",
};

/** Screed pins with their numbers and what they are cut to, and the lines of the check card. */
export function Pins({
  solution,
  view,
  lit,
  onLight,
}: {
  solution: Solution;
  view: View;
  /** The pin that is pointed at, in the list or here. */
  lit: number | null;
  onLight: (pin: number | null) => void;
}) {
  const result = solution.pins;
  if (!result) return null;
  // The pin that is pointed at comes first: its figure is always shown.
  const pins = [...result.pins].sort((a, b) => Number(b.number === lit) - Number(a.number === lit));
  const taken: XY[] = [];
  return (
    <g aria-hidden data-part="pins">
      <g stroke="var(--caution)" strokeWidth={1.6} strokeDasharray="2 5">
        {result.lines.map((line) => (
          <path key={line.name} d={path([view.at(line.start), view.at(line.end)], false)} />
        ))}
      </g>
      {pins.map((pin) => {
        const [x, y] = view.at([pin.x, pin.y]);
        const clear = (up: number) =>
          taken.every(([a, b]) => Math.abs(a - x) > 34 || Math.abs(b - y) > up);
        const [named, numbered] = [clear(22), clear(42)];
        if (named) taken.push([x, y]);
        return (
          <g
            key={pin.number}
            data-pin={pin.number}
            data-lit={pin.number === lit || undefined}
            onPointerEnter={() => onLight(pin.number)}
            onPointerLeave={() => onLight(null)}
          >
            <circle
              cx={x}
              cy={y}
              r={12}
              fill={pin.number === lit ? "var(--hazard)" : "transparent"}
              opacity={0.3}
            />
            <circle cx={x} cy={y} r={4.5} fill={INK[pin.kind]} stroke="var(--paper)" />
            {named && (
              <>
                <HaloText at={[x, y - 9]} ink={INK[pin.kind]} size={17} raised>
                  {pin.text}
                </HaloText>
                {numbered && (
                  <HaloText at={[x, y + 18]} ink="var(--ink)" size={14} bold={false} raised>
                    {pin.number}
                  </HaloText>
                )}
              </>
            )}
          </g>
        );
      })}
    </g>
  );
}
