import type { Finding, Place } from "../api/generated/solution";
import { litBy } from "../job/findings";
import { useLights, useShown } from "../job/shown";
import type { Box } from "./clear";
import { path, type View, type XY } from "./view";

const INK = { stop: "var(--hazard)", caution: "var(--caution)" };

/** How large a mark is, and how far over its place it stands clear of what is written there, pixels. */
const [RADIUS, OVER] = [11, 28];

/** Places nearer to one another are one, mm. */
const NEAR = 1;

export interface FindingMark {
  finding: Finding;
  /** In the order in which the panel numbers them. */
  number: number;
  /** Its middle, and what it stands for, pixels. */
  at: XY;
  of: XY;
}

/** Of a finding's places that at which it is worst; of one that is pointed at all of them. */
function shownOf(finding: Finding, lit: string | null) {
  if (lit === litBy(finding)) return finding.places;
  const off = ({ measured }: Place) => Math.abs(measured - (finding.limit ?? measured));
  return finding.places.toSorted((a, b) => off(b) - off(a)).slice(0, 1);
}

/** Where findings are marked: over their places, several of one place side by side. */
export function marksOf(view: View, findings: Finding[], lit: string | null): FindingMark[] {
  return findings.flatMap((finding, i) =>
    shownOf(finding, lit).map((place) => {
      const before = findings
        .slice(0, i)
        .filter((earlier) =>
          shownOf(earlier, lit).some(
            (other) => Math.hypot(other.x - place.x, other.y - place.y) < NEAR,
          ),
        );
      const of = view.at([place.x, place.y]);
      const at: XY = [of[0] + before.length * (2 * RADIUS + 2), of[1] - OVER];
      return { finding, number: i + 1, at, of };
    }),
  );
}

/** What marks take of a drawing. */
export const boxesOf = (marks: FindingMark[]): Box[] =>
  marks.map(({ at }) => [...at, RADIUS, RADIUS]);

interface Props {
  view: View;
  findings: Finding[];
}

/** Where each finding is, by the number it has in the panel: either lights the other. */
export function FindingMarks({ view, findings }: Props) {
  const lights = useLights();
  const lit = useShown((shown) => shown.lit);
  const marks = marksOf(view, findings, lit);
  // One alone has no number in the panel.
  const single = findings.length === 1;
  return (
    <g aria-hidden data-part="findings">
      {marks.map(({ finding, number, at, of: [x, y] }) => {
        const name = litBy(finding);
        const on = lit === name;
        const ink = INK[finding.severity];
        return (
          <g
            key={`${number} ${x} ${y}`}
            data-found={finding.code}
            data-number={number}
            data-lit={on || undefined}
            {...lights(name)}
          >
            <path d={path([at, [x, y - 4]], false)} stroke={ink} strokeWidth={on ? 3 : 1.5} />
            <circle cx={at[0]} cy={at[1]} r={on ? RADIUS + 3 : RADIUS} fill={ink} />
            <text
              x={at[0]}
              y={at[1]}
              dy="0.36em"
              textAnchor="middle"
              fontSize={14}
              fontWeight={700}
              fill="var(--paper)"
            >
              {single ? "!" : number}
            </text>
          </g>
        );
      })}
    </g>
  );
}
