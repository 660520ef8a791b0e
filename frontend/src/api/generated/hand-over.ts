/* Generated from docs/schema by script/format. Do not edit. */

/**
 * What is handed over; ``open`` says in a line each what is not done, ``missing`` which of the
 * trades nobody is named of.
 */
export interface Handover {
  holds: HoldPoint[];
  failing: Failing[];
  trades: TradeThere[];
  missing: string[];
  open: string[];
  care: string[];
  care_source: string;
}
/**
 * A hold point, and by whom and when it was signed; empty while it is open.
 */
export interface HoldPoint {
  name: string;
  by: string;
  at: string;
  entry: number | null;
}
/**
 * An entry whose verdict does not hold, and which no later one of its kind puts right.
 */
export interface Failing {
  entry: number;
  title: string;
  state: string;
  text: string;
  cure: string;
}
/**
 * Who of a licensed trade was there, and for what.
 */
export interface TradeThere {
  role: string;
  name: string;
  licence: string;
  what: string;
  entry: number;
}
