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

  /** Send what waits, the first first, until one does not arrive; the last one's outcome is told. */
  const send = useCallback(async (): Promise<Outcome> => {
    for (;;) {
      const [next] = kept(jobId);
      if (!next) return { done: "written" };
      try {
        await api.write(jobId, next);
      } catch (error) {
        const problem = error as Problem;
        if (problem.status !== 422) return { done: "waits" };
        put((old) => old.filter((one) => one.id !== next.id));
        return { refused: problem };
      }
      put((old) => old.filter((one) => one.id !== next.id));
      void client.invalidateQueries({ queryKey: ["log", jobId] });
    }
  }, [client, jobId, put]);

  const write = useCallback(
    async (entry: LogWriting): Promise<Outcome> => {
      put((old) => [...old, entry]);
      await busy.current;
      const sent = send();
      busy.current = sent;
      return sent;
    },
    [put, send],
  );

  useEffect(() => {
    if (waiting.length === 0) return;
    const again = () => {
      const sent = (busy.current ?? Promise.resolve()).then(send);
      busy.current = sent;
    };
    const timer = setInterval(again, AGAIN);
    window.addEventListener("online", again);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [waiting.length, send]);

  return { log, waiting, write };
}
