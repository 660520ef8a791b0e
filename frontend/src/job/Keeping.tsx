import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type Problem, UNREACHED } from "../api/client";
import { Modal } from "../ui/Modal";
import { Refusal } from "../ui/Refusal";
import { download } from "../ui/storage";
import { saidOf } from "./asks";
import type { Job } from "./useJob";

const note =
  "border-l-4 border-b border-b-base-300 p-3 shrink-0 flex flex-wrap items-center gap-x-3 gap-y-1";

// Said once in the life of a page, whatever job is open.
let saidUncopied = false;

/** What has to be known of how this job is kept. */
export function Kept({ job, aside }: { job: Job; aside: string[] }) {
  const [heard, setHeard] = useState(saidUncopied);
  const store = useQuery({ queryKey: ["store"], queryFn: api.store, refetchInterval: 30_000 });
  const trouble = store.data?.trouble;
  return (
    <>
      {job.restored && (
        <p className={`${note} border-info bg-info/10`} role="status">
          What had not been saved when this window was last closed is back.
        </p>
      )}
      {aside.map((text, i) => (
        <p key={text} className={`${note} border-warning bg-warning/10`} role="status">
          Unsaved work of this job could not be read. It was put aside and not thrown away.{" "}
          <button
            type="button"
            className="btn h-11"
            onClick={() => download(`unsaved-${i + 1}.json`, text)}
          >
            Download it
          </button>
        </p>
      ))}
      {job.saveState === "offline" && (
        <p className={`${note} border-warning bg-warning/10`} role="status" data-note="offline">
          {job.refused?.status !== 0 && `${UNREACHED} `}
          {job.copied && "What you enter is kept in this browser and saved when it answers again."}
        </p>
      )}
      {job.waits.length > 0 && (
        <ul className={`${note} border-warning bg-warning/10 flex-col items-stretch`}>
          {job.waits.map(({ key, ask, unread }) => (
            <li
              key={key}
              className="flex items-center gap-2"
              data-waits={unread ? "unread" : "yes"}
            >
              <span className="flex-1 min-w-0">
                <b className="break-words">{saidOf(ask)}</b> {unread || "waits for the connection."}
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-square size-11"
                aria-label={`Discard ${saidOf(ask)}`}
                title="Discard it"
                onClick={() => job.letGo(key)}
              >
                <X size={18} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      {job.standing.is === "stuck" && (
        <p className={`${note} border-error bg-error/10`} role="alert" data-note="stuck">
          {job.standing.why} It is tried again by itself.
        </p>
      )}
      {trouble && job.standing.is !== "stuck" && (
        <p className={`${note} border-error bg-error/10`} role="alert">
          {trouble.detail} <Link to="/keeping">Backups</Link>
        </p>
      )}
      {!job.copied && !heard && (
        <p className={`${note} border-warning bg-warning/10`} role="status" data-note="uncopied">
          This browser keeps no copy of unsaved work: its storage is full or blocked. Your edits are
          saved as you make them; only do not close the window while it says “Not saved”.{" "}
          <button
            type="button"
            className="btn h-11"
            onClick={() => {
              saidUncopied = true;
              setHeard(true);
            }}
          >
            All right
          </button>
        </p>
      )}
    </>
  );
}

interface Way {
  label: string;
  take: () => Promise<unknown>;
}

/** What to choose where this window's plan and the store have parted. */
export function Parted({ job }: { job: Job }) {
  const navigate = useNavigate();
  if (job.standing.is === "conflict")
    return (
      <Asked
        title="This job was changed in another window"
        told="Both plans are kept. Keep yours on top, and the other is one undo away; or take the other, and yours becomes a job of its own."
        ways={[
          { label: "Keep mine on top", take: job.keepMine },
          { label: "Take the other, keep mine as a copy", take: job.takeTheirs },
        ]}
      />
    );
  if (job.standing.is === "gone")
    return (
      <Asked
        title="This job was deleted in another window"
        told="Your plan is still here. Bring the job back with its history, or keep what you see as a new job."
        ways={[
          { label: "Bring the job back", take: job.bringBack },
          {
            label: "Save as a new job",
            take: () => job.asNew().then((made) => navigate(`/jobs/${made}/room`)),
          },
          { label: "Let it go", take: async () => navigate("/") },
        ]}
      />
    );
  return null;
}

/** A question that is left by one of its answers only; one that fails says why. */
function Asked({ title, told, ways }: { title: string; told: string; ways: Way[] }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  return (
    <Modal title={title}>
      <p className="mt-2">{told}</p>
      {problem && <Refusal problem={problem} />}
      <div className="flex flex-wrap gap-2 mt-4">
        {ways.map(({ label, take }, i) => (
          <button
            key={label}
            type="button"
            className={`btn h-11 ${i === 0 ? "btn-info" : ""}`}
            onClick={() => void take().catch((error) => setProblem(error as Problem))}
          >
            {label}
          </button>
        ))}
      </div>
    </Modal>
  );
}
