import { Download, ShieldAlert, ShieldCheck } from "lucide-react";
import { useState } from "react";
import { useScreen } from "../../job/context";
import { Entry } from "./Entry";
import { EntryForm } from "./EntryForm";
import { useCheck, useLog } from "./useLog";
import { isFleeting } from "./waiting";

/** So many entries are shown at first, and so many more at a press. */
const PAGE = 60;

/** What was done, read and tested: written down where it happens, and never changed. */
export function LogStep() {
  const { jobId } = useScreen();
  const { log, waiting, write, letGo } = useLog(jobId);
  const going = waiting.filter((one) => !one.refused);
  const found = log.data;
  const { data: broken, isError } = useCheck(jobId, found?.last);
  const [most, setMost] = useState(PAGE);
  const byNumber = new Map(found?.entries.map((entry) => [entry.number, entry]));
  const corrected = new Map(
    found?.entries
      .filter((entry) => entry.kind === "correction")
      .map((entry) => [entry.values.entry, entry.number]),
  );
  return (
    <div className="space-y-5">
      {waiting
        .filter((one) => one.refused)
        .map((one) => (
          <div
            key={one.id}
            role="alert"
            className="border-l-4 border-error bg-error/10 rounded-r-box px-3 py-2"
            data-refused={one.id}
          >
            <strong className="block">Not in the log: {one.refused}</strong>
            <span className="block">
              {one.at.replace("T", ", ")}, {one.by}: {Object.values(one.fields).join(" · ")}
            </span>
            <span className="block text-sm">Write it anew below, then let this one go.</span>
            <button type="button" className="btn h-11 mt-1" onClick={() => letGo(one.id)}>
              Let it go
            </button>
          </div>
        ))}
      {going.length > 0 && (
        <p
          className="border-l-4 border-warning bg-warning/10 rounded-r-box px-3 py-2"
          data-waiting={going.length}
        >
          <strong>
            {going.length} {going.length === 1 ? "entry waits" : "entries wait"} in this browser
          </strong>
          <ul className="text-sm">
            {going.map((one) => (
              <li key={one.id}>
                {one.at.slice(11)}, {one.by}:{" "}
                {Object.values(one.fields).filter(Boolean).join(" · ")}
                {one.photo && " · with its picture"}
              </li>
            ))}
          </ul>
          <span className="block">
            {isFleeting(jobId)
              ? "This browser keeps nothing: leave the page open until there is a connection."
              : "They are written in their order once there is a connection."}
          </span>
        </p>
      )}
      <EntryForm onWrite={write} />
      {log.isError && !found && <p>The log is read once there is a connection.</p>}
      {found && (
        <section aria-label="Entries" className="space-y-3">
          {broken && broken.length > 0 ? (
            <div role="alert" className="border-l-4 border-error bg-error/10 rounded-r-box p-3">
              <strong className="flex items-center gap-2">
                <ShieldAlert size={20} aria-hidden /> The log is not what it was
              </strong>
              <ul>
                {broken.map((told) => (
                  <li key={told}>{told}</li>
                ))}
              </ul>
            </div>
          ) : (
            found.entries.length > 0 && (
              <p
                className="flex items-center gap-2 text-sm"
                data-whole={broken ? found.entries.length : undefined}
              >
                {broken && <ShieldCheck size={18} aria-hidden className="text-success shrink-0" />}
                {found.entries.length} {found.entries.length === 1 ? "entry" : "entries"},{" "}
                {broken ? "none changed since" : isError ? "not checked" : "being checked"}; seal{" "}
                {found.last.slice(0, 12)}
              </p>
            )
          )}
          {found.entries.length === 0 ? (
            <p>
              Nothing is written down yet. Begin with what came: measure it before anything is cut.
            </p>
          ) : (
            <a className="btn h-11" href={`/api/jobs/${jobId}/log.csv`}>
              <Download size={18} aria-hidden /> Save as CSV
            </a>
          )}
          <ol className="divide-y divide-base-300 border-y border-base-300" reversed>
            {found.entries
              .slice(-most)
              .toReversed()
              .map((entry) => (
                <Entry
                  key={entry.id}
                  entry={entry}
                  correctedBy={corrected.get(entry.number)}
                  before={byNumber.get(entry.values.before ?? 0)}
                />
              ))}
          </ol>
          {found.entries.length > most && (
            <button type="button" className="btn h-11" onClick={() => setMost(most + PAGE)}>
              Show older entries ({found.entries.length - most})
            </button>
          )}
        </section>
      )}
    </div>
  );
}
