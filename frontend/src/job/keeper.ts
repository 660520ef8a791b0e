import { api, type Head, type Plan, type Problem } from "../api/client";
import { newKey } from "../ui/storage";
import { type Ask, joined, type Waiting } from "./asks";
import { type Draft, dropDraft, keepDraft, liveAs } from "./draft";
import { same } from "./pointer";

/** How the newest plan stands to the store: on its way there unless something keeps it. */
export type Standing =
  | { is: "kept" }
  | { is: "offline" }
  /** The store does not take it now; the message says why. */
  | { is: "stuck"; why: string }
  /** The plan itself was refused. */
  | { is: "refused" }
  | { is: "conflict"; theirs: Head; mine: Plan }
  /** The job was deleted in another window. */
  | { is: "gone" };

const RETRY_AFTER = 3000;
/** Most bytes that a request may carry that outlives its page (Fetch standard, 64 KiB in all). */
const MOST_ON_LEAVING = 60_000;

const closing = new Map<string, Promise<void>>();

/** Wait until what a closed screen of this page had not saved yet is on its way no more. */
export const atRest = (id: string) => closing.get(id) ?? Promise.resolve();

/**
 * Keeps one job's newest plan: one write at a time and in their order, each with this window's key
 * and count, so that one whose answer was lost, or that was overtaken on leaving, is told apart from
 * another window's.
 */
export class Keeper {
  head: Head;
  standing: Standing = { is: "kept" };
  /** Whether the browser keeps a copy of what is not saved yet. */
  copied = true;
  /** Edits that the server has to read or make first, and has not answered yet. */
  waits: Waiting[] = [];
  private newest: Plan;
  private writes = 0;
  private line: Promise<unknown> = Promise.resolve();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly writer = newKey();
  private leave: () => void;
  /** Windows that are gone, whose unsaved work this one has taken over. */
  private heir: string[] = [];
  private closed = false;

  /** `heard` is called when the head or the standing has changed; `adopt` puts a plan on screen. */
  constructor(
    first: Head,
    private readonly heard: () => void,
    private readonly adopt: (plan: Plan) => void,
  ) {
    this.head = first;
    this.newest = first.plan;
    this.leave = liveAs(this.writer);
  }

  get id() {
    return this.head.job_id;
  }

  get unsaved() {
    return !same(this.newest, this.head.plan);
  }

  /** The plan on screen is this one now, perhaps with an edit in it that waited. */
  note(plan: Plan, waited?: Waiting) {
    this.newest = plan;
    this.waits = this.waits.filter((other) => other !== waited);
    if (this.standing.is === "refused") this.stand({ is: "kept" });
    this.copy();
  }

  /** Keep an edit until the server can be asked.
   *
   * @throws Problem where it cannot wait behind another. */
  wait(ask: Ask) {
    this.waits = joined(this.waits, { key: newKey(), ask, unread: "" });
    this.copy();
  }

  /** The server refuses an edit that waited: it stays, with the reason, until it is let go. */
  unread(waited: Waiting, why: string) {
    this.waits = this.waits.map((one) => (one === waited ? { ...one, unread: why } : one));
    this.copy();
  }

  letGo(key: string) {
    this.waits = this.waits.filter((one) => one.key !== key);
    this.copy();
  }

  /** Go on with what a window that is gone had not saved. */
  resume(draft: Draft) {
    this.newest = draft.plan;
    this.waits = draft.waits;
    this.heir.push(draft.writer);
    // Its own later saves are below it; anybody else's are not.
    if (draft.base !== this.head.revision && draft.writer !== this.head.writer)
      this.stand({ is: "conflict", theirs: this.head, mine: draft.plan });
    else this.copy();
  }

  /** Save the newest plan when nothing else is being written. */
  save(): Promise<void> {
    clearTimeout(this.timer);
    return this.inLine(() => this.saveNow());
  }

  /** Undo or redo after what is not saved yet. */
  step(way: "undo" | "redo"): Promise<void> {
    clearTimeout(this.timer);
    return this.inLine(async () => {
      await this.saveNow();
      if (this.standing.is === "conflict" || this.standing.is === "gone") return;
      const before = this.newest;
      if (this.unsaved) {
        // What was refused was never stored: undo goes back to what was.
        if (way === "undo" && this.standing.is === "refused") this.show(this.head.plan);
        return;
      }
      try {
        const moved = await api.step(this.id, this.head.revision, way, this.signed());
        this.head = moved;
        // Typed over meanwhile: what was typed goes on top.
        if (this.newest === before) this.show(moved.plan);
        else this.stand({ is: "kept" });
      } catch (error) {
        const problem = error as Problem;
        if (problem.status === 409 && problem.head) {
          this.head = problem.head;
          this.show(problem.head.plan);
        } else this.failed(problem);
      }
    });
  }

  /** Look whether another window has moved the job on, where nothing of this one waits. */
  look(): Promise<void> {
    return this.inLine(async () => {
      if (this.standing.is === "conflict" || this.standing.is === "gone") return;
      try {
        const seen = await api.head(this.id);
        if (seen.revision === this.head.revision || this.unsaved) return;
        this.head = seen;
        this.show(seen.plan);
      } catch (error) {
        if ((error as Problem).status === 404) this.stand({ is: "gone" });
      }
    });
  }

