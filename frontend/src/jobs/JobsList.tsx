import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { FolderUp, Moon, Plus, Sun, Trash2 } from "lucide-react";
import { type FormEvent, useEffect, useId, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type JobRow, type Problem } from "../api/client";
import { Modal } from "../ui/Modal";
import { useTheme } from "../ui/theme";

export function JobsList() {
  const jobs = useQuery<JobRow[], Problem>({ queryKey: ["jobs"], queryFn: api.jobs });
  const [making, setMaking] = useState(false);
  const [doomed, setDoomed] = useState<JobRow | null>(null);
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
    onSettled: () => {
      setDoomed(null);
      void client.invalidateQueries({ queryKey: ["jobs"] });
    },
  });
  return (
    <div className="min-h-full bg-base-100">
      <header className="bg-primary text-primary-content px-6 py-3 flex items-center gap-3">
        <img src="/favicon.svg" alt="" className="size-8 rounded" />
        <span className="text-xl font-bold flex-1">Calm Basin</span>
        <button
          type="button"
          className="btn btn-ghost btn-square size-11 text-primary-content hover:bg-primary-content/15 border-0"
          aria-label={theme === "tide-day" ? "Dark colours" : "Light colours"}
          onClick={turn}
        >
          {theme === "tide-day" ? <Moon aria-hidden /> : <Sun aria-hidden />}
        </button>
      </header>
      <main className="max-w-4xl mx-auto px-5 py-8">
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
        <ul className="divide-y divide-base-300 border-y border-base-300 empty:hidden">
          {jobs.data?.map((job) => (
            <li key={job.id} className="flex items-center gap-2">
              <Link
                to={`/jobs/${job.id}/room`}
                className="flex-1 min-w-0 py-3.5 px-2 hover:bg-base-200"
              >
                <span className="block text-lg font-semibold">{job.name}</span>
                <span className="text-sm">changed {new Date(job.changed_at).toLocaleString()}</span>
              </Link>
              <button
                type="button"
                className="btn btn-ghost btn-square size-11"
                aria-label={`Delete ${job.name}`}
                onClick={() => setDoomed(job)}
              >
                <Trash2 size={20} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      </main>
      {making && <NewJob onClose={() => setMaking(false)} />}
      {doomed && (
        <Modal title={`Delete “${doomed.name}”?`} onClose={() => setDoomed(null)}>
          <p className="mt-2">
            The job goes with its whole history, and undo does not bring it back. Download its plan
            file first if you may want it again.
          </p>
          <div className="flex gap-2 mt-4">
            <button
              type="button"
              className="btn btn-error h-11"
              onClick={() => remove.mutate(doomed)}
            >
              Delete it
            </button>
            <button type="button" className="btn h-11" onClick={() => setDoomed(null)}>
              Keep it
            </button>
          </div>
        </Modal>
      )}
    </div>
  );
}

function Refusal({ problem }: { problem: Problem }) {
  return (
    <div role="alert" className="border-l-4 border-error bg-error/10 rounded-r-box p-3 mb-4">
      <h2 className="font-bold text-error">{problem.title}</h2>
      {problem.errors?.length ? (
        <ul>
          {problem.errors.map((error) => (
            <li key={error.path + error.message}>
              {error.message} {error.path && <span className="text-sm">(at {error.path})</span>}
            </li>
          ))}
        </ul>
      ) : (
        <p>{problem.message}</p>
      )}
    </div>
  );
}

function NewJob({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const rules = useQuery({ queryKey: ["rules"], queryFn: api.rules });
  const [name, setName] = useState("");
  const [length, setLength] = useState("mm");
  const [rule, setRule] = useState<string | null>(null);
  const [error, setError] = useState<Problem | null>(null);
  const id = useId();
  const chosen = rule ?? (length === "in" || length === "ft" ? "us-dwelling" : "uk");
  async function make(event: FormEvent) {
    event.preventDefault();
    try {
      const head = await api.create(name, length, chosen);
      void navigate(`/jobs/${head.job_id}/room`);
    } catch (problem) {
      setError(problem as Problem);
    }
  }
  return (
    <Modal title="New job" onClose={onClose}>
      <form className="mt-3 space-y-4" onSubmit={make}>
        <div>
          <label htmlFor={`${id}-name`}>Name: the address, or whose bathroom it is</label>
          <input
            id={`${id}-name`}
            className="input w-full h-11 text-lg mt-1"
            value={name}
            maxLength={120}
            required
            onChange={(event) => setName(event.currentTarget.value)}
          />
        </div>
        <div className="flex flex-wrap gap-3">
          <label className="flex-1 min-w-40">
            Units
            <select
              className="select w-full h-11 text-base mt-1"
              value={length}
              onChange={(event) => setLength(event.currentTarget.value)}
            >
              <option value="mm">millimetres</option>
              <option value="cm">centimetres</option>
              <option value="m">metres</option>
              <option value="in">inches</option>
              <option value="ft">feet and inches</option>
            </select>
          </label>
          <label className="flex-1 min-w-40">
            Rule set
            <select
              className="select w-full h-11 text-base mt-1"
              value={chosen}
              onChange={(event) => setRule(event.currentTarget.value)}
            >
              {rules.data?.map((set) => (
                <option key={set.id} value={set.id}>
                  {set.name}
                </option>
              ))}
            </select>
          </label>
        </div>
        <p className="text-sm">
          The job starts with an ordinary room. Replace each measure with your own.
        </p>
        {error && <Refusal problem={error} />}
        <button type="submit" className="btn btn-info h-11">
          Start
        </button>
      </form>
    </Modal>
  );
}
