import { path, type View, type XY } from "./view";

/** A long level as it is read: where it lies on the floor, and how far it reaches. */
export function Level({ from, to, view }: { from: XY; to: XY | null; view: View }) {
  const [x, y] = view.at(from);
  return (
    <g aria-hidden data-part="level">
      {to && (
        <path
          d={path([[x, y], view.at(to)], false)}
          stroke="var(--hazard)"
          strokeWidth={5}
          strokeLinecap="round"
          opacity={0.55}
        />
      )}
      <circle cx={x} cy={y} r={7} fill="var(--hazard)" stroke="var(--paper)" strokeWidth={2} />
    </g>
  );
}
