import type { Solution } from "../api/client";
import type { Space } from "../api/generated/solution";
import { useLights, useLit } from "../job/shown";
import { HaloText } from "./HaloText";
import { path, type View, type XY } from "./view";

interface Props {
  solution: Solution;
  view: View;
}

/** Whether a space is enough; null: nothing is required. */
const INK = { true: "var(--entry)", false: "var(--hazard)", null: "var(--ink)" };
const DASHES = { true: undefined, false: "12 6", null: "2 6" };

/** The spaces that its users need: a firm line where one is enough, else hazard dashes
 * and a cross; what would fit on too steep a floor is dotted. The way in is a line, barred where it
 * is narrowest. */
export function Spaces({ solution, view }: Props) {
  const lights = useLights();
  const onWay = useLit("way");
  const access = solution.access;
  if (!access) return null;
  return (
    <g aria-hidden>
      <g data-part="ways">
        {access.ways.map((way) => {
          const ink = INK[`${way.enough}`];
          const [a, b] = way.narrowest.map(view.at);
          return (
            <g key={way.text} {...lights("way")}>
              {/* Wider than it looks, to be pointed at. */}
              <path
                d={path(way.line.map(view.at), false)}
                fill="none"
                stroke="transparent"
                strokeWidth={16}
              />
              <path
                d={path(way.line.map(view.at), false)}
                fill="none"
                stroke={ink}
                strokeWidth={onWay ? 5 : 2.5}
                strokeDasharray="1 7"
                strokeLinecap="round"
                data-way={way.enough ? "clear" : "narrow"}
              />
              {a && b && (!way.enough || onWay) && (
                <>
                  <path d={path([a, b], false)} stroke={ink} strokeWidth={2.5} />
                  <HaloText at={[(a[0] + b[0]) / 2, (a[1] + b[1]) / 2 - 8]} ink={ink}>
                    {way.text}
                  </HaloText>
                </>
              )}
            </g>
          );
        })}
      </g>
      <g data-part="spaces">
        {access.spaces.map((space, i) => (
          <Mark key={i} space={space} name={`space ${i}`} view={view} />
        ))}
      </g>
    </g>
  );
}

/** What is smaller than this across its half, pixels, has no room for a figure. */
const ROOMY = 46;

interface MarkProps {
  space: Space;
  view: View;
  name: string;
}

function Mark({ space, name, view }: MarkProps) {
  const lit = useLit(name);
  const lighting = useLights()(name);
  const state = `${space.enough}` as keyof typeof INK;
  const ink = INK[state];
  const [x, y] = view.at([space.x, space.y]);
  const line = {
    fill: ink,
    fillOpacity: lit ? 0.28 : space.enough === false ? 0.12 : 0.05,
    stroke: ink,
    strokeWidth: lit ? 4 : space.enough === false ? 2.5 : 1.6,
    strokeDasharray: DASHES[state],
  };
  const corners = space.outline.map(view.at);
  const radius = (space.across / 2) * view.scale;
  // What is in order is told in the list; the chart keeps its figures for what is not.
  const worth = space.enough === false || (space.across > 0 && space.enough !== null);
  const sides = corners.map(([cx, cy]) => Math.hypot(cx - x, cy - y));
  const told = lit || (worth && Math.max(radius, ...sides) > ROOMY);
  // A rectangle's figure stands at the side it begins at: a circle's is in its middle.
  const near = corners.slice(0, 2);
  const at: XY =
    near.length === 2
      ? [
          0.8 * ((near[0]?.[0] ?? x) / 2 + (near[1]?.[0] ?? x) / 2) + 0.2 * x,
          0.8 * ((near[0]?.[1] ?? y) / 2 + (near[1]?.[1] ?? y) / 2) + 0.2 * y,
        ]
      : [x, space.enough === null ? y - radius + 14 : y];
  return (
    <g {...lighting} data-space={state}>
      {space.across > 0 ? (
        <circle cx={x} cy={y} r={radius} {...line} />
      ) : (
        <path d={path(corners)} {...line} />
      )}
      {space.enough === false && corners.length === 4 && (
        <path
          d={path([corners[0] ?? [x, y], corners[2] ?? [x, y]], false)}
          stroke={ink}
          strokeWidth={1}
          opacity={0.6}
        />
      )}
      {told && (
        <HaloText at={at} ink={ink}>
          {space.text}
        </HaloText>
      )}
    </g>
  );
}
