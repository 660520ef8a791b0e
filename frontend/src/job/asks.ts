import {
  api,
  type Edit,
  type Outlined,
  type Plan,
  Problem,
  type Rule,
  type Typed,
} from "../api/client";
import type { DisplayChoice } from "../api/generated/plan";
import { kept, moved, type Way } from "./places";
import { stillAssumed, valueAt, withValue } from "./pointer";

type Level = Plan["survey"]["levels"][number];

/** One of the two measures of a place of the plan, as it is typed: of which place, and how. */
export interface OfPlace extends Way {
  place: string;
}

/** Where a typed measure goes: one value of the plan, a place that it is one measure of, or the
 * size of an outline that is stretched. */
export type Into = { path: string } | OfPlace | { which: Outlined; axis: 0 | 1 };

/** The plan with a place at which one of its measures is what it is told, the other as it was. */
export function putAt(plan: Plan, of: OfPlace, value: number): Plan {
  const put = kept(moved(valueAt(plan, of.place) as [number, number], of, value));
  return stillAssumed(plan, withValue(plan, of.place, put));
}

/** A reading of the floor as it was typed. */
export interface TypedReading {
  kind: Level["kind"];
  at: [number, number];
  value: string;
  instrument: string;
  /** The other end of a level, under which its gap was read. */
  end: [number, number] | null;
}

/** An edit that the core has to read or make before it is in the plan, as data: it can wait. */
export type Ask =
  | {
      what: "measure";
      label: string;
      text: string;
      kind: Typed;
      display: DisplayChoice;
      into: Into;
      /** Pointers of all values that are measured with it. */
      covers: string[];
    }
  | { what: "reading"; display: DisplayChoice; reading: TypedReading }
  | { what: "limit"; display: DisplayChoice; rule: Rule; typed: string; reason: string }
  | { what: "edit"; edit: Edit };

/** An ask that was not answered yet; `unread` says why it never will be as it stands. */
export interface Waiting {
  key: string;
  ask: Ask;
  unread: string;
}

const PRESSED: Record<Edit["act"], string> = {
  split: "Add a corner",
  join: "Remove a corner",
  stretch: "Size",
  outline: "Use another outline",
  add: "Add",
  system: "Use the build system",
  screws: "Set the line of screws",
  measured: "Room measured at",
  level: "Reading of a level",
  mirror: "Shower to the other side",
  raise: "Move a layer up",
  remove: "Remove from the list",
};

/** An ask in words. */
export function saidOf(ask: Ask): string {
  if (ask.what === "measure") return `${ask.label}: ${ask.text}`;
  if (ask.what === "reading") return `Reading: ${ask.reading.value}`;
  if (ask.what === "limit") return `${ask.rule.title}: ${ask.typed}`;
  return ask.edit.act === "add" ? `Add ${ask.edit.what}` : PRESSED[ask.edit.act];
}

/** Whether the server was not reached, or takes nothing now: what was asked is asked again. */
export const isLater = (problem: unknown): problem is Problem =>
  problem instanceof Problem && [0, 401, 503].includes(problem.status);

/** Whether an edit changes which number stands for which part: no second one can wait behind it. */
const renumbers = (ask: Ask) =>
  ask.what === "edit" && ["remove", "split", "join"].includes(ask.edit.act);

// What was typed names parts as the screen showed them: it is put in before anything moves.
const rank = (ask: Ask) => (renumbers(ask) ? 2 : ask.what === "measure" ? 0 : 1);

const place = (ask: Ask) => (ask.what === "measure" ? JSON.stringify(ask.into) : null);

/** What waits, with one ask more: typed again, the former goes.
 *
 * @throws Problem where it counts on parts that another one that waits may renumber. */
