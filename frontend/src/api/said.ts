import type { Plan } from "./generated/plan";

/** What a new job's form says: sizes as they are typed, empty where nobody measured yet. */
export interface Said {
  wide: string;
  deep: string;
  ground: "joists" | "slab" | null;
  where: "back left" | "back right" | "back";
  across: string;
  out: string;
  drain: "linear" | "point";
  users: Plan["users"][number][];
  accessible: boolean;
}

/** A new job: its name, units and rule set, and what is said of it besides. */
export interface Beginning {
  name: string;
  length: string;
  rule_set: string;
  said: Said;
}
