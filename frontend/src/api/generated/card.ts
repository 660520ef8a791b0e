/* Generated from docs/schema by script/format. Do not edit. */

/**
 * What the job is about, what is open, the recess in words, and the floor from above in
 * whole mm.
 */
export interface Card {
  note: string;
  recess: string;
  summary: string;
  stops: boolean;
  room: [number, number][];
  shower: [number, number][];
  planes: [number, number][][];
  rims: [number, number][][];
  entries: [[number, number], [number, number]][];
}
