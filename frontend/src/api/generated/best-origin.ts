/* Generated from docs/schema by script/format. Do not edit. */

/**
 * Where the tile is best begun; no changes where it lies best already.
 */
export interface BestOrigin {
  said: string;
  changes: Change[];
}
/**
 * Sets the value at a JSON pointer of the plan.
 */
export interface Change {
  path: string;
  value: unknown;
}
