/* Generated from docs/schema by script/format. Do not edit. */

/**
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Edit".
 */
export type Edit =
  Split | Join | Stretch | Outlined | Added | Built | Screwed | Levelled | Measured | Mirrored | Raised | Removed;

export interface Asked {
  [k: string]: unknown;
}
/**
 * Puts something in in a common size: of a side, or a layer of a kind.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Added".
 */
export interface Added {
  act: "add";
  what:
    | "joists"
    | "slab"
    | "door"
    | "WC"
    | "basin"
    | "cabinet"
    | "washing machine"
    | "radiator"
    | "column"
    | "seat"
    | "folding seat"
    | "bench"
    | "half wall"
    | "bar"
    | "control"
    | "head"
    | "screen"
    | "curtain"
    | "floor outside"
    | "bevel"
    | "bed"
    | "tray"
    | "panels"
    | "cut"
    | "stock tray"
    | "extension"
    | "stated falls"
    | "lower lift"
    | "room layer"
    | "shower layer"
    | "wall layers"
    | "shower wall layer"
    | "other wall layer"
    | "niche"
    | "valve"
    | "stud face"
    | "pour room"
    | "pour shower"
    | "pour both"
    | "tile"
    | "tile sheets"
    | "wall tile sheets"
    | "room tile"
    | "wall tile"
    | "heating"
    | "studs"
    | "heating mat"
    | "rest rising"
    | "rest level"
    | "tape"
    | "taped wall"
    | "diagonal"
    | "drain figure"
    | "other joist"
    | "trimmer"
    | "added joist"
    | "girder"
    | "span"
    | "joist start"
    | "joist end"
    | "service"
    | "service depth"
    | "membrane"
    | "stack"
    | "branch"
    | "bend";
  side?: number | null;
  kind?: string | null;
}
/**
 * Where a staff is set up.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Aimed".
 */
export interface Aimed {
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
}
/**
 * A write over a revision of a job.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Based".
 */
export interface Based {
  writer?: string | null;
  write?: number | null;
  base: number;
}
/**
 * A new job: its name, units and rule set, and what is said of it besides.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Beginning".
 */
export interface Beginning {
  name: string;
  length: "mm" | "cm" | "m" | "in" | "ft";
  rule_set: string;
  said?: Said;
}
/**
 * Builds the shower by a build system.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Built".
 */
export interface Built {
  act: "system";
  system: string;
}
/**
 * Readings as CSV, and what a bare number means where the heading does not say it.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Csv".
 */
export interface Csv {
  csv: string;
  display?: DisplayChoice;
}
/**
 * How lengths and falls are shown and what a bare number means when typed.
 */
export interface DisplayChoice {
  length?: "mm" | "cm" | "m" | "in" | "ft";
  fraction?: 16 | 32 | 64;
  fall?: "ratio" | "percent" | "in_per_ft" | "mm_per_m" | "degrees";
}
/**
 * How lengths and falls are shown and what a bare number means when typed.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "DisplayChoice".
 */
export interface DisplayChoice1 {
  length?: "mm" | "cm" | "m" | "in" | "ft";
  fraction?: 16 | 32 | 64;
  fall?: "ratio" | "percent" | "in_per_ft" | "mm_per_m" | "degrees";
}
/**
 * A drawing, what its numbers are (null: what it says itself) and how sizes are printed.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Dxf".
 */
export interface Dxf {
  dxf: string;
  unit?: ("mm" | "cm" | "m" | "in" | "ft") | null;
  display?: DisplayChoice2;
}
/**
 * How lengths and falls are shown and what a bare number means when typed.
 */
export interface DisplayChoice2 {
  length?: "mm" | "cm" | "m" | "in" | "ft";
  fraction?: 16 | 32 | 64;
  fall?: "ratio" | "percent" | "in_per_ft" | "mm_per_m" | "degrees";
}
/**
 * Where a straightedge lies.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Edge".
 */
export interface Edge {
  /**
   * @minItems 2
   * @maxItems 2
   */
  start: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  end: [number, number];
}
/**
 * Adds a corner at a side of an outline.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Split".
 */
export interface Split {
  act: "split";
  which: "room" | "shower";
  at: number;
}
/**
 * Takes a corner from an outline.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Join".
 */
