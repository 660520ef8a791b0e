import type { Plan } from "../api/client";

/** A plan that may not have reached the store, and the revision that it was made from. */
export interface Draft {
  base: number;
  plan: Plan;
}

const key = (id: string) => `calm-basin.draft.${id}`;

export const keepDraft = (id: string, draft: Draft) =>
  localStorage.setItem(key(id), JSON.stringify(draft));

export const dropDraft = (id: string) => localStorage.removeItem(key(id));

export function readDraft(id: string): Draft | null {
  try {
    return JSON.parse(localStorage.getItem(key(id)) ?? "null");
  } catch {
    return null;
  }
}
