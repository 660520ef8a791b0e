/* Generated from docs/schema by script/format. Do not edit. */
import type {Card} from "./card";
import type {Plan} from "./plan";

export interface Sent {
  [k: string]: unknown;
}
/**
 * Where a log is not what it was, in words.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Broken".
 */
export interface Broken {
  broken: string[];
}
/**
 * A system put into this plan: whether it fits, what recess it needs and how much of that is
 * over or short, the step at the entry, and what stands against it.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Candidate".
 */
export interface Candidate {
  id: string;
  name: string;
  says: string;
  verdict: "fits" | "cautions" | "stops" | "none";
  recess: number | null;
  recess_text: string;
  left: number | null;
  left_text: string;
  step_text: string;
  against: string[];
  chosen: boolean;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Clock".
 */
export interface Clock {
  now: string;
  speed: number;
  simulated: boolean;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Coming".
 */
export interface Coming {
  key: string;
  made_at: string;
  address: string;
  browser: string;
  this: boolean;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Comings".
 */
export interface Comings {
  sessions: Coming[];
  events: Happening[];
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Happening".
 */
export interface Happening {
  at: string;
  kind: string;
  address: string;
  detail: string;
}
/**
 * What one rule set finds, in words and one by one, and what it no longer does.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Compared".
 */
export interface Compared {
  id: string;
  name: string;
  summary: string;
  findings: Difference[];
  gone: string[];
}
/**
 * A finding under a rule set. ``here_too`` tells that the plan's own rule set finds the same
 * thing, be it against another limit.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Difference".
 */
export interface Difference {
  severity: "stop" | "caution";
  title: string;
  asked: string;
  source: string;
  here_too: boolean;
}
/**
 * The jobs that can be brought back, so many ``days`` after they were deleted.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "DeletedJobs".
 */
export interface DeletedJobs {
  jobs: JobRow[];
  days: number;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "JobRow".
 */
export interface JobRow {
  id: string;
  name: string;
  made_at: string;
  changed_at: string;
}
/**
 * Whether one has to sign in, whether this browser is in, and whether a passphrase is set.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Door".
 */
export interface Door {
  asked: boolean;
  in: boolean;
  set: boolean;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "EditedPlan".
 */
export interface EditedPlan {
  /**
   * as its own schema has it
   */
  plan: Plan;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Families".
 */
export interface Families {
  families: ShelvedFamily[];
}
/**
 * A drain family as a plan takes it.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "ShelvedFamily".
 */
export interface ShelvedFamily {
  /**
   * as its own schema has it
   */
  family: NonNullable<Plan["waste"]["family"]>;
  ships: boolean;
}
/**
 * A kind of entry with its fields; one with a ``step`` is written in that step.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Form".
 */
export interface Form {
  kind: string;
  title: string;
  hint: string;
  fields: FormField[];
  step: string;
}
/**
 * One field: how it is typed, its ``unit`` where that is not the job's, and whether it may be
 * left empty; the ``device`` that may read it, and the field that says what is expected, or where
 * that is no field's name the expected value itself (``near``).
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "FormField".
 */
export interface FormField {
  name: string;
  label: string;
  type: "length" | "number" | "text" | "long text" | "yes or no" | "choice" | "place" | "photo" | "readings" | "series";
  unit: string;
  needed: boolean;
  choices: string[];
  device: string;
  near: string;
}
/**
 * An outline that may be a room's: its corners, mm, from its own lower left corner, and its
 * size in words.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Found".
 */
export interface Found {
  points: [number, number][];
  text: string;
}
/**
 * The widest gap under a straightedge, and where.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Gap".
 */
export interface Gap {
  gap: number;
  text: string;
  length_text: string;
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
}
/**
 * Where a job stands; ``writer`` is the window that wrote last.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Head".
 */
export interface Head {
  job_id: string;
  revision: number;
  /**
   * as its own schema has it
   */
  plan: Plan;
  can_undo: boolean;
  can_redo: boolean;
  writer: string | null;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "InstrumentReading".
 */
export interface InstrumentReading {
  value: number;
  text: string;
  simulated: boolean;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Jobs".
 */
export interface Jobs {
  jobs: ListedJob[];
}
/**
 * A job in the list with how it looked when it was last worked out, and whether that holds.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "ListedJob".
 */
export interface ListedJob {
  id: string;
  name: string;
  made_at: string;
  changed_at: string;
  /**
   * as its own schema has it
   */
  card: Card | null;
  current: boolean;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "KeptFor".
 */
export interface KeptFor {
  days: number;
  weeks: number;
  deleted_days: number;
  every_step_days: number;
  every_hour_days: number;
}
/**
 * A kind of layer: what it is in a build-up, how thick it usually is, and where it lies.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "LayerKind".
 */
export interface LayerKind {
  document: string;
  from_memory: boolean;
  id: string;
  role: "tile" | "adhesive" | "membrane" | "board" | "plywood" | "cable" | "cast" | "other";
  name: string;
  least: number;
  usual: number;
  most: number;
  places: ("shower" | "room" | "wall")[];
  note: string;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Layers".
 */
export interface Layers {
  layers: ShelvedLayer[];
}
/**
 * A kind of layer with its usual range.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "ShelvedLayer".
 */
export interface ShelvedLayer {
  layer: LayerKind;
  ships: boolean;
}
/**
 * The site log; ``last`` is the hash of its last entry, which binds all before it.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Log".
 */
export interface Log {
  entries: LogEntry[];
  last: string;
}
/**
 * An entry of the site log as it was written, and the verdict on it.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "LogEntry".
 */
export interface LogEntry {
  number: number;
  id: string;
  made_at: string;
  kind: string;
  title: string;
  by: string;
  at: string;
  lines: [string, string][];
  verdict: LogVerdict;
  /**
   * as its own schema has it
   */
  values: {entry?: number; place?: [number, number] | null; before?: number | null};
  photo: LogPhoto | null;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "LogVerdict".
 */
export interface LogVerdict {
  state: "holds" | "fails" | "open" | "none";
  text: string;
  why: string;
  cure: string;
  source: string;
}
/**
 * The picture of a photo's entry: when it was taken, by the camera ("" where it does not say),
 * and whether it still says where on earth.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "LogPhoto".
 */
export interface LogPhoto {
  hash: string;
  media: string;
  size: number;
  width: number;
  height: number;
  taken: string;
  located: boolean;
}
/**
 * What a drawing holds: the unit that it was read in, null where it names none and none was
 * chosen; then there are no layers yet.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Outlines".
 */
export interface Outlines {
  unit: ("mm" | "cm" | "m" | "in" | "ft") | null;
  said: string;
  layers: Layer[];
}
/**
 * A layer with its outlines, the largest first, and what on it is none, and why.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "calm_basin__formats__outline_dxf__Layer".
 */
export interface Layer {
  name: string;
  outlines: Found[];
  told: string[];
}
/**
 * What was put in the place of all jobs, in words.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "PutBack".
 */
export interface PutBack {
  told: string;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "ReadLevels".
 */
export interface ReadLevels {
  /**
   * as its own schema has it
   */
  levels: Plan["survey"]["levels"];
  errors: RowError[];
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "RowError".
 */
export interface RowError {
  row: number;
  message: string;
}
/**
 * What was typed as a number, and printed.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "ReadValue".
 */
export interface ReadValue {
  value: number;
  text: string;
}
/**
 * A limit, a space or a fact of a rule set, in words: how strongly it binds (a fact is only to
 * know) and the same in words; as a rule file writes it: of a limit; a space has a width and a
 * depth.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Rule".
 */
export interface Rule {
  topic: string;
  title: string;
  printed: string;
  applies_to: string;
  weight: ("required" | "advice") | null;
  weighs: string;
  binds: ("at_least" | "at_most") | null;
  given: string | null;
  width: string | null;
  depth: string | null;
  source: string;
  note: string;
}
/**
 * A rule set with its rules; ``layer`` is the rule set that an accessible job adds. What does
 * not ship is one's own and can be removed.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "RuleSet".
 */
export interface RuleSet {
  id: string;
  name: string;
  entered: string;
  deference: string;
  layer: string;
  ships: boolean;
  entries: Rule[];
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "RuleSets".
 */
export interface RuleSets {
  rule_sets: RuleSet[];
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "SheetPage".
 */
export interface SheetPage {
  name: string;
  title: string;
  alone: boolean;
}
/**
 * The pages that the job sheet may have, and the papers it may be on.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "SheetPages".
 */
export interface SheetPages {
  pages: SheetPage[];
  papers: string[];
}
/**
 * A build system as a plan takes it.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "ShelvedSystem".
 */
export interface ShelvedSystem {
  /**
   * as its own schema has it
   */
  system: NonNullable<Plan["system"]>;
  ships: boolean;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Shot".
 */
export interface Shot {
  reading: number;
  instrument: number;
  simulated: boolean;
}
/**
 * The store; ``undone`` says why what is done every day was not done, as a sentence.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "StoreState".
 */
export interface StoreState {
  trouble: Trouble | null;
  undone: string;
  copies: StoredCopy[];
  folder: string;
  kept: KeptFor;
}
/**
 * What is wrong with the store; the newest copy that is whole.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Trouble".
 */
export interface Trouble {
  kind: "damaged" | "not writable";
  detail: string;
  copy: string | null;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "StoredCopy".
 */
export interface StoredCopy {
  name: string;
  made_at: string;
  size: number;
  whole: boolean;
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Systems".
 */
export interface Systems {
  systems: ShelvedSystem[];
}
/**
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "Texts".
 */
export interface Texts {
  texts: string[];
}
/**
 * How the floors are made. Lengths in mm.
 *
 * 95 % of places lie within ``tolerance`` of the plan; errors ``correlation`` apart are alike to
 * 1/e: the length of the trowel or the straightedge. A puddle counts from ``limit`` on.
 *
 * This interface was referenced by `Sent`'s JSON-Schema
 * via the `definition` "TrialSettings".
 */
export interface TrialSettings {
  tolerance: number;
  correlation: number;
  limit: number;
  floors: number;
  seed: number;
}
