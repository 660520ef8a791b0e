import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import {
  api,
  type Edit,
  type Head,
  type Plan,
  type Problem,
  type Question,
  type Solution,
} from "../api/client";
import type { Change } from "../api/generated/solution";
import { dropDraft, keepDraft, readDraft } from "./draft";
import { same, stillAssumed, withChanges, withValue } from "./pointer";

export type SaveState = "saved" | "saving" | "conflict" | "offline" | "refused";

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
  /** How the plan on screen stands to the store; "saved" only where both are the same. */
  saveState: SaveState;
  /** Whether screen, answer and store are of one plan, with no edit on its way. */
  agrees: boolean;
  conflict: Conflict | null;
  canUndo: boolean;
  canRedo: boolean;
  restored: boolean;
  set: (pointer: string, value: unknown) => void;
  change: (edit: (plan: Plan) => Plan) => void;
  /** Say that these measures are no longer only assumed. */
  confirm: (measured: (path: string) => boolean) => void;
  /** Let the core make an edit; what it refuses is told in `notEdited`. */
  edit: (edit: Edit) => Promise<void>;
  /** Why the last edit could not be made. */
  notEdited: string;
  /** Make the changes that an answer offers. */
  apply: (changes: Change[]) => void;
  /** An edit that is being read or worked out elsewhere before it comes into the plan. */
  during: <T>(edit: Promise<T>) => Promise<T>;
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

/** What was worked out, and of which plan and question it is the answer. */
interface Answer {
  solution: Solution;
  plan: Plan;
  question: Question;
}

export function useJob(first: Head): Job {
  const id = first.job_id;
  const [plan, setPlan] = useState(first.plan);
  const [head, setHead] = useState(first);
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [refused, setRefused] = useState<Problem | null>(null);
  const [offline, setOffline] = useState(false);
  const [coming, setComing] = useState(0);
  const [question, setQuestion] = useState<Question>({ parts: [], later: [], cut: null });
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const [restored, setRestored] = useState(false);
  const [notEdited, setNotEdited] = useState("");

  // What the loops below read: always the newest, without waiting for a render.
  const now = useRef({
    plan: first.plan,
    head: first,
    solved: null as Plan | null,
    held: false,
    question,
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
    saving.current = api
      .save(id, base.revision, mine)
      .then((saved) => {
        // The store may name what was left to its defaults: what is stored is this plan all the same.
        stand({ ...saved, plan: mine });
        setOffline(false);
        if (now.current.plan === mine) dropDraft(id);
      })
      .catch((error: Problem) => {
        if (error.status === 409 && error.head) {
          blocked.current = true;
          setConflict({ theirs: error.head, mine });
        } else {
          setOffline(true);
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
        const whole = now.current.question;
        const first = now.current.solved !== asked && whole.later.length > 0;
        const question = first ? { ...whole, later: [] } : whole;
        try {
          const solution = await api.solve(asked, question);
          now.current.solved = asked;
          now.current.answered = question;
          setAnswer({ solution, plan: asked, question });
          setRefused(null);
          setOffline(false);
          schedule();
        } catch (error) {
          if (asked !== now.current.plan) continue;
          const problem = error as Problem;
          setRefused(problem);
          setOffline(problem.status === 0);
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

  const take = useCallback(
    (next: Plan) => {
      setNotEdited("");
      if (same(next, now.current.plan)) return;
      keepDraft(id, { base: now.current.head.revision, plan: next });
      adopt(next);
    },
    [adopt, id],
  );

  const change = useCallback(
    (edit: (plan: Plan) => Plan) => take(stillAssumed(now.current.plan, edit(now.current.plan))),
    [take],
  );

  const set = useCallback(
    (pointer: string, value: unknown) => change((old) => withValue(old, pointer, value)),
    [change],
  );

  const apply = useCallback(
    (changes: Change[]) => change((old) => withChanges(old, changes)),
    [change],
  );

  const confirm = useCallback(
    (measured: (path: string) => boolean) =>
      change((old) => ({ ...old, assumed: old.assumed.filter((path) => !measured(path)) })),
    [change],
  );

  const ask = useCallback(
    (question: Question) => {
      if (JSON.stringify(question) === JSON.stringify(now.current.question)) return;
      now.current.question = question;
      setQuestion(question);
      void solve();
    },
    [solve],
  );

  const during = useCallback(async <T>(edit: Promise<T>): Promise<T> => {
    setComing((n) => n + 1);
    try {
      return await edit;
    } finally {
      setComing((n) => n - 1);
    }
  }, []);

  const edit = useCallback(
    (asked: Edit) =>
      during(
        (async () => {
          for (;;) {
            const before = now.current.plan;
            try {
              const edited = await api.edit(before, asked);
              // Typed over meanwhile: the edit is made on what stands there now.
              if (before !== now.current.plan) continue;
              take(edited);
            } catch (error) {
              setNotEdited((error as Problem).message);
            }
            return;
          }
        })(),
      ),
    [during, take],
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
        dropDraft(id);
        adopt(base.plan);
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
        } else setOffline(true);
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
    dropDraft(id);
    stand(conflict.theirs);
    adopt(conflict.theirs.plan);
    blocked.current = false;
    setConflict(null);
  }, [adopt, conflict, id, stand]);

  useEffect(() => {
    const draft = readDraft(id);
    if (draft && same(draft.plan, first.plan)) dropDraft(id);
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
          dropDraft(id);
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
  const answered = answer?.plan === plan && answer.question === question;
  const agrees = answered && !unsaved && coming === 0 && !refused && !conflict && !offline;
  let saveState: SaveState = "saved";
  if (offline) saveState = "offline";
  else if (refused) saveState = "refused";
  else if (conflict) saveState = "conflict";
  else if (unsaved || coming > 0 || answer?.plan !== plan) saveState = "saving";
  const solution = answer?.solution ?? null;
  return useMemo(
    () => ({
      plan,
      solution,
      refused,
      saveState,
      agrees,
      during,
      conflict,
      canUndo: head.can_undo || unsaved,
      canRedo: head.can_redo && !unsaved,
      restored,
      set,
      change,
      apply,
      confirm,
      edit,
      notEdited,
      ask,
      hold,
      undo: () => during(step("undo")),
      redo: () => during(step("redo")),
      keepMine: () => during(keepMine()),
      takeTheirs: () => during(takeTheirs()),
    }),
    [
      plan,
      solution,
      refused,
      saveState,
      agrees,
      during,
      conflict,
      head,
      unsaved,
      restored,
      set,
      change,
      apply,
      confirm,
      edit,
      notEdited,
      ask,
      hold,
      step,
      keepMine,
      takeTheirs,
    ],
  );
}
