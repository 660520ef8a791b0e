import type { Solution } from "../api/client";
import { lights, type Screen } from "../job/context";
import { HaloText } from "./HaloText";
import type { View } from "./view";

interface Props {
  solution: Solution;
  view: View;
  lit: string | null;
  show: Screen["show"];
}

/** Whether a circle is enough; null: nothing is asked. */
const INK = { true: "var(--entry)", false: "var(--hazard)", null: "var(--sounding)" };

/** The circles in which a chair can turn: a firm line where one is enough, else hazard dashes; what
 * would fit on too steep a floor is dotted. */
export function Spaces({ solution, view, lit, show }: Props) {
  return (
    <g aria-hidden data-part="spaces">
      {solution.access?.spaces.map((space, i) => {
        const [x, y] = view.at([space.x, space.y]);
        const ink = i ? "var(--ink)" : INK[`${space.enough}`];
        const dashes = i ? "2 6" : space.enough === false ? "12 6" : undefined;
        return (
          <g key={space.name} {...lights(show, `space ${i}`)}>
            <circle
              cx={x}
              cy={y}
              r={(space.across / 2) * view.scale}
              fill={ink}
              fillOpacity={lit === `space ${i}` ? 0.28 : 0.1}
              stroke={ink}
              strokeWidth={i ? 1.6 : 3}
              strokeDasharray={dashes}
            />
            <HaloText at={[x, i ? y - (space.across / 2) * view.scale + 14 : y]} ink={ink}>
              {space.text}
            </HaloText>
          </g>
        );
      })}
    </g>
  );
}
