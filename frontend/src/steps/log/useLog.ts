import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, type Log, type LogWriting, type Problem } from "../../api/client";
import { orLast } from "../../ui/cabinet";
import { add, kept, refuse, remove } from "./waiting";

/** So often it is tried again while there is no connection, ms. */
const AGAIN = 3000;
/** So often it is looked what others wrote, ms. */
const OTHERS = 15_000;

/** What became of an entry: it is in the log, it waits, or it cannot be read as it is. */
export type Outcome = { done: "written" | "waits" } | { refused: Problem };

/** The log of a job as it is known: without a connection as it was read last. */
export const useEntries = (jobId: string) =>
  useQuery<Log, Problem>({
    queryKey: ["log", jobId],
    queryFn: () => orLast(`log ${jobId}`, () => api.log(jobId)),
    retry: false,
    networkMode: "always",
    refetchInterval: OTHERS,
  });

/** Where the log is not what it was, in words, as it stands at its last entry. */
export const useCheck = (jobId: string, last: string | undefined) =>
  useQuery<string[], Problem>({
    queryKey: ["log-check", jobId, last],
    queryFn: () => api.logCheck(jobId),
    enabled: last !== undefined,
    retry: false,
    networkMode: "always",
  });

/** The log of a job, and what still waits in this browser: written in its order, each once. */
export function useLog(jobId: string) {
  const client = useQueryClient();
  const log = useEntries(jobId);
  const [waiting, setWaiting] = useState<LogWriting[]>([]);
  const going = waiting.filter((one) => !one.refused).length;
  const busy = useRef<Promise<unknown>>(Promise.resolve());

  const look = useCallback(async () => {
    const found = await kept(jobId);
    setWaiting(found);
    return found;
  }, [jobId]);

  /** Send what waits, the first first, until one does not arrive. One that cannot be read goes back
   * to the form that it is typed in just now (`own`); any other is kept with the reason. */
  const sendNow = useCallback(
    async (own?: string): Promise<Outcome> => {
      for (;;) {
        // Another window of this browser may have written or sent meanwhile.
        const next = (await look()).find((one) => !one.refused);
        if (!next) return { done: "written" };
        try {
          await api.write(jobId, next);
        } catch (error) {
          const problem = error as Problem;
          if (problem.status !== 422) return { done: "waits" };
          if (next.id === own) {
            await remove(jobId, next.id);
            await look();
            return { refused: problem };
          }
          await refuse(jobId, next.id, problem.errors[0]?.message ?? problem.message);
          continue;
        }
        await remove(jobId, next.id);
        void client.invalidateQueries({ queryKey: ["log", jobId] });
      }
    },
    [client, jobId, look],
  );

  /** One window sends at a time, so that what waits arrives in its order. */
  const send = useCallback(
    (own?: string): Promise<Outcome> => {
      const name = `calm-basin.log.${jobId}`;
      const sent = busy.current.then(() =>
        navigator.locks ? navigator.locks.request(name, () => sendNow(own)) : sendNow(own),
      );
      busy.current = sent.catch(() => undefined);
      return sent;
    },
    [jobId, sendNow],
  );

  const write = useCallback(
    async (entry: LogWriting): Promise<Outcome> => {
      await add(jobId, entry);
      await look();
      return send(entry.id);
    },
    [jobId, look, send],
  );

  const letGo = (id: string) => void remove(jobId, id).then(look);

  useEffect(() => {
    // What a window before left waiting.
    void look().then((found) => (found.length ? send() : undefined));
  }, [look, send]);

  useEffect(() => {
    if (going === 0) return;
    const again = () => void send();
    const timer = setInterval(again, AGAIN);
    window.addEventListener("online", again);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [going, send]);

  return { log, waiting, write, letGo };
}
