import type { Plan, Question, Solution } from "../api/client";
import { recalled, remember } from "../ui/cabinet";
import { keyOf } from "./findings";
import { same } from "./pointer";

/** What was worked out, and of which plan and question it is the answer. */
export interface Answer {
  solution: Solution;
  plan: Plan;
  question: Question;
}

/** Whether an answer to one question has all that another asks for. */
export function covers(answered: Question | null, { parts, later, cures, cut }: Question) {
  if (!answered || !same(answered.cut, cut) || (cures && !answered.cures)) return false;
  const known = [...answered.parts, ...answered.later];
  return [...parts, ...later].every((part) => known.includes(part));
}

/** Figures, drawings and findings of a plan whose cures are not known yet: those of the plan before
 * keep their places until then. */
export function withPlaces(found: Solution, before: Solution | null): Solution {
  const kept = new Map(before?.findings.map((finding) => [keyOf(finding), finding.cures]));
  const findings = found.findings.map((finding) => ({
    ...finding,
    cures: kept.get(keyOf(finding)) ?? [],
  }));
  return { ...found, findings };
}

/** What was answered at once, with what came later. */
export function together(soon: Solution, late: Solution, { parts }: Question): Solution {
  return { ...late, ...Object.fromEntries(parts.map((part) => [part, soon[part]])) };
}

/** This version of the page: an answer kept by another may have another form. */
const VERSION = import.meta.url;

/** Keep an answer for the next time that its job is opened. */
export const keepAnswer = (jobId: string, answer: Answer) =>
  void remember(`answer ${jobId}`, { ...answer, version: VERSION });

/** What was answered last of a job. */
export const lastAnswer = (jobId: string) =>
  recalled<Answer & { version: string }>(`answer ${jobId}`);

/** The same where it was of this plan and kept by this version. */
export const answerOf = (plan: Plan, last: Awaited<ReturnType<typeof lastAnswer>>) =>
  last?.version === VERSION && same(last.plan, plan)
    ? { solution: last.solution, plan, question: last.question }
    : null;
