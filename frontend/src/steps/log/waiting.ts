import type { LogWriting } from "../../api/log";
import { forget, recall, keep as store } from "../../ui/storage";

const place = (jobId: string) => `calm-basin.log.${jobId}`;

/** What this browser would not keep: it lasts as long as the page. */
const unkept = new Map<string, LogWriting[]>();

/** What was written down and has not arrived yet, the first first; it survives the window. */
export function kept(jobId: string): LogWriting[] {
  const held = unkept.get(jobId);
  if (held) return held;
  try {
    const found: unknown = JSON.parse(recall(place(jobId)) ?? "[]");
    return Array.isArray(found) ? found : [];
  } catch {
    return [];
  }
}

export function keep(jobId: string, waiting: LogWriting[]) {
  unkept.delete(jobId);
  if (!waiting.length) forget(place(jobId));
  else if (!store(place(jobId), JSON.stringify(waiting))) unkept.set(jobId, waiting);
}

/** Whether what waits would be lost with the page. */
export const isFleeting = (jobId: string) => unkept.has(jobId);
