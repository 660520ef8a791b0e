import type { ThresholdSeen } from "../../api/generated/solution";
import { path, type XY } from "../../drawing/view";
import { useScreen } from "../../job/context";

const [WIDE, HIGH, MARGIN] = [150, 44, 8];
/** An edge is not drawn larger than so many pixels to the millimetre. */
const MOST = 2;

/** What is stepped over on the way in, each edge drawn from the side at its true proportion. */
export function Thresholds() {
  const { solution } = useScreen();
  const access = solution?.access;
  if (!access) return null;
  return (
    <section>
      <h2 className="font-semibold mb-1">Stepped over on the way in</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {access.thresholds.map((edge) => (
          <li key={edge.name} className="flex items-center gap-3 py-1.5">
            <span className="flex-1 leading-tight">
              {edge.name}
              <strong className={`block ${edge.enough ? "" : "text-error"}`}>
                {edge.text}
                {!edge.enough && ", too much"}
              </strong>
              {edge.asked && <span className="block text-sm">{edge.asked}</span>}
            </span>
            <Profile edge={edge} />
          </li>
        ))}
      </ul>
      {access.unmeasured.map((said) => (
        <p key={said} className="text-sm mt-1">
          {said}
        </p>
      ))}
    </section>
  );
}

function Profile({ edge }: { edge: ThresholdSeen }) {
  const xs = edge.profile.map((p) => p[0]);
  const ys = edge.profile.map((p) => p[1]);
  const [left, low] = [Math.min(...xs), Math.min(...ys)];
  const [across, up] = [Math.max(...xs) - left, Math.max(...ys) - low];
  const scale = Math.min((WIDE - 2 * MARGIN) / across, (HIGH - 2 * MARGIN) / Math.max(up, 1), MOST);
  const foot = HIGH - MARGIN;
  const points = edge.profile.map(
    ([x, y]): XY => [MARGIN + (x - left) * scale, foot - (y - low) * scale],
  );
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return null;
  const ink = edge.enough ? "var(--entry)" : "var(--hazard)";
  return (
    <svg width={WIDE} height={HIGH} aria-hidden className="shrink-0">
      <path
        d={path([...points, [last[0], HIGH], [first[0], HIGH]])}
        fill="var(--land)"
        stroke="none"
      />
      <path
        d={path(points, false)}
        fill="none"
        stroke={ink}
        strokeWidth={3}
        strokeLinejoin="bevel"
      />
    </svg>
  );
}
