import type { Plan } from "../api/client";
import type { Change } from "../api/generated/solution";

// biome-ignore lint/suspicious/noExplicitAny: a JSON pointer reaches values of any type.
type Json = any;

/** Whether two values say the same. */
export const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** A copy of the plan with the value at a JSON pointer replaced. */
export function withValue(plan: Plan, pointer: string, value: unknown): Plan {
  const copy: Json = structuredClone(plan);
  const steps = pointer.slice(1).split("/");
  const last = steps.pop() as string;
  let place = copy;
  for (const step of steps) place = place[step];
  place[last] = value;
  return copy;
}

/** A copy of the plan with these changes made. */
export const withChanges = (plan: Plan, changes: Change[]): Plan =>
  changes.reduce((changed, { path, value }) => withValue(changed, path, value), plan);

/** The value at a JSON pointer. */
export function valueAt(plan: Plan, pointer: string): Json {
  let place: Json = plan;
  for (const step of pointer.slice(1).split("/")) place = place?.[step];
  return place;
}

/** An edited plan with what it changed no longer counted as assumed. */
export function stillAssumed(before: Plan, after: Plan): Plan {
  const kept = after.assumed.filter(
    (path) => valueAt(after, path) !== undefined && valueAt(after, path) === valueAt(before, path),
  );
  return kept.length === after.assumed.length ? after : { ...after, assumed: kept };
}
