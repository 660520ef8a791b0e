import { newKey } from "../ui/storage";
import type { AsBuilt } from "./generated/as-built";
import type { Added, Said as Asked, Beginning, Edit, Entry } from "./generated/asked";
import type { BestOrigin } from "./generated/best-origin";
import type { Card } from "./generated/card";
import type { Handover } from "./generated/hand-over";
import type { Part } from "./generated/part";
import type { DisplayChoice, Plan } from "./generated/plan";
import type {
  Broken,
  Candidate,
  Clock,
  Comings,
  Compared,
  DeletedJobs,
  Door,
  EditedPlan,
  Families,
  Form,
  Gap,
  Head,
  InstrumentReading,
  Jobs,
  Layers,
  Log,
  LogEntry,
  Outlines,
  PutBack,
  ReadLevels,
  ReadValue,
  RuleSet,
  RuleSets,
  SheetPages,
  Shot,
  StoreState,
  Systems,
  Texts,
  TrialSettings,
} from "./generated/sent";
import type { Solution } from "./generated/solution";
import type { TrialResult } from "./generated/trial";

export type {
  JobRow,
  ListedJob,
  Rule,
  ShelvedFamily,
  ShelvedLayer,
  ShelvedSystem,
} from "./generated/sent";
export type {
  Candidate,
  Comings,
  Compared,
  Edit,
  Form,
  Head,
  Log,
  LogEntry,
  Outlines,
  Plan,
  PutBack,
  RuleSet,
  Solution,
  StoreState,
  TrialSettings,
};

/** What an edit puts in in a common size. */
export type Addition = Added["what"];
/** What a new job's form says: all of it. */
export type Said = Required<Asked>;
/** Which window writes, and its how-manieth write this is. */
export interface Write {
  writer: string;
  write: number;
}
/** What a solve is asked for beside the plan: slower parts, and where the section is cut. */
export interface Question {
  parts: Part[];
  /** What takes longer, as changes that mend findings do (`cures`), comes after all else. */
  later: Part[];
  cures: boolean;
  cut: [[number, number], [number, number]] | null;
}
/** What is typed as people write it, and read by the core. */
export type Typed = "length" | "fall" | "flow";
export type Outlined = "room" | "shower";
/** What ships and of which one may have one's own. */
export type Shelf = "families" | "systems" | "layers";
/** What is written down, as it was typed; it may wait until somebody lets it go. */
export interface LogWriting extends Entry {
  fields: Record<string, string>;
  photo?: Blob;
  /** Whether what the picture says of its place on earth is kept. */
  located?: boolean;
  /** Why it could not be read, of one that had waited. */
  refused?: string;
}
export interface FieldError {
  path: string;
  message: string;
}

/** An error that the server named (problem+json); `status` is 0 where it could not be reached. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly errors: FieldError[] = [],
    readonly head?: Head,
    /** Of a damaged job: the revision before that can be read. */
    readonly sound?: { revision: number | null; made_at: string | null },
  ) {
    super(detail);
  }
}

/** What a page does when the server asks to sign in. */
export const SIGN_IN = "calm-basin:sign-in";

/** What to do where nothing answers: on the computer that runs it, and on another device. */
export const UNREACHED = /^(localhost|127\.|\[::1\])/.test(window.location.host)
  ? "Calm Basin does not answer. Start it again on this computer."
  : "Calm Basin does not answer. Check that this device is on the same network as the computer that runs it, and that it runs there.";

interface Options {
  keepalive?: boolean;
  /** The key of the press that makes something: sent again, it makes no second one. */
  press?: string;
  signal?: AbortSignal;
}

async function answerTo(
  method: string,
  path: string,
  body?: BodyInit,
  { keepalive, press, signal }: Options = {},
): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      body,
      keepalive,
      signal,
      headers: {
        // The browser itself says how a form is parted.
        ...(body !== undefined &&
          !(body instanceof FormData) && { "Content-Type": "application/json" }),
        ...(press && { "Idempotency-Key": press }),
      },
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new Problem(0, "No connection", UNREACHED);
  }
  if (!response.ok) {
    const answer = await response.json().catch(() => ({}));
    if (response.status === 401) window.dispatchEvent(new Event(SIGN_IN));
    throw new Problem(
      response.status,
      answer.title ?? response.statusText,
      answer.detail ?? "The server gave no reason.",
      answer.errors,
      answer.head,
      answer.sound,
    );
  }
  return response;
}

