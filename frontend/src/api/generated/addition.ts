/* Generated from docs/schema by script/format. Do not edit. */

export type Addition =
  | "joists"
  | "slab"
  | "door"
  | "WC"
  | "basin"
  | "cabinet"
  | "bed"
  | "tray"
  | "panels"
  | "cut"
  | "room layer"
  | "shower layer"
  | "tile"
  | "rest rising"
  | "rest level"
  | "tape"
  | "taped wall"
  | "diagonal"
  | "head"
  | "drain figure";