export interface Join {
  act: "join";
  which: "room" | "shower";
  at: number;
}
/**
 * Gives an outline a size along an axis (0: the width), or the room one at its studs.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Stretch".
 */
export interface Stretch {
  act: "stretch";
  which: "room" | "shower";
  axis: 0 | 1;
  size: number;
  at?: "studs" | null;
}
/**
 * Gives the room an outline.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Outlined".
 */
export interface Outlined {
  act: "outline";
  points: [number, number][];
}
/**
 * Lays the joists through two screws of one line.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Screwed".
 */
export interface Screwed {
  act: "screws";
  /**
   * @minItems 2
   * @maxItems 2
   */
  first: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  last: [number, number];
}
/**
 * Adds the reading of a level that lies on the floor and has a gap, mm, under its end.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Levelled".
 */
export interface Levelled {
  act: "level";
  /**
   * @minItems 2
   * @maxItems 2
   */
  lies: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  end: [number, number];
  gap: number;
}
/**
 * Says where the room was measured: from its studs the finished walls are then moved.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Measured".
 */
export interface Measured {
  act: "measured";
  at: "studs" | "finished";
}
/**
 * Brings the shower to the room's other side or end.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Mirrored".
 */
export interface Mirrored {
  act: "mirror";
  way: "side" | "end";
}
/**
 * Puts the layer at a pointer over the one above it.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Raised".
 */
export interface Raised {
  act: "raise";
  path: string;
}
/**
 * Takes out the list item at a pointer.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Removed".
 */
export interface Removed {
  act: "remove";
  path: string;
}
/**
 * An entry of the site log as it was typed; known by its id, however often it arrives.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Entry".
 */
export interface Entry {
  id: string;
  kind: string;
  by: string;
  at: string;
  fields: {
    [k: string]: unknown;
  };
}
/**
 * What an instrument is expected to read, as it is typed: a length, or a number.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Expected".
 */
export interface Expected {
  near: string;
  display?: DisplayChoice3;
}
/**
 * How lengths and falls are shown and what a bare number means when typed.
 */
export interface DisplayChoice3 {
  length?: "mm" | "cm" | "m" | "in" | "ft";
  fraction?: 16 | 32 | 64;
  fall?: "ratio" | "percent" | "in_per_ft" | "mm_per_m" | "degrees";
}
/**
 * What opens the door.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Passphrase".
 */
export interface Passphrase {
  passphrase: string;
}
/**
 * Lengths, mm, that are printed as a display does.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Printed".
 */
export interface Printed {
  values: number[];
  display: DisplayChoice1;
}
/**
 * One revision of a job.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Revision".
 */
export interface Revision {
  revision: number;
}
/**
 * The rule sets that a plan is held against, by id.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "RuleSetNames".
 */
export interface RuleSetNames {
  rule_sets: string[];
}
/**
 * A rule set of one's own: the copy of one under another id and name.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "RulesCopied".
 */
export interface RulesCopied {
  of: string;
  id: string;
  name: string;
}
/**
 * What a new job's form says: sizes as they are typed, empty where nobody measured yet.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Said".
 */
export interface Said {
  wide?: string;
  deep?: string;
  ground?: ("joists" | "slab") | null;
  where?: "back left" | "back right" | "back";
  across?: string;
  out?: string;
  drain?: "linear" | "point";
  users?: ("walks" | "frame" | "carer" | "chair" | "powered")[];
  accessible?: boolean;
}
/**
 * What a plan is solved for: places whose level is asked for, the section's line, parts that
 * are worked out besides, and whether changes that mend are looked for.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Solved".
 */
export interface Solved {
  at?: [number, number][];
  cut?: [[number, number], [number, number]] | null;
  parts?: ("water" | "marks" | "drain_map" | "ways" | "order" | "days" | "tile" | "heating" | "membrane" | "walls")[];
  cures?: boolean;
}
/**
 * What was typed: a length or a flow in the display's unit, or a fall.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Typed".
 */
export interface Typed {
  text: string;
  kind: "length" | "fall" | "flow";
  display: DisplayChoice1;
}
/**
 * Which window writes, and its how-manieth write this is.
 *
 * This interface was referenced by `Asked`'s JSON-Schema
 * via the `definition` "Written".
 */
export interface Written {
  writer?: string | null;
  write?: number | null;
}
