import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { LogWriting } from "../api/client";

/** What this browser keeps in its database: entries that wait, and what was answered last. */
interface Kept extends DBSchema {
  waiting: { key: number; value: LogWriting & { job: string }; indexes: { job: string } };
  last: { key: string; value: unknown };
}

let opened: Promise<IDBPDatabase<Kept> | null> | undefined;

/** The browser's database; null where it is blocked, full or not there: nothing depends on it. */
export function cabinet(): Promise<IDBPDatabase<Kept> | null> {
  opened ??= openDB<Kept>("calm-basin", 1, {
    upgrade(db) {
      db.createObjectStore("waiting", { autoIncrement: true }).createIndex("job", "job");
      db.createObjectStore("last");
    },
    blocking: (_old, _next, event) => (event.target as IDBDatabase).close(),
    terminated: () => {
      opened = undefined;
    },
  }).catch(() => null);
  return opened;
}

/** Keep what was answered last to a question. */
export async function remember(question: string, answer: unknown) {
  try {
    await (await cabinet())?.put("last", answer, question);
  } catch {
    // What is not kept has to be asked for again.
  }
}

/** What was answered last to a question; undefined where nothing is known. */
export async function recalled<T>(question: string): Promise<T | undefined> {
  try {
    return (await (await cabinet())?.get("last", question)) as T | undefined;
  } catch {
    return undefined;
  }
}

/** The answer to a question, or without a connection the one that was given last. */
export async function orLast<T>(question: string, ask: () => Promise<T>): Promise<T> {
  try {
    const answer = await ask();
    void remember(question, answer);
    return answer;
  } catch (error) {
    const last = isUnreached(error) ? await recalled<T>(question) : undefined;
    if (last === undefined) throw error;
    return last;
  }
}

/** Forget what was answered: whoever comes after has to ask. What waits to be sent stays. */
export async function forgetAnswers() {
  try {
    await (await cabinet())?.clear("last");
  } catch {
    // What cannot be reached was not kept.
  }
}

/** Whether the server was not reached at all. */
const isUnreached = (error: unknown) => (error as { status?: number }).status === 0;