  /** The page goes: send what is not saved, if it is small enough; else the browser's copy is the
   * newest on return. */
  left() {
    this.leave();
    if (!this.unsaved || this.standing.is === "conflict" || this.standing.is === "gone") return;
    if (JSON.stringify(this.newest).length > MOST_ON_LEAVING) return;
    const mine = this.newest;
    void api
      .save(this.id, this.head.revision, mine, this.signed(), true)
      .then(() => this.settled(mine))
      .catch(() => undefined);
  }

  /** The page that went is shown again as it was. */
  returned() {
    this.leave = liveAs(this.writer);
    void this.save();
  }

  /** Whether closing the page would lose something. */
  get mayLose() {
    if (this.copied || !(this.unsaved || this.waits.length)) return false;
    return (
      this.waits.length > 0 ||
      this.standing.is !== "kept" ||
      JSON.stringify(this.newest).length > MOST_ON_LEAVING
    );
  }

  /** In a conflict: put this window's plan on top of the other. */
  async keepMine() {
    if (this.standing.is !== "conflict") return;
    this.head = this.standing.theirs;
    this.stand({ is: "kept" });
    await this.save();
  }

  /** In a conflict: take the other plan; this window's becomes a job of its own. */
  async takeTheirs() {
    if (this.standing.is !== "conflict") return;
    const { theirs, mine } = this.standing;
    await this.asNew(mine, `${mine.job.name} (my copy)`);
    this.head = theirs;
    this.show(theirs.plan);
  }

  /** The plan as a new job; returns its id. */
  async asNew(plan: Plan, name: string): Promise<string> {
    const head = await api.copy({ ...plan, job: { ...plan.job, name: name.slice(0, 120) } });
    this.forget();
    return head.job_id;
  }

  /** Bring a job back that was deleted in another window, and go on. */
  async bringBack() {
    const { revision, can_undo, can_redo, plan } = await api.restore(this.id);
    this.head = { ...this.head, revision, can_undo, can_redo, plan };
    this.stand({ is: "kept" });
    await this.save();
  }

  /** The page stays but is done with the job: what is not saved yet still is. */
  close() {
    this.closed = true;
    const done = this.save().finally(() => {
      // What could not be saved is found in the browser's copy when the job is opened again.
      if (this.copied || !(this.unsaved || this.waits.length)) this.leave();
      if (closing.get(this.id) === done) closing.delete(this.id);
    });
    closing.set(this.id, done);
  }

  private async saveNow() {
    const { is } = this.standing;
    if (is === "conflict" || is === "gone" || is === "refused") return;
    if (!this.unsaved) {
      // Typed back to what is stored: nothing waits any more.
      if (is !== "kept") this.stand({ is: "kept" });
      return;
    }
    const mine = this.newest;
    try {
      const saved = await api.save(this.id, this.head.revision, mine, this.signed());
      // The store may name what was left to its defaults: what is stored is this plan all the same.
      this.head = { ...saved, plan: mine };
      this.settled(mine);
      this.stand({ is: "kept" });
    } catch (error) {
      this.failed(error as Problem, mine);
    }
  }

  private failed(problem: Problem, mine?: Plan) {
    if (problem.status === 409 && problem.head && mine)
      this.stand({ is: "conflict", theirs: problem.head, mine });
    else if (problem.status === 404) this.stand({ is: "gone" });
    else if (problem.status === 422) {
      if (mine === this.newest) this.stand({ is: "refused" });
    } else {
      const reached = problem.status !== 0;
      this.stand(reached ? { is: "stuck", why: problem.message } : { is: "offline" });
      clearTimeout(this.timer);
      if (!this.closed || !this.copied)
        this.timer = setTimeout(() => void this.save(), RETRY_AFTER);
    }
  }

  private settled(plan: Plan) {
    if (this.newest !== plan) return;
    if (this.waits.length) this.copy();
    else this.forget();
  }

  private forget() {
    for (const writer of [this.writer, ...this.heir]) dropDraft(this.id, writer);
    this.heir = [];
  }

  private signed() {
    this.writes += 1;
    return { writer: this.writer, write: this.writes };
  }

  private show(plan: Plan) {
    this.newest = plan;
    this.copy();
    this.adopt(plan);
    this.stand({ is: "kept" });
  }

  private stand(standing: Standing) {
    this.standing = standing;
    this.heard();
  }

  private copy() {
    const { writer, newest: plan, unsaved: edited, waits } = this;
    if (edited || waits.length) {
      const base = this.head.revision;
      this.copied = keepDraft(this.id, { writer, base, at: Date.now(), plan, edited, waits });
    } else this.forget();
    this.heard();
  }

  private inLine(deed: () => Promise<void>): Promise<void> {
    const next = this.line.then(deed);
    this.line = next.catch(() => undefined);
    return next;
  }
}
