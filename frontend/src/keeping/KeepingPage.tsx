import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Download, FolderUp, History, RotateCcw } from "lucide-react";
import { type ReactNode, useEffect, useState } from "react";
import { Link } from "react-router";
import {
  api,
  type Comings,
  type JobRow,
  type Problem,
  type PutBack,
  type StoreState,
} from "../api/client";
import { begun } from "../ui/begun";
import { forgetAnswers } from "../ui/cabinet";
import { Masthead } from "../ui/Masthead";
import { Modal } from "../ui/Modal";
import { Refusal } from "../ui/Refusal";
import { OtherDevices } from "./OtherDevices";

/** A file's size in words. */
const size = (bytes: number) =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

const time = (at: string) =>
  new Date(at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });

const KINDS: Record<string, string> = {
  day: "Copy of the day",
  week: "Copy of the week",
  "before-restore": "Before a restore",
  "before-version": "Before an update",
  damaged: "Damaged, kept as it was",
};

/** What an automatic copy is of, from its name. */
function titleOf(name: string): string {
  const kind = /^(day|week|before-restore|before-version|damaged)-/.exec(name)?.[1];
  return (kind && KINDS[kind]) ?? name;
}

/** What is kept, how it is brought back, and who came in. */
export function KeepingPage() {
  const store = useQuery<StoreState, Problem>({ queryKey: ["store"], queryFn: api.store });
  const deleted = useQuery({ queryKey: ["deleted"], queryFn: api.deleted });
  const comings = useQuery({ queryKey: ["comings"], queryFn: api.comings });
  const [asked, ask] = useState<{ what: string; restore: () => Promise<PutBack> } | null>(null);
  const [done, setDone] = useState("");
  const client = useQueryClient();
  useEffect(() => {
    document.title = "Backups · Calm Basin";
  }, []);
  const restore = useMutation<PutBack, Problem, () => Promise<PutBack>>({
    mutationFn: (deed) => deed(),
    onMutate: () => setDone(""),
    onSuccess: ({ told }) => setDone(`${told} are back. What was there before is in the list.`),
    onSettled: () => {
      ask(null);
      void client.invalidateQueries();
    },
  });
  const bring = useMutation<unknown, Problem, JobRow>({
    mutationFn: (job) => api.restore(job.id),
    onSuccess: (_, job) => setDone(`“${job.name}” is back.`),
    onSettled: () => client.invalidateQueries(),
  });
  const state = store.data;
  const newest = state?.copies.find((copy) => copy.whole);
  return (
    <div className="min-h-full bg-base-100">
      <Masthead>
        <Link to="/" className="btn btn-ghost h-11 text-primary-content border-0">
          Jobs
        </Link>
      </Masthead>
      <main className="max-w-3xl mx-auto px-5 py-8 space-y-8">
        <div>
          <h1 className="text-3xl font-bold">Backups</h1>
          <p className="mt-1">
            {newest
              ? `Newest copy on this machine: ${time(newest.made_at)}, checked when it was written.`
              : "One file holds all jobs with every step that led to them."}
          </p>
        </div>
        {state?.trouble && (
          <div role="alert" className="border-l-4 border-error bg-error/10 rounded-r-box p-3">
            <h2 className="font-bold text-error">Nothing can be saved now</h2>
            <p>{state.trouble.detail}</p>
          </div>
        )}
        {state?.undone && (
          <p role="alert" className="border-l-4 border-warning bg-warning/10 rounded-r-box p-3">
            {state.undone} It is tried again within the hour. Download a backup until then.
          </p>
        )}
        {done && (
          <p role="status" className="border-l-4 border-info bg-info/10 rounded-r-box p-3">
            {done}
          </p>
        )}
        {[store.error, restore.error, bring.error].map(
          (problem) => problem && <Refusal key={problem.message} problem={problem} />,
        )}
        <div className="flex flex-wrap gap-3">
          <a className="btn btn-info h-11" href="/api/store/backup">
            <Download size={20} aria-hidden /> Download a backup
          </a>
          <label className="btn h-11">
            <FolderUp size={20} aria-hidden /> Restore from a file
            <input
              type="file"
              className="sr-only"
              onChange={(event) => {
                const file = event.currentTarget.files?.[0];
                if (file) ask({ what: file.name, restore: () => api.restoreFile(file) });
                event.currentTarget.value = "";
              }}
            />
          </label>
        </div>
        <Listed
          title="Copies on this machine"
          empty="The first is kept within an hour of the first job."
        >
          {state?.copies.map((copy) => (
            <Line
              key={copy.name}
              title={time(copy.made_at)}
              told={`${titleOf(copy.name)}, ${size(copy.size)}`}
              mark={copy.name === state.trouble?.copy ? "newest that is whole" : ""}
            >
              <a className="btn btn-ghost h-11" href={`/api/store/copies/${copy.name}`}>
                <Download size={20} aria-hidden /> Download
              </a>
              <button
                type="button"
                className="btn h-11"
                onClick={() =>
                  ask({
                    what: `the copy of ${time(copy.made_at)}`,
                    restore: () => api.restoreCopy(copy.name),
                  })
                }
              >
                <History size={20} aria-hidden /> Restore
              </button>
            </Line>
          ))}
        </Listed>
        {state && (
          <p className="text-sm">
            One copy a day is kept for {state.kept.days} days and one a week for {state.kept.weeks}{" "}
            weeks, in {state.folder}. Keep one elsewhere too. Of a job every step of the last{" "}
            {state.kept.every_step_days} days can be undone, then the last of each hour up to{" "}
            {state.kept.every_hour_days} days back, then the last of each day.
          </p>
        )}
        <Listed
          title="Deleted jobs"
          empty={`None. A deleted job can be brought back for ${deleted.data?.days ?? 30} days.`}
        >
          {deleted.data?.jobs.map((job) => (
            <Line key={job.id} title={job.name} told={`deleted ${time(job.changed_at)}`}>
              <button type="button" className="btn h-11" onClick={() => bring.mutate(job)}>
                <RotateCcw size={20} aria-hidden /> Bring it back
              </button>
            </Line>
          ))}
        </Listed>
        <OtherDevices />
        {comings.data && <Door {...comings.data} />}
      </main>
      {asked && (
        <Modal title={`Restore ${asked.what}?`} onClose={() => ask(null)}>
          <p className="mt-2">
            All jobs become those of this copy. What is here now is kept as a copy first, so this
            can be taken back.
          </p>
          <div className="flex flex-wrap gap-2 mt-4">
            <button
              type="button"
              className="btn btn-info h-11"
              disabled={restore.isPending}
              onClick={() => restore.mutate(asked.restore)}
            >
              {restore.isPending ? "Restoring…" : "Restore"}
            </button>
            <button type="button" className="btn h-11" onClick={() => ask(null)}>
              Leave all as it is
            </button>
          </div>
        </Modal>
      )}
    </div>
  );
}

