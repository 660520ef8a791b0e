import type { LogWriting } from "../../api/client";
import { cabinet } from "../../ui/cabinet";
import { forget, recall } from "../../ui/storage";

/** What this browser would not keep: it lasts as long as the page. */
const unkept = new Map<string, LogWriting[]>();

/** What was written down and has not arrived yet, the first first; it survives the window. */
export async function kept(jobId: string): Promise<LogWriting[]> {
  const here = unkept.get(jobId) ?? [];
  try {
    const db = await cabinet();
    await moveOver(jobId);
    return [...((await db?.getAllFromIndex("waiting", "job", jobId)) ?? []), ...here];
  } catch {
    return here;
  }
}

/** Keep an entry until it has arrived. */
export async function add(jobId: string, entry: LogWriting) {
  try {
    const db = await cabinet();
    if (!db) throw new Error("This browser keeps nothing.");
    const written = db.transaction("waiting", "readwrite", { durability: "strict" });
    await written.store.add({ ...entry, job: jobId });
    await written.done;
  } catch {
    unkept.set(jobId, [...(unkept.get(jobId) ?? []), entry]);
  }
}

/** Let an entry go: it has arrived, or nobody wants it. */
export const remove = (jobId: string, id: string) => change(jobId, id, () => null);

/** Keep with an entry why it cannot be read. */
export const refuse = (jobId: string, id: string, refused: string) =>
  change(jobId, id, (entry) => ({ ...entry, refused }));

async function change(jobId: string, id: string, to: (entry: LogWriting) => LogWriting | null) {
  const here = unkept.get(jobId)?.flatMap((one) => (one.id === id ? (to(one) ?? []) : [one]));
  if (here?.length) unkept.set(jobId, here);
  else unkept.delete(jobId);
  try {
    const db = await cabinet();
    const written = db?.transaction("waiting", "readwrite");
    let at = await written?.store.index("job").openCursor(jobId);
    for (; at; at = await at.continue()) {
      if (at.value.id !== id) continue;
      const changed = to(at.value);
      if (changed) await at.update({ ...changed, job: jobId });
      else await at.delete();
    }
    await written?.done;
  } catch {
    // Sent again, it is in the log once.
  }
}

/** Entries that a version before kept in another place. */
async function moveOver(jobId: string) {
  const place = `calm-basin.log.${jobId}`;
  const text = recall(place);
  if (text === null) return;
  forget(place);
  const found: unknown = JSON.parse(text);
  for (const entry of Array.isArray(found) ? found : []) await add(jobId, entry);
}

/** Whether what waits would be lost with the page. */
export const isFleeting = (jobId: string) => unkept.has(jobId);
