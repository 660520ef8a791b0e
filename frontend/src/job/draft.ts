import { api, type Head, type Plan, Problem } from "../api/client";
import { forget, keep, kept, recall } from "../ui/storage";
import type { Waiting } from "./asks";
import { same } from "./pointer";

/** A plan that may not have reached the store: which window made it, from which revision, when; and
 * the edits that wait for the server. */
export interface Draft {
  writer: string;
  base: number;
  at: number;
  plan: Plan;
  /** Whether the plan has edits that were not saved; else only `waits` is of interest. */
  edited: boolean;
  waits: Waiting[];
}

/** What was found of unsaved work when a job was opened. */
export interface Found {
  draft: Draft | null;
  /** Texts that could not be read as a plan and were put aside. */
  aside: string[];
}

const DRAFT = "calm-basin.draft.";
const ASIDE = "calm-basin.aside.";
const WINDOW = "calm-basin.window.";
/** Without locks a draft of a window that lives is told by its age, ms: it is saved before. */
const FRESH = 3000;

// A draft of a version before windows had keys has none.
const keyOf = (id: string, writer: string) => DRAFT + id + (writer && `.${writer}`);
const isOf = (key: string, id: string) => key === DRAFT + id || key.startsWith(`${DRAFT}${id}.`);

export const keepDraft = (id: string, draft: Draft): boolean =>
  keep(keyOf(id, draft.writer), JSON.stringify(draft));

export const dropDraft = (id: string, writer: string) => forget(keyOf(id, writer));

/** Let the drafts go of all jobs that are none of these. */
export function dropDraftsBut(known: Set<string>) {
  for (const key of kept(DRAFT)) {
    const id = key.slice(DRAFT.length).split(".")[0] ?? "";
    if (!known.has(id)) forget(key);
  }
}

/** All unsaved texts of a job, as they are. */
export const unsavedTexts = (id: string): string[] =>
  kept(DRAFT)
    .filter((key) => isOf(key, id))
    .map((key) => recall(key) ?? "");

/** Put the drafts of a job aside: they stay in the browser and are no longer opened. */
export function putAside(id: string) {
  for (const key of kept(DRAFT).filter((one) => isOf(one, id))) moveAside(key, recall(key) ?? "");
}

function moveAside(key: string, text: string) {
  if (keep(ASIDE + key.slice(DRAFT.length), text)) forget(key);
}

/** Say for as long as this page lives that a window's drafts are in its own hands. */
export function liveAs(writer: string): () => void {
  let leave = () => {};
  const held = new Promise<void>((done) => {
    leave = done;
  });
  void navigator.locks?.request(WINDOW + writer, () => held);
  return leave;
}

async function living(): Promise<(draft: Draft) => boolean> {
  const locks = await navigator.locks?.query().catch(() => null);
  if (!locks) return (draft) => Date.now() - draft.at < FRESH;
  const names = new Set(locks.held?.map((lock) => lock.name));
  return (draft) => names.has(WINDOW + draft.writer);
}

/** The newest unsaved plan of a job from a window that is gone, as this version reads it. */
export async function findDraft(head: Head): Promise<Found> {
  const id = head.job_id;
  const found: Found = { draft: null, aside: [] };
  const lives = await living();
  const drafts: [string, Draft][] = [];
  for (const key of kept(DRAFT).filter((one) => isOf(one, id))) {
    const text = recall(key) ?? "";
    try {
      const read = JSON.parse(text);
      if (!read?.plan || typeof read.base !== "number" || !Array.isArray(read.waits ?? []))
        throw new Error("half written");
      drafts.push([key, { writer: "", at: 0, edited: true, waits: [], ...read }]);
    } catch {
      moveAside(key, text);
      found.aside.push(text);
    }
  }
  drafts.sort(([, a], [, b]) => b.at - a.at);
  for (const [key, draft] of drafts) {
    if (lives(draft)) continue;
    if (draft.waits.length && (!draft.edited || same(draft.plan, head.plan))) {
      found.draft = { ...draft, plan: head.plan, base: head.revision };
      return found;
    }
    if (same(draft.plan, head.plan)) {
      forget(key);
      continue;
    }
    try {
      const plan = await api.readDraft(draft.plan);
      if (same(plan, head.plan) && !draft.waits.length) forget(key);
      else {
        found.draft = { ...draft, plan };
        return found;
      }
    } catch (error) {
      // Not reached: it stays where it is for the next time.
      if (!(error instanceof Problem) || error.status !== 422) return found;
      moveAside(key, recall(key) ?? "");
      found.aside.push(recall(ASIDE + key.slice(DRAFT.length)) ?? "");
    }
  }
  return found;
}
