/** A number before its fraction or its unit, and what times joins. */
const NUMBER =
  /(\d["']?|×) (?=×|\d+\/\d|(?<=× )\d|(?:mm|cm|m|in|ft|per|L|gal|kg|lb|W|V|A|h|min|s)\b)/g;
/** A word before the number that it goes by. */
const NAMED = /\b([Dd]rain|[Dd]oor|[Jj]oist|[Ss]ide|[Ww]all|[Pp]in|[Ss]tep|[Dd]ay) (?=\d)/g;

/** A sentence in which no number parts from its fraction, its unit or what goes by it where a line
 * ends. */
export const unbroken = (text: string) =>
  text.replace(NUMBER, "$1\u00a0").replace(NAMED, "$1\u00a0");

/** What an answer says, with no number parted from its fraction or its unit; what stands in fields
 * and what goes into the plan stays as it is. */
export function unbrokenIn<T>(answer: T): T {
  if (!answer || typeof answer !== "object") return answer;
  const fields = answer as Record<string, unknown>;
  for (const [name, value] of Object.entries(fields)) {
    if (name === "changes" || name === "plan_texts") continue;
    if (typeof value === "string") fields[name] = value.replace(NUMBER, "$1\u00a0");
    else unbrokenIn(value);
  }
  return answer;
}
