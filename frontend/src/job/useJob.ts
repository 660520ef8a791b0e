import { CancelledError, type QueryClient, useQueryClient } from "@tanstack/react-query";
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
import { unbrokenIn } from "../api/unbroken";
import { type Answer, covers, keepAnswer, together, withPlaces } from "./answer";
import { type Ask, isLater, type Read, type Waiting } from "./asks";
import type { Found } from "./draft";
import { Keeper, type Standing } from "./keeper";
import { same, stillAssumed, withChanges, withValue } from "./pointer";
import { RETRY_AFTER, useAsks } from "./useAsks";

export type SaveState =
  | "opening"
  | "saved"
  | "saving"
  | "conflict"
  | "offline"
  | "stuck"
  | "refused"
  | "gone";

/** The job on screen: its plan as it is being worked on, the answer to it, and how it is saved. */
export interface Job {
  plan: Plan;
  solution: Solution | null;
  /** Why the plan as it stands cannot be worked out; the solution is then the last good one. */
  refused: Problem | null;
  /** How the plan on screen stands to the store; "saved" only where both are the same. */
  saveState: SaveState;
  /** Whether the changes that the findings show are of the plan on screen. */
  offered: boolean;
  /** Whether screen, answer and store are of one plan, with no edit on its way. */
  agrees: boolean;
  standing: Standing;
  /** Whether the browser keeps a copy of what is not saved yet. */
  copied: boolean;
  canUndo: boolean;
  canRedo: boolean;
  restored: boolean;
  set: (pointer: string, value: unknown) => void;
  change: (edit: (plan: Plan) => Plan) => void;
  /** Say that these measures are no longer only assumed. */
  confirm: (measured: (path: string) => boolean) => void;
  /** Have the core read or make an edit: what it read, or null for an edit that has no measure or
   * waits for the connection; one that the core refuses is a Problem. */
  ask: (ask: Ask) => Promise<Read | null>;
  /** The same for a press of a button; what the core refuses is told in `notEdited`. */
  edit: (edit: Edit) => Promise<void>;
  /** Why the last edit could not be made. */
  notEdited: string;
  /** Edits that wait for the connection. */
  waits: Waiting[];
  /** Let an edit go that waits. */
  letGo: (key: string) => void;
  /** Make the changes that an answer offers. */
  apply: (changes: Change[]) => void;
  /** An edit that is being read or worked out elsewhere before it comes into the plan. */
  during: <T>(edit: Promise<T>) => Promise<T>;
  /** While something is dragged, answers follow but nothing is saved; it may be taken back. */
  hold: (held: "begun" | "ended" | "taken back") => void;
  undo: () => Promise<void>;
  redo: () => Promise<void>;
  keepMine: () => Promise<void>;
  takeTheirs: () => Promise<void>;
  bringBack: () => Promise<void>;
  /** The plan on screen as a job of its own; its id. */
  asNew: () => Promise<string>;
}

const SAVE_AFTER = 450;
/** What was answered last is kept for the next time once no edit follows, ms. */
const REMEMBER_AFTER = 1500;

const answerKey = (job: string) => ["answer", job];

const cancel = (client: QueryClient, job: string) =>
  void client.cancelQueries({ queryKey: answerKey(job) });

