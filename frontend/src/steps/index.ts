import type { Solution } from "../api/client";
import type { Finding } from "../api/generated/solution";
import { access } from "./access";
import { built } from "./built";
import { days } from "./days";
import { depth } from "./depth";
import { drain } from "./drain";
import { handover } from "./handover";
import { heating } from "./heating";
import { levels } from "./levels";
import { log } from "./log";
import { marks } from "./marks";
import { membrane } from "./membrane";
import { order } from "./order";
import { room } from "./room";
import { type Mark, PHASES, type Step } from "./step";
import { tile } from "./tile";
import { under } from "./under";
import { walls } from "./walls";
import { water } from "./water";

/** The steps of the work in its order. */
export const STEPS: readonly Step[] = [
  room,
  levels,
  drain,
  depth,
  under,
  access,
  water,
  walls,
  membrane,
  heating,
  tile,
  order,
  days,
  marks,
  log,
  built,
  handover,
];

/** The phases that have a step. */
export const OPEN_PHASES = PHASES.filter((phase) => STEPS.some((step) => step.phase === phase));

/** What belongs to a place of the plan. */
type Placed = Pick<Finding, "field">;

/** The findings that the open step shows as its own: those of the whole plan too. */
export const ownOf = (step: Step, findings: Finding[]) =>
  findings.filter((finding) => (stepOf(finding) ?? step) === step);

/** How much of a finding's field a step names: of steps that name it, the one that names most. */
const named = (step: Step, { field }: Placed) =>
  Math.max(0, ...step.fields.map((own) => (field.startsWith(own) ? own.length : 0)));

/** The step to which a finding or a value belongs; undefined for what is of the whole plan. */
export const stepOf = (finding: Placed) =>
  STEPS.filter((step) => named(step, finding) > 0).reduce<Step | undefined>(
    (best, step) => (best && named(best, finding) >= named(step, finding) ? best : step),
    undefined,
  );

const GRAVITY: Mark[] = ["stop", "caution", "clear"];

/** The gravest of these marks; null where one that could be graver is not known. */
export function gravest(marks: (Mark | null)[]): Mark | null {
  const worst = GRAVITY.find((mark) => marks.includes(mark)) ?? null;
  return worst === "clear" && marks.includes(null) ? null : worst;
}

/** What a step's mark says: the gravest of its findings and of what the step itself says. */
export function markOf(step: Step, solution: Solution | null): Mark | null {
  if (!solution) return null;
  const own = solution.findings.filter((finding) => stepOf(finding) === step);
  // Without a floor only what was measured can agree.
  const said = step.phase === "Measure" || solution.complete ? "clear" : null;
  return gravest([
    ...own.map((finding) => finding.severity),
    step.says ? step.says(solution) : said,
  ]);
}
