import type { Finding } from "../api/generated/solution";

/** How grave something is, as it is read. */
export const SAID = { stop: "must fix", caution: "check", clear: "fine" } as const;

/** What makes two findings the same one, as the core has it. */
export const keyOf = ({ code, applies_to, source }: Finding) =>
  [code, applies_to, source].join("|");

/** What lights up where a finding is pointed at, on the chart or in the panel. */
export const litBy = (finding: Finding) => `finding ${keyOf(finding)}`;
