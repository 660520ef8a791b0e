import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { FolderUp, Moon, Plus, Scale, Sun } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type JobRow, type Problem } from "../api/client";
import { Masthead } from "../ui/Masthead";
import { Refusal } from "../ui/Refusal";
import { useTheme } from "../ui/theme";
import { JobCard } from "./JobCard";
import { NewJob } from "./NewJob";

export function JobsList() {
  const jobs = useQuery<JobRow[], Problem>({ queryKey: ["jobs"], queryFn: api.jobs });
  const [making, setMaking] = useState(false);
  const [sought, seek] = useState("");
  const [deleted, setDeleted] = useState<JobRow | null>(null);
  const [theme, turn] = useTheme();
  const client = useQueryClient();
  const navigate = useNavigate();
  useEffect(() => {
    document.title = "Calm Basin";
  }, []);
  const bring = useMutation({
    mutationFn: (file: File) => api.importFile(file),
    onSuccess: (head) => navigate(`/jobs/${head.job_id}/room`),
  });
  const remove = useMutation({
    mutationFn: (job: JobRow) => api.remove(job.id),
    onSuccess: (_, job) => setDeleted(job),
    onSettled: () => client.invalidateQueries({ queryKey: ["jobs"] }),
  });
  const restore = useMutation({
    mutationFn: (job: JobRow) => api.restore(job.id),
    onSuccess: () => setDeleted(null),
    onSettled: () => client.invalidateQueries({ queryKey: ["jobs"] }),
  });
  const copy = useMutation({
    mutationFn: async (job: JobRow) => {
      const { plan } = await api.head(job.id);
      const name = `${plan.job.name} (copy)`.slice(0, 120);
      return api.copy({ ...plan, job: { ...plan.job, name } });
    },
    onSettled: () => client.invalidateQueries({ queryKey: ["jobs"] }),
  });
  const found = jobs.data?.filter((job) => job.name.toLowerCase().includes(sought.toLowerCase()));
  return (
    <div className="min-h-full bg-base-100">
      <Masthead>
        <Link to="/rules" className="btn btn-ghost h-11 text-primary-content border-0">
          <Scale size={20} aria-hidden /> Rules
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
          <label className="btn h-11">
            <FolderUp size={20} aria-hidden /> Open a plan file
            <input
              type="file"
              accept=".json,application/json"
              className="sr-only"
              onChange={(event) => {
                const file = event.currentTarget.files?.[0];
                if (file) bring.mutate(file);
                event.currentTarget.value = "";
              }}
            />
          </label>
          <button type="button" className="btn btn-info h-11" onClick={() => setMaking(true)}>
            <Plus size={20} aria-hidden /> New job
          </button>
        </div>
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
          {found?.map((job) => (
            <JobCard
              key={job.id}
              job={job}
              onCopy={() => copy.mutate(job)}
              onDelete={() => remove.mutate(job)}
            />
          ))}
        </ul>
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
