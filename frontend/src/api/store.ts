/** What is wrong with the store; the newest copy that is whole. */
export interface Trouble {
  kind: "damaged" | "not writable";
  detail: string;
  copy: string | null;
}
export interface StoreState {
  trouble: Trouble | null;
  /** Why what is done every day was not done, as a sentence; empty where it was. */
  undone: string;
  copies: { name: string; made_at: string; size: number; whole: boolean }[];
  folder: string;
  kept: {
    days: number;
    weeks: number;
    deleted_days: number;
    every_step_days: number;
    every_hour_days: number;
  };
}
/** What was put in the place of all jobs, in words. */
export interface PutBack {
  told: string;
}
export interface Comings {
  sessions: { key: string; made_at: string; address: string; browser: string; this: boolean }[];
  events: { at: string; kind: string; address: string; detail: string }[];
}
