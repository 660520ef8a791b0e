import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import {
  api,
  type Head,
  type Plan,
  type Problem,
  type Question,
  type Solution,
} from "../api/client";
import { withValue } from "./pointer";

export type SaveState = "saved" | "saving" | "waiting" | "offline" | "refused";

export interface Conflict {
  theirs: Head;
  mine: Plan;
}

/** The job on screen: its plan as it is being worked on, the answer to it, and how it is saved. */
export interface Job {
  plan: Plan;
  solution: Solution | null;
  /** Why the plan as it stands cannot be worked out; the solution is then the last good one. */
  refused: Problem | null;
  saveState: SaveState;
  conflict: Conflict | null;
  canUndo: boolean;
  canRedo: boolean;
  restored: boolean;
  set: (pointer: string, value: unknown) => void;
  change: (edit: (plan: Plan) => Plan) => void;
  /** What is asked for beside the plan, from now on. */
  ask: (question: Question) => void;
  /** While something is dragged, answers follow but nothing is saved. */
  hold: (held: boolean) => void;
  undo: () => Promise<void>;
  redo: () => Promise<void>;
  keepMine: () => Promise<void>;
  takeTheirs: () => Promise<void>;
}

const SAVE_AFTER = 450;
const RETRY_AFTER = 3000;
const draftKey = (id: string) => `calm-basin.draft.${id}`;
const same = (a: Plan, b: Plan) => JSON.stringify(a) === JSON.stringify(b);

interface Draft {
  base: number;
  plan: Plan;
}

function readDraft(id: string): Draft | null {
  try {
    return JSON.parse(localStorage.getItem(draftKey(id)) ?? "null");
  } catch {
    return null;
  }
}

