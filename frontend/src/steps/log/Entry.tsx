import type { LogEntry } from "../../api/client";
import { useLights, useLit } from "../../job/shown";
import { Said } from "../../ui/Said";
import { photoLit } from "./lit";
import { Photos } from "./Photos";

const said = (moment: string) =>
  new Date(moment).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });

/** One entry: what was written down, by whom, and the verdict with its sum. */
interface Props {
  entry: LogEntry;
  correctedBy?: number;
  /** The entry whose photo shows the same before. */
  before?: LogEntry;
}

export function Entry({ entry, correctedBy, before }: Props) {
  const lights = useLights();
  const lit = useLit(photoLit(entry.number));
  const { verdict } = entry;
  return (
    <li
      className={`py-2 [content-visibility:auto] [contain-intrinsic-size:auto_7rem] ${lit ? "bg-info/15" : ""}`}
      data-entry={entry.number}
      data-verdict={verdict.state}
      {...(entry.photo && lights(photoLit(entry.number)))}
    >
      <div className="flex gap-2 items-baseline">
        <span className="text-sm w-6 shrink-0">{entry.number}</span>
        <span className={`flex-1 font-semibold ${correctedBy ? "line-through" : ""}`}>
          {entry.title}
        </span>
        <span className="text-sm text-right">
          {said(entry.at)}, {entry.by}
        </span>
      </div>
      <div className="pl-8 leading-snug">
        {correctedBy && (
          <span className="block font-semibold">Corrected by entry {correctedBy}</span>
        )}
        {verdict.state !== "none" && <Said state={verdict.state} text={verdict.text} />}
        {verdict.cure && <span className="block">{verdict.cure}</span>}
        {entry.photo && <Photos entry={entry} before={before} />}
        <dl className="text-sm flex flex-wrap gap-x-4">
          {entry.lines.map(([label, text]) => (
            <div key={label} className="flex gap-1">
              <dt>{label}</dt>
              <dd className="font-semibold">{text}</dd>
            </div>
          ))}
        </dl>
        {verdict.why && (
          <details className="text-sm">
            <summary className="btn btn-ghost h-11 px-2 font-medium">why?</summary>
            <p>{verdict.why}.</p>
            {verdict.source && <p>{verdict.source}</p>}
          </details>
        )}
      </div>
    </li>
  );
}
