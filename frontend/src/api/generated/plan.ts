/* Generated from docs/schema by script/format. Do not edit. */

/**
 * The whole document.
 */
export interface Plan {
  format: "calm-basin-plan";
  version: 1;
  job: Job;
  display: DisplayChoice;
  rule_set: string;
  room: Room;
  floor: JoistFloor | SlabFloor;
  shower: Shower;
}
export interface Job {
  name: string;
  note: string;
}
/**
 * How lengths and falls are shown and what a bare number means when typed.
 */
export interface DisplayChoice {
  length: "mm" | "cm" | "m" | "in" | "ft";
  fraction: 16 | 32;
  fall: "ratio" | "percent" | "in_per_ft" | "mm_per_m" | "degrees";
}
export interface Room {
  outline: [number, number][];
  doors: Door[];
  layers: Layer[];
}
/**
 * An opening in one wall: ``offset`` from the wall's first corner to the near jamb.
 */
export interface Door {
  wall: number;
  offset: number;
  width: number;
  hinge: "first" | "last";
  swing: "in" | "out";
}
/**
 * One layer of a floor's build-up, named by what it is.
 */
export interface Layer {
  name: string;
  thickness: number;
}
/**
 * Boards on joists. The first joist's centre line lies ``first_offset`` from the plan's
 * origin, measured square to ``direction`` (anticlockwise side positive).
 */
export interface JoistFloor {
  kind: "joists";
  deck_thickness: number;
  /**
   * of the joists, anticlockwise from the x axis
   */
  direction: number;
  centres: number;
  width: number;
  depth: number;
  first_offset: number;
}
export interface SlabFloor {
  kind: "slab";
  thickness: number;
}
export interface Shower {
  outline: [number, number][];
  /**
   * which edges of the outline are walked or rolled over
   */
  entries: number[];
  /**
   * how far the shower's edge lies below the room at the entry
   */
  set_down: number;
  /**
   * above the bed or tray
   */
  layers: Layer[];
  former: MortarBed | Tray;
  drain: PointDrain | LinearDrain;
  fall: Fall;
}
/**
 * A setting bed whose thinnest place is at the drain.
 */
export interface MortarBed {
  kind: "bed";
  least_thickness: number;
}
/**
 * A preformed tray with its falls built in.
 */
export interface Tray {
  kind: "tray";
  edge_thickness: number;
}
/**
 * A drain with a rectangular rim; ``width`` lies along ``orientation``.
 */
export interface PointDrain {
  kind: "point";
  /**
   * @minItems 2
   * @maxItems 2
   */
  centre: [number, number];
  width: number;
  length: number;
  orientation: number;
}
/**
 * A channel between two end points of its centre line.
 */
export interface LinearDrain {
  kind: "linear";
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
  width: number;
}
/**
 * The fall asked for, and the run it is measured over at a point drain.
 */
export interface Fall {
  asked: number;
  measured: "corner_run" | "plane_run";
}
