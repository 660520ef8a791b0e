/* Generated from docs/schema by script/format. Do not edit. */

/**
 * Floors made with workmanship error, so far.
 */
export interface TrialResult {
  done: number;
  floors: number;
  rows: TrialRow[];
  sentence: string;
}
/**
 * What came of floors with one fall: ``holding`` is the share of them that hold a puddle deeper
 * than the limit; depth (mm) and litres are those that 19 floors in 20 stay under.
 */
export interface TrialRow {
  fall: number;
  fall_text: string;
  planned: boolean;
  holding: number;
  holding_text: string;
  depth: number;
  depth_text: string;
  litres: number;
  litres_text: string;
}
