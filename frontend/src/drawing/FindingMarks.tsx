import type { Finding } from "../api/generated/solution";
import { lights, type Screen } from "../job/context";
import { litBy } from "../job/findings";
import type { View } from "./view";

const INK = { stop: "var(--hazard)", caution: "var(--caution)" };

/** How large a mark is, and how far over its place it stands clear of what is written there, pixels. */
const [RADIUS, OVER] = [11, 28];

/** Places nearer to one another are one, mm. */
const NEAR = 1;

interface Props {
  view: View;
  /** In the order in which the panel numbers them. */
  findings: Finding[];
  lit: string | null;
  show: Screen["show"];
}

/** Where each finding is, by the number it has in the panel: either lights the other. */
export function FindingMarks({ view, findings, lit, show }: Props) {
  return (
    <g aria-hidden data-part="findings">
      {findings.map((finding, i) =>
        finding.places.map((place) => {
          const [at, y] = view.at([place.x, place.y]);
          // Several of one place stand side by side.
          const before = findings
            .slice(0, i)
            .filter(({ places }) =>
              places.some((other) => Math.hypot(other.x - place.x, other.y - place.y) < NEAR),
            );
          const x = at + before.length * (2 * RADIUS + 2);
          const name = litBy(finding);
          const on = lit === name;
          const ink = INK[finding.severity];
          return (
            <g
              key={`${i} ${place.name} ${place.x} ${place.y}`}
              data-found={finding.code}
              data-number={i + 1}
              data-lit={on || undefined}
              {...lights(show, name)}
            >
              <path
                d={`M${x},${y - OVER}L${at},${y - 4}`}
                stroke={ink}
                strokeWidth={on ? 3 : 1.5}
              />
              <circle cx={x} cy={y - OVER} r={on ? RADIUS + 3 : RADIUS} fill={ink} />
              <text
                x={x}
                y={y - OVER}
                dy="0.36em"
                textAnchor="middle"
                fontSize={14}
                fontWeight={700}
                fill="var(--paper)"
              >
                {findings.length > 1 ? i + 1 : "!"}
              </text>
            </g>
          );
        }),
      )}
    </g>
  );
}
