import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Archive, Moon, Plus, Scale, Sun } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type JobRow, type ListedJob, type Problem } from "../api/client";
import { dropDraftsBut } from "../job/draft";
import { orLast } from "../ui/cabinet";
import { FileButton } from "../ui/FileButton";
import { Masthead } from "../ui/Masthead";
import { Refusal } from "../ui/Refusal";
import { newKey } from "../ui/storage";
import { useTheme } from "../ui/theme";
import { JobCard } from "./JobCard";
import { NewJob } from "./NewJob";

const PAGE = 40;

export function JobsList() {
  const jobs = useQuery<ListedJob[], Problem>({
    queryKey: ["jobs"],
    queryFn: () => orLast("jobs", api.jobs),
    networkMode: "always",
  });
  const [making, setMaking] = useState(false);
  const [sought, seek] = useState("");
  const [deleted, setDeleted] = useState<JobRow | null>(null);
  const [theme, turn] = useTheme();
  const client = useQueryClient();
  const navigate = useNavigate();
  useEffect(() => {
    document.title = "Calm Basin";
  }, []);
  const relist = () => {
    void client.invalidateQueries({ queryKey: ["jobs"] });
    return client.invalidateQueries({ queryKey: ["deleted"] });
  };
  const bring = useMutation({
    mutationFn: ({ file, press }: { file: File; press: string }) => api.importFile(file, press),
    onSuccess: (head) => navigate(`/jobs/${head.job_id}/room`),
  });
  const remove = useMutation({
    mutationFn: (job: JobRow) => api.remove(job.id),
    onSuccess: (_, job) => setDeleted(job),
    onSettled: relist,
  });
  const restore = useMutation({
    mutationFn: (job: JobRow) => api.restore(job.id),
    onSuccess: () => setDeleted(null),
    onSettled: relist,
  });
  const copy = useMutation({
    mutationFn: async (job: JobRow) => {
      const { plan } = await api.head(job.id);
      const name = `${plan.job.name} (copy)`.slice(0, 120);
      return api.copy({ ...plan, job: { ...plan.job, name } });
    },
    onSettled: () => client.invalidateQueries({ queryKey: ["jobs"] }),
  });
  const store = useQuery({ queryKey: ["store"], queryFn: api.store });
  const deletedJobs = useQuery({ queryKey: ["deleted"], queryFn: api.deleted });
  useEffect(() => {
    // Unsaved work of a job that is gone for good has nowhere to go.
    if (jobs.data && deletedJobs.data)
      dropDraftsBut(new Set([...jobs.data, ...deletedJobs.data.jobs].map((job) => job.id)));
  }, [jobs.data, deletedJobs.data]);
  const [most, setMost] = useState(PAGE);
  const found = jobs.data?.filter((job) => job.name.toLowerCase().includes(sought.toLowerCase()));
  return (
    <div className="min-h-full bg-base-100">
      <Masthead>
        <Link to="/keeping" className="btn btn-ghost h-11 text-primary-content border-0">
          <Archive size={20} aria-hidden /> <span className="max-sm:sr-only">Backups</span>
        </Link>
        <Link to="/rules" className="btn btn-ghost h-11 text-primary-content border-0">
          <Scale size={20} aria-hidden /> <span className="max-sm:sr-only">Rules</span>
        </Link>
        <button
          type="button"
          className="btn btn-ghost btn-square size-11 text-primary-content hover:bg-primary-content/15 border-0"
          aria-label={theme === "tide-day" ? "Dark colours" : "Light colours"}
          onClick={turn}
        >
          {theme === "tide-day" ? <Moon aria-hidden /> : <Sun aria-hidden />}
        </button>
      </Masthead>
      <main className="max-w-5xl mx-auto px-5 py-8">
        <div className="flex flex-wrap gap-3 items-end mb-5">
          <div className="flex-1 min-w-64">
            <h1 className="text-3xl font-bold">Jobs</h1>
            <p className="mt-1">Know how deep the floor has to go before anything is cut.</p>
          </div>
          <FileButton
            accept=".json,.zip,application/json,application/zip"
            onFile={(file) => bring.mutate({ file, press: newKey() })}
          >
            Open a plan file
          </FileButton>
          <button type="button" className="btn btn-info h-11" onClick={() => setMaking(true)}>
            <Plus size={20} aria-hidden /> New job
          </button>
        </div>
        {store.data?.trouble && (
          <div role="alert" className="border-l-4 border-error bg-error/10 rounded-r-box p-3 mb-4">
            <h2 className="font-bold text-error">Nothing can be saved now</h2>
            <p>{store.data.trouble.detail}</p>
            <Link className="btn h-11 mt-2" to="/keeping">
              Backups
            </Link>
          </div>
        )}
        {bring.error && <Refusal problem={bring.error as Problem} />}
        {jobs.error && <Refusal problem={jobs.error} />}
        {jobs.data?.length === 0 && (
          <p className="border border-base-300 rounded-box p-6 text-lg">
            No job yet. Start one with what you measured: the room, where the shower goes and how
            thick the layers are.
          </p>
        )}
        {jobs.data && jobs.data.length > 0 && (
          <input
            type="search"
            className="input w-full h-11 text-base mb-4"
            placeholder="Search by name"
            aria-label="Search by name"
            value={sought}
            onChange={(event) => seek(event.currentTarget.value)}
          />
        )}
        {jobs.data && jobs.data.length > 0 && found?.length === 0 && (
          <p className="text-lg">No job has “{sought}” in its name.</p>
        )}
        <ul className="grid sm:grid-cols-2 gap-4">
          {found?.slice(0, most).map((job) => (
            <JobCard
              key={job.id}
              job={job}
              onCopy={() => copy.isPending || copy.mutate(job)}
              onDelete={() => remove.isPending || remove.mutate(job)}
            />
          ))}
        </ul>
        {found && found.length > most && (
          <button
            type="button"
            className="btn h-11 mt-4 w-full"
            onClick={() => setMost(most + PAGE)}
          >
            Show more ({(found.length - most).toLocaleString()} are left)
          </button>
        )}
        {deleted && (
          <div role="status" className="fixed bottom-4 inset-x-0 flex justify-center px-4">
            <p className="bg-neutral text-neutral-content rounded-box shadow-lg flex items-center gap-3 pl-4 pr-2 py-2">
              “{deleted.name}” was deleted.
              <button type="button" className="btn h-11" onClick={() => restore.mutate(deleted)}>
                Bring it back
              </button>
            </p>
          </div>
        )}
      </main>
      {making && <NewJob onClose={() => setMaking(false)} />}
    </div>
  );
}
