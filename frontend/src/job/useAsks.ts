import { useCallback, useEffect, useRef, useState } from "react";
import type { Edit, Plan, Problem } from "../api/client";
import { type Ask, isLater, made, type Read, type Waiting } from "./asks";
import type { Keeper } from "./keeper";

/** How long until what was not reached is tried again, ms. */
export const RETRY_AFTER = 3000;

/** Edits that the core reads or makes: at once where it is reached, in their order when it is again.
 *
 * `newest` is the plan on screen, `take` puts another there, `during` says that one is coming. */
export function useAsks(
  keeper: Keeper,
  newest: () => Plan,
  take: (plan: Plan, waited?: Waiting) => void,
  during: <T>(edit: Promise<T>) => Promise<T>,
) {
  /** Why the last press could not be done, and at which plan. */
  const [not, setNot] = useState<{ why: string; at: Plan } | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const sending = useRef(false);

  const make = useCallback(
    async (ask: Ask, waited?: Waiting): Promise<Read | null> => {
      const { put, read } = await made(ask);
      for (;;) {
        const before = newest();
        const edited = await put(before);
        // Typed over meanwhile: the edit is made on what stands there now.
        if (before !== newest()) continue;
        take(edited, waited);
        return read;
      }
    },
    [newest, take],
  );

  const sendWaiting = useCallback(async () => {
    clearTimeout(timer.current);
    const parted = () => keeper.standing.is === "conflict" || keeper.standing.is === "gone";
    const next = () => keeper.waits.find(({ unread }) => !unread);
    if (sending.current) return;
    sending.current = true;
    for (let waited = next(); waited && !parted(); waited = next()) {
      try {
        await make(waited.ask, waited);
      } catch (problem) {
        if (isLater(problem)) break;
        keeper.unread(waited, (problem as Error).message);
      }
    }
    sending.current = false;
    if (next()) timer.current = setTimeout(() => void sendWaiting(), RETRY_AFTER);
  }, [keeper, make]);

  useEffect(() => () => clearTimeout(timer.current), []);

  const ask = useCallback(
    (asked: Ask) =>
      during(
        make(asked).catch((problem) => {
          if (!isLater(problem)) throw problem;
          keeper.wait(asked);
          clearTimeout(timer.current);
          timer.current = setTimeout(() => void sendWaiting(), RETRY_AFTER);
          return null;
        }),
      ),
    [during, keeper, make, sendWaiting],
  );

  const edit = useCallback(
    async (asked: Edit) => {
      setNot(null);
      try {
        await ask({ what: "edit", edit: asked });
      } catch (problem) {
        setNot({ why: (problem as Problem).message, at: newest() });
      }
    },
    [ask, newest],
  );

  return { ask, edit, sendWaiting, notEdited: not && not.at === newest() ? not.why : "" };
}
