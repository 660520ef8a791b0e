import type { Plan } from "../../api/client";
import type { Mark, MarkGroup, MarksResult } from "../../api/generated/solution";

export type Noted = Plan["setting_out"]["marked"][number];

const text = (one: Noted) => JSON.stringify([one.kind, one.name, one.places, one.height]);
const same = (one: Noted, other: Noted) => text(one) === text(other);

/** Where the plan notes a mark as made; -1 while it is still to be made. What was ticked a moment
 * ago counts, whether the answer is there or not. */
export function notedAt(plan: Plan, mark: Mark): number {
  return plan.setting_out.marked.findIndex(
    (one) => same(one, mark.marked) || (mark.noted !== null && same(one, mark.noted)),
  );
}

/** How many marks of a group are still to be made. */
export const leftIn = (plan: Plan, group: MarkGroup) =>
  group.marks.filter((mark) => notedAt(plan, mark) < 0).length;

const withMarked = (plan: Plan, marked: Noted[]): Plan => ({
  ...plan,
  setting_out: { ...plan.setting_out, marked },
});

/** The plan with a mark noted as made, or as not made after all. */
export function toggled(plan: Plan, mark: Mark): Plan {
  const at = notedAt(plan, mark);
  const { marked } = plan.setting_out;
  return withMarked(plan, at < 0 ? [...marked, mark.marked] : marked.filter((_, i) => i !== at));
}

/** The plan without something that was noted. */
export function withoutNoted(plan: Plan, noted: Noted): Plan {
  const { marked } = plan.setting_out;
  const at = marked.findLastIndex((one) => same(one, noted));
  return withMarked(
    plan,
    marked.filter((_, i) => i !== at),
  );
}

/** The group that is open: the one that was chosen, else the first with something left. */
export function openGroup(plan: Plan, result: MarksResult, chosen: string | null): string | null {
  if (chosen !== null) return chosen;
  return (result.groups.find((group) => leftIn(plan, group) > 0) ?? result.groups[0])?.kind ?? null;
}
