import { path, type XY } from "./view";

/** The section's letters stand beyond the lengths that are written along the sides, pixels. */
export const LETTER_OUT = 44;
/** How large they are, pixels. */
export const LETTER = 11;

/** Where the letters at the section's two ends stand. */
export function lettersOf([a, b]: [XY, XY]): [XY, XY] {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const [u, v] = [((b[0] - a[0]) / length) * LETTER_OUT, ((b[1] - a[1]) / length) * LETTER_OUT];
  return [
    [a[0] - u, a[1] - v],
    [b[0] + u, b[1] + v],
  ];
}

/** The section's line with its letters, drawn back to where they can be seen. */
export function SectionLine({ ends: [a, b] }: { ends: [XY, XY] }) {
  return (
    <g aria-hidden data-part="section">
      <path
        d={path([a, b], false)}
        stroke="var(--ink)"
        strokeWidth={1.2}
        strokeDasharray="14 4 2 4"
        opacity={0.55}
      />
      {lettersOf([a, b]).map(([x, y], i) => (
        <g key={i}>
          <circle data-part="letter" cx={x} cy={y} r={LETTER} fill="var(--ink)" />
          <text
            x={x}
            y={y + 5}
            textAnchor="middle"
            fontSize={14}
            fontWeight={700}
            fill="var(--paper)"
          >
            A
          </text>
        </g>
      ))}
    </g>
  );
}

/** The part of a line that leaves room for its letters inside the chart. */
export function within(a: XY, b: XY, width: number, height: number): [XY, XY] {
  let [from, to] = [0, 1];
  const inset = LETTER_OUT + 14;
  for (const [i, size] of [width, height].entries()) {
    const start = a[i] as number;
    const way = (b[i] as number) - start;
    if (Math.abs(way) < 1e-6) continue;
    const hits = [(inset - start) / way, (size - inset - start) / way].sort((p, q) => p - q);
    from = Math.max(from, hits[0] as number);
    to = Math.min(to, hits[1] as number);
  }
  const at = (share: number): XY => [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share];
  return from < to ? [at(from), at(to)] : [a, b];
}
