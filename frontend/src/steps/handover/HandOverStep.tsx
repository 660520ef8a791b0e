import { FileText, FolderArchive, ShieldCheck } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, type Problem } from "../../api/client";
import type { HoldPoint } from "../../api/generated/hand-over";
import { useScreen } from "../../job/context";
import { Said } from "../../ui/Said";
import { download } from "../../ui/storage";
import { useEntries } from "../log/useLog";
import { useHandover } from "./useHandover";

/** One record for the customer, the inspector and the next trade to open the floor. */
export function HandOverStep() {
  const { jobId, plan, agrees } = useScreen();
  const { data, error } = useHandover();
  const { data: log } = useEntries(jobId);
  const [making, setMaking] = useState<"pdf" | "zip" | null>(null);
  const [problem, setProblem] = useState("");

  async function make(what: "pdf" | "zip") {
    setMaking(what);
    setProblem("");
    try {
      const imperial = plan.display.length === "in" || plan.display.length === "ft";
      const file = await api.record(jobId, what, imperial ? "letter" : "a4");
      download(`${plan.job.name}, record.${what}`, file);
    } catch (failed) {
      setProblem((failed as Problem).message);
    } finally {
      setMaking(null);
    }
  }

  if (!data) return <p role={error ? "alert" : "status"}>{error?.message ?? "Working…"}</p>;
  const seal = log?.last.slice(0, 12);
  return (
    <div className="space-y-5">
      <div role="status" data-open={data.open.length}>
        <Said
          large
          state={data.open.length ? "fails" : "holds"}
          text={data.open.length ? `${data.open.length} still open` : "Nothing is open"}
        />
        {data.failing.length > 0 && (
          <ul className="list-disc pl-6">
            {data.failing.map((one) => (
              <li key={one.entry}>
                <b>
                  Entry {one.entry}, {one.title}: {one.text}.
                </b>{" "}
                {one.cure}
              </li>
            ))}
          </ul>
        )}
      </div>
      <div className="space-y-2">
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn btn-info h-12 px-5"
            disabled={making !== null || !agrees}
            aria-busy={making === "pdf"}
            onClick={() => void make("pdf")}
          >
            <FileText size={20} aria-hidden />
            {making === "pdf" ? "Making the record…" : "Download record (PDF)"}
          </button>
          <button
            type="button"
            className="btn h-12 px-5"
            disabled={making !== null || !agrees}
            aria-busy={making === "zip"}
            onClick={() => void make("zip")}
          >
            <FolderArchive size={20} aria-hidden />
            {making === "zip" ? "Packing…" : "With photos and log (zip)"}
          </button>
        </div>
        {problem && (
          <p role="alert" className="text-error font-semibold">
            {problem}
          </p>
        )}
        {!agrees && <p className="text-sm">The record waits until the plan is saved.</p>}
        {seal && (
          <p className="text-sm flex items-center gap-2">
            <ShieldCheck size={18} aria-hidden className="text-success shrink-0" />
            Seal {seal}. Anyone can check the zip: calm-basin verify FILE --seal {seal}
          </p>
        )}
      </div>
      <section aria-label="Hold points">
        <h2 className="font-semibold mb-1">Hold points</h2>
        {data.holds.length === 0 && <p>The days of this plan have none.</p>}
        <ul className="divide-y divide-base-300 border-y border-base-300">
          {data.holds.map((hold) => (
            <Hold key={hold.name} hold={hold} />
          ))}
        </ul>
        <Link className="btn h-11 mt-2" to={`/jobs/${jobId}/log`}>
          Sign in the site log
        </Link>
      </section>
      <section aria-label="Licensed trades">
        <h2 className="font-semibold mb-1">Licensed trades</h2>
        <ul>
          {data.trades.map((trade) => (
            <li key={trade.entry}>
              <b className="capitalize">{trade.role}</b> {trade.name}
              {trade.licence && `, ${trade.licence}`}: {trade.what}
            </li>
          ))}
        </ul>
        {data.missing.length > 0 && <p>Nobody is named as: {data.missing.join(", ")}.</p>}
      </section>
      <section aria-label="Care of the floor">
        <h2 className="font-semibold mb-1">Care of the floor</h2>
        <ul className="list-disc pl-6">
          {data.care.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </section>
    </div>
  );
}

function Hold({ hold }: { hold: HoldPoint }) {
  return (
    <li className="py-2 flex items-baseline gap-2" data-hold={hold.by ? "signed" : "open"}>
      <span className={`flex-1 ${hold.by ? "" : "font-bold"}`}>{hold.name}</span>
      {hold.by ? (
        <span className="text-sm text-right">
          {hold.by}
          {hold.at && `, ${hold.at.replace("T", ", ")}`}
          {hold.entry && `, entry ${hold.entry}`}
        </span>
      ) : (
        <strong className="text-error">open</strong>
      )}
    </li>
  );
}