/** Work on a job, with what the screen asks for beside the plan. */
export function useJob(first: Head, found: Found, last: Answer | null, question: Question): Job {
  const [plan, setPlan] = useState(first.plan);
  const [answer, setAnswer] = useState<Answer | null>(last);
  const [refused, setRefused] = useState<Problem | null>(null);
  const [unreached, setUnreached] = useState(false);
  const [coming, setComing] = useState(0);
  const [, redraw] = useState(0);
  const client = useQueryClient();

  // What the loops below read: always the newest, without waiting for a render.
  const now = useRef({
    plan: first.plan,
    solved: null as Plan | null,
    held: null as Plan | null,
    question,
    answered: null as Question | null,
    /** The newest answer, of the plan that was solved last. */
    last: last?.solution ?? null,
    /** What is asked for besides of a plan that is answered: nobody waits for it once that changes. */
    besides: null as Question | null,
  });
  const solving = useRef(false);
  const noting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const solveNow = useRef<() => void>(() => {});

  // What a plan that comes from the store does to the screen.
  const adopt = useCallback(
    (next: Plan) => {
      if (now.current.besides && now.current.plan !== next) cancel(client, first.job_id);
      now.current.plan = next;
      setPlan(next);
      // Back at the plan that was answered last, there is nothing to ask and nothing refused.
      if (now.current.solved === next) setRefused(null);
      solveNow.current();
    },
    [client, first.job_id],
  );

  const [keeper] = useState(() => new Keeper(first, () => redraw((n) => n + 1), adopt));

  const newest = useCallback(() => now.current.plan, []);
  const schedule = useCallback(() => {
    clearTimeout(timer.current);
    if (now.current.held || !keeper.unsaved) return;
    timer.current = setTimeout(() => void keeper.save(), SAVE_AFTER);
  }, [keeper]);

  // One request at a time, always for the newest plan: answers never arrive out of order.
  const solve = useCallback(async () => {
    if (solving.current) return;
    solving.current = true;
    try {
      while (
        now.current.solved !== now.current.plan ||
        !covers(now.current.answered, now.current.question)
      ) {
        const asked = now.current.plan;
        const whole = now.current.question;
        const anew = now.current.solved !== asked;
        const soon = { ...whole, later: [], cures: false };
        // What the first answer to this plan had already is not asked for again.
        const late = !anew && covers(now.current.answered, soon) ? now.current.last : null;
        const question = anew ? soon : late ? { ...whole, parts: [] } : whole;
        // Changes that mend are soon tried: ending their work would cost more than waiting for it.
        now.current.besides = anew || whole.later.length === 0 ? null : whole;
        try {
          const found = await client.fetchQuery({
            queryKey: answerKey(first.job_id),
            queryFn: ({ signal }) => api.solve(asked, question, signal).then(unbrokenIn),
            networkMode: "always",
            gcTime: 0,
            structuralSharing: false,
          });
          const solution = anew
            ? withPlaces(found, now.current.last)
            : late
              ? together(late, found, whole)
              : found;
          now.current.solved = asked;
          const known = late ? whole : question;
          now.current.answered = known;
          now.current.last = solution;
          setAnswer({ solution, plan: asked, question: known });
          setRefused(null);
          setUnreached(false);
          clearTimeout(noting.current);
          const answer = { solution, plan: asked, question: known };
          noting.current = setTimeout(() => keepAnswer(first.job_id, answer), REMEMBER_AFTER);
        } catch (error) {
          if (asked !== now.current.plan || error instanceof CancelledError) continue;
          const problem = error as Problem;
          // Not reached, or too busy: the answer comes later. Anything else is about this plan.
          const later = isLater(problem);
          setUnreached(later);
          setRefused(problem);
          if (later) setTimeout(() => void solve(), RETRY_AFTER);
          break;
        }
      }
    } finally {
      now.current.besides = null;
      solving.current = false;
    }
  }, [client, first.job_id]);
  solveNow.current = () => void solve();

  const take = useCallback(
    (next: Plan, waited?: Waiting) => {
      const plan = same(next, now.current.plan) ? now.current.plan : next;
      if (plan === next) adopt(next);
      else if (!waited) return;
      keeper.note(plan, waited);
      schedule();
    },
    [adopt, keeper, schedule],
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

  const during = useCallback(async <T>(edit: Promise<T>): Promise<T> => {
    setComing((n) => n + 1);
    try {
      return await edit;
    } finally {
      setComing((n) => n - 1);
    }
  }, []);

  const { ask, edit, sendWaiting, notEdited } = useAsks(keeper, newest, take, during);

  const hold = useCallback(
    (held: "begun" | "ended" | "taken back") => {
      const { current } = now;
      if (held === "begun") current.held = current.plan;
      else {
        const before = current.held;
        current.held = null;
        if (held === "taken back" && before) take(before);
        schedule();
      }
    },
    [schedule, take],
  );

  useEffect(() => {
    now.current.question = question;
    const { besides } = now.current;
    if (besides && !covers(besides, question)) cancel(client, first.job_id);
    // Before the first answer it is asked for below, once the plan to begin with is known.
    if (now.current.solved) solveNow.current();
  }, [question, client, first.job_id]);

  const restored = found.draft !== null && keeper.standing.is !== "conflict";
  useEffect(() => {
    if (found.draft) {
      keeper.resume(found.draft);
      now.current.plan = found.draft.plan;
      setPlan(found.draft.plan);
      schedule();
    }
    solveNow.current();
    const leave = () => keeper.left();
    const look = () => {
      if (document.visibilityState === "visible") void keeper.look();
    };
    const online = () => {
      void keeper.save();
      void sendWaiting();
      solveNow.current();
    };
    void sendWaiting();
    const back = (event: PageTransitionEvent) => {
      if (event.persisted) keeper.returned();
    };
    const warn = (event: BeforeUnloadEvent) => {
      if (keeper.mayLose) event.preventDefault();
    };
    window.addEventListener("pagehide", leave);
    window.addEventListener("pageshow", back);
    window.addEventListener("beforeunload", warn);
    window.addEventListener("online", online);
    document.addEventListener("visibilitychange", look);
    return () => {
      clearTimeout(timer.current);
      window.removeEventListener("online", online);
      keeper.close();
      window.removeEventListener("pagehide", leave);
      window.removeEventListener("pageshow", back);
      window.removeEventListener("beforeunload", warn);
      document.removeEventListener("visibilitychange", look);
    };
  }, [found, keeper, schedule, sendWaiting]);

  const { head, standing, copied, waits } = keeper;
  const waiting = waits.some(({ unread }) => !unread);
  const unsaved = !same(plan, head.plan);
  // What was answered when the job was open before stands until the answer of now.
  const opening = answer === last && !refused;
  const answered = answer?.plan === plan && covers(answer.question, question) && !opening;
  const offered = answer?.plan === plan && answer.question.cures && !opening;
  const agrees =
    answered && !unsaved && !waiting && coming === 0 && !refused && standing.is === "kept";
  let saveState: SaveState = "saved";
  if (standing.is !== "kept") saveState = standing.is;
  else if (refused?.errors.length) saveState = "refused";
  else if (unreached) saveState = refused?.status === 0 ? "offline" : "saving";
  else if (waiting) saveState = "offline";
  else if (opening && !unsaved && coming === 0) saveState = "opening";
  else if (unsaved || coming > 0 || (answer?.plan !== plan && !refused)) saveState = "saving";
  const solution = answer?.solution ?? null;
  return useMemo(
    () => ({
      plan,
      solution,
      refused,
      saveState,
      offered,
      agrees,
      during,
      standing,
      copied,
      canUndo: head.can_undo || unsaved || waits.length > 0,
      canRedo: head.can_redo && !unsaved,
      restored,
      set,
      change,
      apply,
      confirm,
      ask,
      edit,
      notEdited,
      waits,
      letGo: (key: string) => keeper.letGo(key),
      hold,
      // What waits was asked last and is in no plan yet.
      undo: async () => {
        const last = keeper.waits.at(-1);
        if (last) keeper.letGo(last.key);
        else await during(keeper.step("undo"));
      },
      redo: () => during(keeper.step("redo")),
      keepMine: () => during(keeper.keepMine()),
      takeTheirs: () => during(keeper.takeTheirs()),
      bringBack: () => during(keeper.bringBack()),
      asNew: () => during(keeper.asNew(now.current.plan, now.current.plan.job.name)),
    }),
    [
      plan,
      solution,
      refused,
      saveState,
      offered,
      agrees,
      during,
      standing,
      copied,
      head,
      unsaved,
      restored,
      set,
      change,
      apply,
      confirm,
      ask,
      edit,
      notEdited,
      waits,
      hold,
      keeper,
    ],
  );
}
