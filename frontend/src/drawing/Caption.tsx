import type { Plan, Solution } from "../api/client";
import type { Box } from "./clear";
import type { XY } from "./view";

/** How tall a line is, and about how wide a letter, pixels. */
const [LINE, LETTER] = [17, 6.9];

export interface CaptionProps {
  lines: string[];
  /** Where the last line begins, or ends. */
  at: XY;
  end: boolean;
  /** How wide the strip is that it has for itself, where it has one. */
  wide?: number;
}

/** What a caption takes of its chart. */
export function captionBox({ lines, at: [x, y], end, wide }: CaptionProps): Box {
  const half = (wide ?? Math.max(...lines.map((line) => line.length)) * LETTER + 12) / 2;
  const tall = (LINE * lines.length) / 2 + 2;
  const middle = wide ? half : end ? x + 6 - half : x - 6 + half;
  return [middle, y + 6 - tall, half, tall];
}

/** What the chart's figures are, on paper of its own: walls may run behind it. */
export function Caption(props: CaptionProps) {
  const {
    lines,
    at: [x, y],
    end,
    wide,
  } = props;
  const [middle, centre, half, tall] = captionBox(props);
  return (
    <g aria-hidden>
      <rect
        x={middle - half}
        y={centre - tall}
        width={2 * half}
        height={2 * tall}
        fill="var(--paper)"
        opacity={wide ? 1 : 0.88}
      />
      <text
        textAnchor={end ? "end" : "start"}
        data-part="caption"
        fontSize={14}
        fill="var(--ink)"
        className="halo"
      >
        {lines.map((line, i) => (
          <tspan key={line} x={x} y={y - LINE * (lines.length - 1 - i)}>
            {line}
          </tspan>
        ))}
      </text>
    </g>
  );
}

/** What the figures of the chart are, line by line: short, so that the section's letter stays clear;
 * on a narrow chart all of it has to go into one line. */
export function caption(
  plan: Plan,
  solution: Solution,
  ground: boolean,
  narrow: boolean,
): string[] {
  const inches = plan.display.length === "in" ? "Inches" : "";
  if (ground)
    return [inches, "Depths below the old floor's high spot", narrow ? "" : "Pale: guessed"].filter(
      Boolean,
    );
  const faces = narrow ? "" : solution.drawing.faces;
  return [
    [inches, faces && `${inches ? "s" : "S"}izes ${faces}`].filter(Boolean).join(" · "),
    `Depths below the ${plan.shower.rest ? "doors" : "entry"}`,
    `A line every ${solution.surface?.contour_interval_text}`,
  ].filter(Boolean);
}