export function joined(waits: Waiting[], next: Waiting): Waiting[] {
  if (renumbers(next.ask) && waits.some(({ ask }) => renumbers(ask)))
    throw new Problem(
      422,
      "It cannot wait",
      "One change of what is listed waits for the connection already. Make this one after it.",
    );
  const at = place(next.ask);
  const others = waits.filter(({ ask }) => at === null || place(ask) !== at);
  return [...others, next].toSorted((a, b) => rank(a.ask) - rank(b.ask));
}

/** What is typed for a place and waits. */
export const waitingAt = (waits: Waiting[], into: Into | null) =>
  into ? waits.find(({ ask }) => place(ask) === JSON.stringify(into)) : undefined;

/** A measure in numbers and in the server's words. */
export interface Read {
  value: number;
  text: string;
}

interface Made {
  /** Put it into the plan as it then stands. */
  put: (plan: Plan) => Plan | Promise<Plan>;
  read: Read | null;
}

/** What comes of an ask once the core has read it.
 *
 * @throws Problem where the server refuses what was typed, or is not reached. */
export async function made(ask: Ask): Promise<Made> {
  if (ask.what === "measure") {
    const read = await api.read(ask.text, ask.kind, ask.display);
    return { put: measured(ask.into, ask.covers, read.value), read };
  }
  return { put: await puts(ask), read: null };
}

async function puts(ask: Exclude<Ask, { what: "measure" }>): Promise<Made["put"]> {
  if (ask.what === "edit") return (plan) => api.edit(plan, ask.edit);
  if (ask.what === "reading") {
    return readLevel(ask.reading, ask.display);
  }
  const { rule } = ask;
  const own = {
    topic: rule.topic,
    binds: rule.binds ?? "at_least",
    applies_to: rule.applies_to,
    given: await readLimit(ask.typed, rule, ask.display),
    reason: ask.reason,
  };
  const same = (other: Plan["overrides"][number]) =>
    other.topic === own.topic && other.applies_to === own.applies_to && other.binds === own.binds;
  return (plan) =>
    withValue(plan, "/overrides", [...plan.overrides.filter((one) => !same(one)), own]);
}

const measured =
  (into: Into, covers: string[], value: number): Made["put"] =>
  async (plan) => {
    const surely = (edited: Plan) => ({
      ...edited,
      assumed: edited.assumed.filter((path) => !covers.includes(path)),
    });
    if ("which" in into)
      return surely(await api.edit(plan, { act: "stretch", ...into, size: value }));
    if (valueAt(plan, "place" in into ? into.place : into.path) === undefined)
      throw new Problem(422, "Gone", "What it was typed for is no longer in the plan.");
    if ("place" in into) return surely(putAt(plan, into, value));
    return surely(stillAssumed(plan, withValue(plan, into.path, value)));
  };

async function readLevel(typed: TypedReading, display: DisplayChoice): Promise<Made["put"]> {
  const length = async (text: string) => (await api.read(text, "length", display)).value;
  const [x, y] = typed.at;
  const read = await length(typed.value);
  const { at: lies, end } = typed;
  if (end) return (plan) => api.edit(plan, { act: "level", lies, end, gap: read });
  const level: Level =
    typed.kind === "staff"
      ? {
          kind: "staff",
          x,
          y,
          reading: read,
          instrument: await length(typed.instrument || "0"),
          simulated: false,
        }
      : { kind: "height", x, y, height: read };
  return (plan) => withValue(plan, "/survey/levels", [...plan.survey.levels, level]);
}

/** What was typed as a rule file writes it: a fall, a length in mm, or two of them. */
async function readLimit(typed: string, rule: Rule, display: DisplayChoice): Promise<string> {
  const length = async (text: string) => {
    const { value } = await api.read(text, "length", display);
    return `${Math.round(value * 1e4) / 1e4}mm`;
  };
  if (rule.width) {
    const [width = "", depth = ""] = typed.split(/[×x]/);
    return `${await length(width)} × ${await length(depth)}`;
  }
  if (!rule.given?.endsWith("mm")) {
    await api.read(typed, "fall", display);
    return typed.trim();
  }
  return length(typed);
}
