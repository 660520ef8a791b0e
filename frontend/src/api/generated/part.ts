/* Generated from docs/schema by script/format. Do not edit. */

export type Part =
  "water" | "marks" | "drain_map" | "ways" | "order" | "days" | "tile" | "heating" | "membrane" | "walls";
