import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, type Problem } from "../../api/client";
import type { LogWriting } from "../../api/log";
import { keep, kept } from "./waiting";

/** So often it is tried again while there is no connection, ms. */
const AGAIN = 3000;

/** What became of an entry: it is in the log, it waits, or it cannot be read as it is. */
export type Outcome = { done: "written" | "waits" } | { refused: Problem };

/** The log of a job, and what still waits in this browser: written in its order, each once. */
export function useLog(jobId: string) {
  const client = useQueryClient();
  const log = useQuery({ queryKey: ["log", jobId], queryFn: () => api.log(jobId), retry: false });
  const [waiting, setWaiting] = useState<LogWriting[]>(() => kept(jobId));
  const going = waiting.filter((one) => !one.refused).length;
  const busy = useRef<Promise<unknown> | null>(null);

  const put = useCallback(
    (change: (old: LogWriting[]) => LogWriting[]) => {
      // Another window of this browser may have written meanwhile.
      const next = change(kept(jobId));
      keep(jobId, next);
      setWaiting(next);
    },
    [jobId],
  );

  /** Send what waits, the first first, until one does not arrive. One that cannot be read goes back
   * to the form that it is typed in just now (`own`); any other is kept with the reason. */
  const send = useCallback(
    async (own?: string): Promise<Outcome> => {
      for (;;) {
        const next = kept(jobId).find((one) => !one.refused);
        if (!next) return { done: "written" };
        const gone = (old: LogWriting[]) => old.filter((one) => one.id !== next.id);
        try {
          await api.write(jobId, next);
        } catch (error) {
          const problem = error as Problem;
          if (problem.status !== 422) return { done: "waits" };
          if (next.id === own) {
            put(gone);
            return { refused: problem };
          }
          const refused = problem.errors[0]?.message ?? problem.message;
          put((old) => old.map((one) => (one.id === next.id ? { ...one, refused } : one)));
          continue;
        }
        put(gone);
        void client.invalidateQueries({ queryKey: ["log", jobId] });
      }
    },
    [client, jobId, put],
  );

  const write = useCallback(
    async (entry: LogWriting): Promise<Outcome> => {
      put((old) => [...old, entry]);
      await busy.current;
      const sent = send(entry.id);
      busy.current = sent;
      return sent;
    },
    [put, send],
  );

  const letGo = (id: string) => put((old) => old.filter((one) => one.id !== id));

  useEffect(() => {
    if (going === 0) return;
    const again = () => {
      const sent = (busy.current ?? Promise.resolve()).then(() => send());
      busy.current = sent;
    };
    const timer = setInterval(again, AGAIN);
    window.addEventListener("online", again);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [going, send]);

  return { log, waiting, write, letGo };
}