function Listed({ title, empty, children }: { title: string; empty: string; children: ReactNode }) {
  const none = !children || (Array.isArray(children) && children.length === 0);
  return (
    <section>
      <h2 className="text-xl font-bold mb-2">{title}</h2>
      {none ? (
        <p>{empty}</p>
      ) : (
        <ul className="border border-base-300 rounded-box divide-y divide-base-300">{children}</ul>
      )}
    </section>
  );
}

interface LineProps {
  title: string;
  told: string;
  mark?: string;
  children?: ReactNode;
}

function Line({ title, told, mark, children }: LineProps) {
  return (
    <li className="flex flex-wrap items-center gap-2 px-3 py-2">
      <span className="flex-1 basis-full sm:basis-48">
        <strong>{title}</strong> {mark && <span className="badge badge-info">{mark}</span>}
        <span className="block text-sm">{told}</span>
      </span>
      {children}
    </li>
  );
}

/** Who is in from other machines, and what was written down. */
function Door({ sessions, events }: Comings) {
  const client = useQueryClient();
  const end = useMutation({
    mutationFn: (key: string) => api.endSession(key),
    onSettled: () => client.invalidateQueries({ queryKey: ["comings"] }),
  });
  const leave = useMutation({
    mutationFn: () => forgetAnswers().then(api.signOut),
    onSettled: () => location.assign("/"),
  });
  return (
    <>
      {sessions.length > 0 && (
        <Listed title="Signed in" empty="">
          {sessions.map((one) => (
            <Line
              key={one.key}
              title={one.address}
              told={`since ${time(one.made_at)}, ${one.browser.slice(0, 60)}`}
              mark={one.this ? "this window" : ""}
            >
              <button
                type="button"
                className="btn h-11"
                onClick={() => (one.this ? leave.mutate() : end.mutate(one.key))}
              >
                Sign out
              </button>
            </Line>
          ))}
        </Listed>
      )}
      <Listed title="Log" empty="Sign-ins, deletions and restores are written down here.">
        {events.slice(0, 20).map((event) => (
          <Line
            key={event.at + event.kind + event.detail}
            title={begun(event.kind)}
            told={[time(event.at), event.address, event.detail.slice(0, 60)]
              .filter(Boolean)
              .join(" · ")}
          />
        ))}
      </Listed>
    </>
  );
}
