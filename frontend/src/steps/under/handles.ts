import type { Plan, Solution } from "../../api/client";
import { type Handle, snapLines } from "../../drawing/handles";
import type { XY } from "../../drawing/view";
import { withValue } from "../../job/pointer";
import { drainHandles } from "../drain/handles";

/** The stack, the bends of a run that was laid, lines that were found, ends of timbers that were
 * added, joists that stand elsewhere; and the drain, where the map does not lie over it. */
export function underHandles(plan: Plan, solution: Solution | null, drain: boolean): Handle[] {
  const snap = snapLines(plan, "room");
  const put = (key: string, label: string, at: XY, pointer: string): Handle => ({
    key,
    label,
    at,
    kind: "corner",
    snap,
    move: (old, to) => withValue(old, pointer, to),
  });
  const { waste, services, floor } = plan;
  const found: Handle[] = [];
  if (waste.stack) found.push(put("stack", "Stack", waste.stack, "/waste/stack"));
  waste.run?.forEach((bend, i) => {
    found.push(put(`bend-${i}`, `Bend ${i + 1} of the run`, bend, `/waste/run/${i}`));
  });
  services.forEach((service, i) => {
    service.points.forEach((point, j) => {
      found.push(
        put(
          `service-${i}-${j}`,
          `${service.name}, place ${j + 1}`,
          point,
          `/services/${i}/points/${j}`,
        ),
      );
    });
  });
  if (floor.kind === "joists") {
    for (const list of ["members", "beams"] as const) {
      floor[list].forEach((timber, i) => {
        for (const end of ["start", "end"] as const) {
          found.push(
            put(
              `${list}-${i}-${end}`,
              `${timber.kind}, ${end}`,
              timber[end],
              `/floor/${list}/${i}/${end}`,
            ),
          );
        }
      });
    }
    found.push(...joistHandles(plan, solution));
  }
  return drain ? [...found, ...drainHandles(plan)] : found;
}

/** A joist that stands elsewhere than the others is moved square to itself. */
function joistHandles(plan: Plan, solution: Solution | null): Handle[] {
  const floor = plan.floor;
  if (floor.kind !== "joists") return [];
  const across = solution?.structure?.across;
  if (!across) return [];
  return floor.others.flatMap((other, i): Handle[] => {
    const mark = solution?.structure?.timbers.find((timber) => timber.index === other.number);
    if (!mark || mark.regular === null) return [];
    const xs = mark.outline.map((p) => p[0]);
    const ys = mark.outline.map((p) => p[1]);
    const at: XY = [
      xs.reduce((sum, x) => sum + x, 0) / xs.length,
      ys.reduce((sum, y) => sum + y, 0) / ys.length,
    ];
    const { regular } = mark;
    return [
      {
        key: `joist-${other.number}`,
        label: mark.name,
        at,
        kind: "corner",
        snap: { xs: [], ys: [], walls: [] },
        move: (old, to) =>
          withValue(
            old,
            `/floor/others/${i}/moved`,
            Math.round((to[0] * across[0] + to[1] * across[1] - regular) * 100) / 100,
          ),
      },
    ];
  });
}
