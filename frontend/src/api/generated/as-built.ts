/* Generated from docs/schema by script/format. Do not edit. */

/**
 * The floor as it was built, from the readings of one layer.
 */
export interface AsBuilt {
  layer: string;
  state: ("holds" | "fails" | "open") | null;
  sentence: string;
  error_text: string;
  readings: BuiltReading[];
  outside: number;
  planes: BuiltPlane[];
  puddles: BuiltPuddle[];
  puddles_text: string;
  steps: BuiltStep[];
  map: DifferenceGrid | null;
  work: BuiltWork | null;
  next: [number, number][];
  next_texts: string[];
}
/**
 * A place that was read: its height from the finished level at the entry as built and as
 * planned, and the difference.
 */
export interface BuiltReading {
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
  height: number;
  height_text: string;
  planned_text: string;
  off: number;
  off_text: string;
}
/**
 * A plane of the floor as built: its fall as planned and as built, how well that is known, and
 * how much it is off by. ``unread`` says what is missing where it cannot be judged.
 */
export interface BuiltPlane {
  name: string;
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
  readings: number;
  planned_text: string;
  built: [number, number] | null;
  built_text: string;
  spread_text: string;
  state: ("holds" | "fails" | "open") | null;
  text: string;
  limits: BuiltLimit[];
  off_text: string;
  hollow: number | null;
  hollow_text: string;
  hollow_from: [number, number] | null;
  hollow_to: [number, number] | null;
  unread: string;
}
/**
 * A plane against one limit on falls; ``by_plan``: it is broken by the plan itself, not by how
 * it was built, and is not counted here.
 */
export interface BuiltLimit {
  state: "holds" | "fails" | "open";
  by_plan: boolean;
  limit_text: string;
  source: string;
}
/**
 * Water that would stand on the floor as it is.
 */
export interface BuiltPuddle {
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
  depth: number;
  text: string;
}
/**
 * What is stepped over at the entry, or the depth of the recess, as built.
 */
export interface BuiltStep {
  title: string;
  state: "holds" | "fails" | "open";
  planned_text: string;
  built_text: string;
  text: string;
  source: string;
}
/**
 * What the floor is off by on a grid of cells, mm, row by row from the lower left; null where
 * there is no floor or nothing is known of it.
 */
export interface DifferenceGrid {
  left: number;
  bottom: number;
  size: number;
  columns: number;
  rows: number;
  off: (number | null)[];
}
/**
 * The least work that brings every plane back; ``because`` says why there is none.
 */
export interface BuiltWork {
  needed: boolean;
  possible: boolean;
  because: string;
  grind: Moved | null;
  fill: Moved | null;
  after: DifferenceGrid | null;
}
/**
 * What is ground off or filled: the deepest place, over what, how much, in what packs.
 */
export interface Moved {
  depth: number;
  depth_text: string;
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
  area_text: string;
  litres: number;
  text: string;
}