async function call<T>(
  method: string,
  path: string,
  body?: BodyInit,
  options?: Options,
): Promise<T> {
  const response = await answerTo(method, path, body, options);
  return (response.status === 204 ? undefined : await response.json().catch(() => ({}))) as T;
}

const post = <T>(path: string, body: unknown, options?: Options) =>
  call<T>("POST", path, JSON.stringify(body), options);

/** What an answer tells line by line, each as soon as it is there. */
async function* told<T>(path: string, body: unknown, signal: AbortSignal): AsyncGenerator<T> {
  const response = await answerTo("POST", path, JSON.stringify(body), { signal });
  if (!response.body) return;
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read();
    if (done) return;
    const lines = (rest + value).split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) yield JSON.parse(line) as T;
  }
}

/** What lies on a shelf as text, and what is one's own of it. */
export const shelf = (of: Shelf) => ({
  address: (id: string) => `/api/${of}/${id}/file`,
  file: (id: string) => answerTo("GET", `/${of}/${id}/file`).then((answer) => answer.text()),
  remove: (id: string) => call<void>("DELETE", `/${of}/${id}`),
  /** Keep what a file says: the ids that it gave. */
  keep: (file: string) =>
    call<Record<string, Record<string, { id: string } | boolean>[]>>(
      "POST",
      `/${of}/import`,
      file,
    ).then((answer) =>
      (answer[of] ?? []).flatMap((one) =>
        Object.values(one).flatMap((item) => (typeof item === "object" ? [item.id] : [])),
      ),
    ),
});