export function useJob(first: Head): Job {
  const id = first.job_id;
  const [plan, setPlan] = useState(first.plan);
  const [head, setHead] = useState(first);
  const [solution, setSolution] = useState<Solution | null>(null);
  const [refused, setRefused] = useState<Problem | null>(null);
  const [saveState, setSaveState] = useState<SaveState>("saved");
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const [restored, setRestored] = useState(false);

  // What the loops below read: always the newest, without waiting for a render.
  const now = useRef({
    plan: first.plan,
    head: first,
    solved: null as Plan | null,
    held: false,
    question: { parts: [], cut: null } as Question,
    answered: null as Question | null,
  });
  const solving = useRef(false);
  const saving = useRef<Promise<void> | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const blocked = useRef(false);

  const stand = useCallback((to: Head) => {
    now.current.head = to;
    setHead(to);
  }, []);

  const flush = useCallback(async (): Promise<void> => {
    clearTimeout(timer.current);
    if (saving.current) await saving.current;
    const { plan: mine, head: base, solved } = now.current;
    if (blocked.current || mine !== solved || same(mine, base.plan)) return;
    setSaveState("saving");
    saving.current = api
      .save(id, base.revision, mine)
      .then((saved) => {
        stand(saved);
        if (now.current.plan === mine) {
          localStorage.removeItem(draftKey(id));
          setSaveState("saved");
        }
      })
      .catch((error: Problem) => {
        if (error.status === 409 && error.head) {
          blocked.current = true;
          setConflict({ theirs: error.head, mine });
          setSaveState("waiting");
        } else {
          setSaveState("offline");
          timer.current = setTimeout(() => void flush(), RETRY_AFTER);
        }
      })
      .finally(() => {
        saving.current = null;
      });
    await saving.current;
  }, [id, stand]);

  const schedule = useCallback(() => {
    clearTimeout(timer.current);
    if (now.current.held || same(now.current.plan, now.current.head.plan)) return;
    setSaveState("waiting");
    timer.current = setTimeout(() => void flush(), SAVE_AFTER);
  }, [flush]);

  // One request at a time, always for the newest plan: answers never arrive out of order.
  const solve = useCallback(async () => {
    if (solving.current) return;
    solving.current = true;
    try {
      while (
        now.current.solved !== now.current.plan ||
        now.current.answered !== now.current.question
      ) {
        const asked = now.current.plan;
        const question = now.current.question;
        try {
          const answer = await api.solve(asked, question);
          now.current.solved = asked;
          now.current.answered = question;
          setSolution(answer);
          setRefused(null);
          schedule();
        } catch (error) {
          if (asked !== now.current.plan) continue;
          const problem = error as Problem;
          setRefused(problem);
          setSaveState(problem.status === 0 ? "offline" : "refused");
          if (problem.status === 0) setTimeout(() => void solve(), RETRY_AFTER);
          break;
        }
      }
    } finally {
      solving.current = false;
    }
  }, [schedule]);

  const adopt = useCallback(
    (next: Plan) => {
      now.current.plan = next;
      setPlan(next);
      // Back at the plan that was answered last, there is nothing to ask and nothing refused.
      if (now.current.solved === next) setRefused(null);
      void solve();
    },
    [solve],
  );

  const change = useCallback(
    (edit: (plan: Plan) => Plan) => {
      const next = edit(now.current.plan);
      if (same(next, now.current.plan)) return;
      const draft: Draft = { base: now.current.head.revision, plan: next };
      localStorage.setItem(draftKey(id), JSON.stringify(draft));
      adopt(next);
    },
    [adopt, id],
  );

  const set = useCallback(
    (pointer: string, value: unknown) => change((old) => withValue(old, pointer, value)),
    [change],
  );

  const ask = useCallback(
    (question: Question) => {
      if (JSON.stringify(question) === JSON.stringify(now.current.question)) return;
      now.current.question = question;
      void solve();
    },
    [solve],
  );

  const hold = useCallback(
    (held: boolean) => {
      now.current.held = held;
      if (!held && now.current.solved === now.current.plan) schedule();
    },
    [schedule],
  );

  const step = useCallback(
    async (way: "undo" | "redo") => {
      await flush();
      if (blocked.current) return;
      const { plan: mine, head: base } = now.current;
      if (way === "undo" && !same(mine, base.plan)) {
        // What could not be saved was refused: undo goes back to what was.
        localStorage.removeItem(draftKey(id));
        adopt(base.plan);
        setSaveState("saved");
        return;
      }
      try {
        const moved = await api.step(id, base.revision, way);
        stand(moved);
        adopt(moved.plan);
      } catch (error) {
        const problem = error as Problem;
        if (problem.status === 409 && problem.head) {
          stand(problem.head);
          adopt(problem.head.plan);
        } else setSaveState("offline");
      }
    },
    [adopt, flush, id, stand],
  );

  const keepMine = useCallback(async () => {
    if (!conflict) return;
    stand(conflict.theirs);
    blocked.current = false;
    setConflict(null);
    await flush();
  }, [conflict, flush, stand]);

  const takeTheirs = useCallback(async () => {
    if (!conflict) return;
    const job = { ...conflict.mine.job, name: `${conflict.mine.job.name} (my copy)`.slice(0, 120) };
    await api.copy({ ...conflict.mine, job });
    localStorage.removeItem(draftKey(id));
    stand(conflict.theirs);
    adopt(conflict.theirs.plan);
    blocked.current = false;
    setConflict(null);
    setSaveState("saved");
  }, [adopt, conflict, id, stand]);

  useEffect(() => {
    const draft = readDraft(id);
    if (draft && same(draft.plan, first.plan)) localStorage.removeItem(draftKey(id));
    else if (draft) {
      if (draft.base === first.revision) setRestored(true);
      else {
        blocked.current = true;
        setConflict({ theirs: first, mine: draft.plan });
      }
      now.current.plan = draft.plan;
      setPlan(draft.plan);
    }
    void solve();
    const leave = () => {
      const { plan: mine, head: base, solved } = now.current;
      if (!blocked.current && mine === solved && !same(mine, base.plan)) {
        void api.save(id, base.revision, mine, true).then(() => {
          localStorage.removeItem(draftKey(id));
        });
      }
    };
    const look = async () => {
      if (document.visibilityState !== "visible" || blocked.current) return;
      const seen = await api.head(id).catch(() => null);
      const { plan: mine, head: base } = now.current;
      if (seen && seen.revision !== base.revision && same(mine, base.plan)) {
        stand(seen);
        adopt(seen.plan);
      }
    };
    window.addEventListener("pagehide", leave);
    document.addEventListener("visibilitychange", look);
    return () => {
      clearTimeout(timer.current);
      leave();
      window.removeEventListener("pagehide", leave);
      document.removeEventListener("visibilitychange", look);
    };
  }, [adopt, first, id, solve, stand]);

  const unsaved = !same(plan, head.plan);
  return useMemo(
    () => ({
      plan,
      solution,
      refused,
      saveState,
      conflict,
      canUndo: head.can_undo || unsaved,
      canRedo: head.can_redo && !unsaved,
      restored,
      set,
      change,
      ask,
      hold,
      undo: () => step("undo"),
      redo: () => step("redo"),
      keepMine,
      takeTheirs,
    }),
    [
      plan,
      solution,
      refused,
      saveState,
      conflict,
      head,
      unsaved,
      restored,
      set,
      change,
      ask,
      hold,
      step,
      keepMine,
      takeTheirs,
    ],
  );
}
