import { CircleCheck, CircleX, MapPinned } from "lucide-react";
import type { PlaneRange } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { useShow, useShown } from "../../job/shown";

const INK = { stop: "text-error", caution: "text-warning", note: "text-info" };

/** Planned, actual, limits: every plane and fold between too flat and too steep. */
export function CorridorPanel() {
  const { solution, offered, apply } = useScreen();
  const show = useShow();
  const open = useShown((shown) => shown.corridor);
  const corridor = solution?.corridor;
  if (!corridor) return null;
  const steepest = Math.max(...corridor.planes.map((p) => Math.max(p.gradient, p.most ?? 0)));
  const [nearest] = solution.findings
    .filter(({ severity, unit }) => severity === "stop" && unit === "rise_per_run")
    .flatMap(({ cures }) => cures);
  const canMove = corridor.stride > 0;
  return (
    <section aria-label="Fall limits">
      <h2 className="font-semibold mb-1">
        {corridor.fits ? "Every plane is within the fall limits" : "Too steep or too flat"}
      </h2>
      <table className="w-full">
        <thead>
          <tr className="text-sm text-left">
            <th className="font-normal">plane</th>
            <th className="font-normal pr-2">planned</th>
            <th className="font-normal pr-2 leading-tight">actual</th>
            <th className="font-normal">limits</th>
          </tr>
        </thead>
        <tbody>
          {merged(corridor.planes).map(({ plane, names }) => (
            <tr key={names} className="border-t border-base-300 align-top">
              <td className="py-1 pr-1 leading-tight">{names}</td>
              <td className="py-1 pr-2 whitespace-nowrap">{plane.asked_text}</td>
              <td
                className={`py-1 pr-2 font-bold whitespace-nowrap ${plane.severity ? INK[plane.severity] : ""}`}
              >
                {plane.text}
              </td>
              <td className="py-1 text-sm whitespace-nowrap">
                <Band plane={plane} steepest={steepest} />
                {[plane.least_text, plane.most_text].filter(Boolean).join(" to ") || "any"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {nearest && (
        <button
          type="button"
          className="btn btn-outline w-full min-h-11 h-auto py-1.5 mt-2 justify-start text-left border-base-content/30"
          disabled={!offered}
          onClick={() => apply(nearest.changes)}
        >
          Nearest change that fits: {nearest.text}
        </button>
      )}
      <h3 className="font-semibold mt-3">Within the limits</h3>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {corridor.spans.map((span) => (
          <li key={span.label} className="flex items-center gap-2 py-1.5">
            {span.inside ? (
              <CircleCheck size={18} className="text-success shrink-0" aria-label="fits" />
            ) : (
              <CircleX size={18} className="text-error shrink-0" aria-label="does not fit" />
            )}
            <span className="flex-1">{span.label}</span>
            <span className="font-semibold text-right">{span.text}</span>
          </li>
        ))}
      </ul>
      {canMove && (
        <button
          type="button"
          aria-pressed={open}
          className={`btn h-11 mt-2 ${open ? "btn-secondary" : ""}`}
          onClick={() => show({ corridor: !open })}
        >
          <MapPinned size={18} aria-hidden />
          {corridor.places.length
            ? "Show on the chart where the drain fits"
            : "The drain fits nowhere as it is"}
        </button>
      )}
      <p className="text-sm mt-1">{corridor.source}</p>
    </section>
  );
}

/** Planes and folds that came out alike, in one row. */
function merged(planes: PlaneRange[]) {
  const rows: { plane: PlaneRange; names: string; count: number }[] = [];
  for (const plane of planes) {
    const same = rows.find(
      (row) =>
        row.plane.text === plane.text &&
        row.plane.zone === plane.zone &&
        row.plane.most === plane.most,
    );
    if (!same) rows.push({ plane, names: plane.name, count: 1 });
    else if (same.names === plane.name || plane.name === "fold") same.count += 1;
    else same.names += `, ${plane.name}`;
  }
  return rows.map((row) => ({
    ...row,
    names: row.names === "fold" && row.count > 1 ? `${row.count} folds` : row.names,
  }));
}

function Band({ plane, steepest }: { plane: PlaneRange; steepest: number }) {
  const at = (gradient: number) => 4 + (gradient / steepest) * 84;
  const [low, high] = [at(plane.least ?? 0), plane.most === null ? 92 : at(plane.most)];
  return (
    <svg width={96} height={14} aria-hidden className="block">
      <rect x={low} y={4} width={high - low} height={6} rx={3} fill="var(--deep)" opacity={0.7} />
      <path
        d={`M${at(plane.gradient)},0v14`}
        stroke={plane.severity ? "var(--hazard)" : "var(--ink)"}
        strokeWidth={3}
      />
    </svg>
  );
}