export const api = {
  jobs: () => call<Jobs>("GET", "/jobs").then((answer) => answer.jobs),
  /** The pages that the job sheet may have, and the papers it may be on. */
  sheetPages: () => call<SheetPages>("GET", "/sheet-pages"),
  sheet: (id: string, paper: string, pages: string[]) =>
    answerTo("GET", `/jobs/${id}/sheet.pdf?paper=${paper}&pages=${pages.join(",")}`).then(
      (response) => response.blob(),
    ),
  /** All files of a job, in one zip. */
  files: (id: string) =>
    answerTo("GET", `/jobs/${id}/files.zip`).then((response) => response.blob()),
  rules: () => call<RuleSets>("GET", "/rules").then((answer) => answer.rule_sets),
  copyRules: (of: string, id: string, name: string) => post<RuleSet>("/rules", { of, id, name }),
  importRules: (file: Blob | string) => call<RuleSet>("POST", "/rules/import", file),
  rulesFile: (id: string) => answerTo("GET", `/rules/${id}/file`).then((answer) => answer.text()),
  removeRules: (id: string) => call<void>("DELETE", `/rules/${id}`),
  families: () => call<Families>("GET", "/families").then((answer) => answer.families),
  systems: () => call<Systems>("GET", "/systems").then((answer) => answer.systems),
  layers: () => call<Layers>("GET", "/layers").then((answer) => answer.layers),
  compare: (plan: Plan, rule_sets: string[]) =>
    post<{ compared: Compared[] }>("/compare", { plan, rule_sets }).then(
      (answer) => answer.compared,
    ),
  create: (job: Beginning, press: string) => post<Head>("/jobs", job, { press }),
  copy: (plan: Plan, press = newKey()) => post<Head>("/jobs", { plan }, { press }),
  importFile: async (file: Blob, press: string) => {
    // A record is a zip, which begins so.
    const zip = (await file.slice(0, 4).text()) === "PK\u0003\u0004";
    return call<Head>("POST", `/jobs/import${zip ? "/record" : ""}`, file, { press });
  },
  deleted: () => call<DeletedJobs>("GET", "/jobs/deleted"),
  /** Make a revision that can be read the head of a damaged job. */
  goBack: (id: string, revision: number) => post<Head>(`/jobs/${id}/go-back`, { revision }),
  /** A draft's plan as this version writes it. */
  readDraft: (plan: unknown) =>
    post<EditedPlan>("/drafts/read", { plan }).then((answer) => answer.plan),
  store: () => call<StoreState>("GET", "/store"),
  restoreCopy: (name: string) => post<PutBack>(`/store/copies/${name}/restore`, {}),
  restoreFile: (file: Blob) => call<PutBack>("POST", "/store/restore", file),
  signIn: (passphrase: string) => post<Door>("/session", { passphrase }),
  session: () => call<Door>("GET", "/session"),
  signOut: () => call<void>("DELETE", "/session"),
  comings: () => call<Comings>("GET", "/sessions"),
  endSession: (key: string) => call<void>("DELETE", `/sessions/${key}`),
  remove: (id: string) => call<void>("DELETE", `/jobs/${id}`),
  restore: (id: string) => call<Head>("POST", `/jobs/${id}/restore`),
  head: (id: string) => call<Head>("GET", `/jobs/${id}`),
  card: (id: string) => call<Card>("GET", `/jobs/${id}/card`),
  save: (id: string, base: number, plan: Plan, write: Write, keepalive = false) =>
    call<Head>("PUT", `/jobs/${id}/plan`, JSON.stringify({ base, plan, ...write }), { keepalive }),
  step: (id: string, base: number, way: "undo" | "redo", write: Write) =>
    post<Head>(`/jobs/${id}/${way}`, { base, ...write }),
  /** Read an instrument near what is expected, as it is typed. */
  instrument: (name: string, near: string, display: DisplayChoice) =>
    post<InstrumentReading>(`/devices/${name}/read`, { near, display }),
  clock: () => call<Clock>("GET", "/devices/clock"),
  shoot: (x: number, y: number) => post<Shot>("/devices/laser/read", { at: [x, y] }),
  /** The plan after an edit that moves more than one value. */
  edit: (plan: Plan, edit: Edit) =>
    post<EditedPlan>("/edit", { plan, ...edit }).then((answer) => answer.plan),
  readLevels: (csv: string, display: DisplayChoice) =>
    post<ReadLevels>("/levels/read", { csv, display }),
  logForms: () => call<{ forms: Form[] }>("GET", "/log-forms"),
  log: (id: string) => call<Log>("GET", `/jobs/${id}/log`),
  /** Where a log is not what it was, in words. */
  logCheck: (id: string) =>
    call<Broken>("GET", `/jobs/${id}/log/check`).then((answer) => answer.broken),
  write: (id: string, { photo, located, ...entry }: LogWriting) => {
    if (!photo) return post<LogEntry>(`/jobs/${id}/log`, entry);
    const form = new FormData();
    form.append("entry", JSON.stringify(entry));
    form.append("photo", photo, "photo");
    if (located) form.append("location", "yes");
    return call<LogEntry>("POST", `/jobs/${id}/log/photos`, form);
  },
  handOver: (id: string) => call<Handover>("GET", `/jobs/${id}/hand-over`),
  /** The record of the work, as PDF or with all that it stands on. */
  record: (id: string, kind: "pdf" | "zip", paper: string) =>
    answerTo("GET", `/jobs/${id}/record.${kind}?paper=${paper}`).then((answer) => answer.blob()),
  asBuilt: (id: string, layer: string, newest: boolean) =>
    call<AsBuilt>("GET", `/jobs/${id}/as-built?layer=${layer}${newest ? "&newest" : ""}`),
  photo: (id: string, hash: string, screen: boolean) =>
    `/api/jobs/${id}/log/photos/${hash}${screen ? "?screen" : ""}`,
  readOutlines: (dxf: string, unit: string | null, display: DisplayChoice) =>
    post<Outlines>("/outlines/read", { dxf, unit, display }),
  straightedge: (plan: Plan, start: [number, number], end: [number, number]) =>
    post<Gap>("/straightedge", { plan, start, end }),
  /** Where the tile is best begun. */
  bestTile: (plan: Plan) => post<BestOrigin>("/tile/best", { plan }),
  solve: (plan: Plan, { parts, later, cures, cut }: Question, signal?: AbortSignal) =>
    post<Solution>("/solve", { plan, parts: [...parts, ...later], cures, cut }, { signal }),
  /** The settings that floors are made with where nobody says otherwise. */
  trialSettings: () => call<TrialSettings>("GET", "/trials"),
  /** Floors made by hand, told one by one; `signal` stops it. */
  trials: async (
    plan: Plan,
    settings: TrialSettings,
    signal: AbortSignal,
    heard: (result: TrialResult) => void,
  ) => {
    for await (const result of told<TrialResult>("/trials", { plan, ...settings }, signal)) {
      heard(result);
    }
  },
  /** Build systems put into a plan, told one by one; `signal` stops it. */
  compareSystems: (plan: Plan, signal: AbortSignal) =>
    told<Candidate>("/compare/systems", { plan }, signal),
  /** Lengths in mm as the display prints them. */
  lengths: (values: number[], display: Partial<DisplayChoice>) =>
    post<Texts>("/print", { values, display }).then((answer) => answer.texts),
  read: (text: string, kind: Typed, display: DisplayChoice) =>
    post<ReadValue>("/read", { text, kind, display }),
};
