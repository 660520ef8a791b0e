import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type Problem } from "../api/client";
import { Modal } from "../ui/Modal";
import { Refusal } from "../ui/Refusal";
import { download } from "../ui/storage";
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

/** What is asked where this window's plan and the store have parted. */
export function Parted({ job }: { job: Job }) {
  const navigate = useNavigate();
  const [problem, setProblem] = useState<Problem | null>(null);
  const tried = (deed: Promise<unknown>) => deed.catch((error) => setProblem(error as Problem));
  if (job.standing.is === "conflict")
    return (
      <Modal title="This job was changed in another window">
        <p className="mt-2">
          Both plans are kept. Keep yours on top, and the other is one undo away; or take the other,
          and yours becomes a job of its own.
        </p>
        {problem && <Refusal problem={problem} />}
        <div className="flex flex-wrap gap-2 mt-4">
          <button
            type="button"
            className="btn btn-info h-11"
            onClick={() => void tried(job.keepMine())}
          >
            Keep mine on top
          </button>
          <button type="button" className="btn h-11" onClick={() => void tried(job.takeTheirs())}>
            Take the other, keep mine as a copy
          </button>
        </div>
      </Modal>
    );
  if (job.standing.is === "gone")
    return (
      <Modal title="This job was deleted in another window">
        <p className="mt-2">
          Your plan is still here. Bring the job back with its history, or keep what you see as a
          new job.
        </p>
        {problem && <Refusal problem={problem} />}
        <div className="flex flex-wrap gap-2 mt-4">
          <button
            type="button"
            className="btn btn-info h-11"
            onClick={() => void tried(job.bringBack())}
          >
            Bring the job back
          </button>
          <button
            type="button"
            className="btn h-11"
            onClick={() => void tried(job.asNew().then((made) => navigate(`/jobs/${made}/room`)))}
          >
            Save as a new job
          </button>
          <Link className="btn h-11" to="/">
            Let it go
          </Link>
        </div>
      </Modal>
    );
  return null;
}
