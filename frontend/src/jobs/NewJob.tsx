import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { useNavigate } from "react-router";
import { api, type Problem } from "../api/client";
import { Modal } from "../ui/Modal";
import { Refusal } from "../ui/Refusal";
import { newKey } from "../ui/storage";

/** Start a job: its name, units and rule set. */
export function NewJob({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const rules = useQuery({ queryKey: ["rules"], queryFn: api.rules });
  const [name, setName] = useState("");
  const [length, setLength] = useState("mm");
  const [rule, setRule] = useState<string | null>(null);
  // One press of Start is one job, however often it is pressed or sent.
  const [press] = useState(newKey);
  const [error, setError] = useState<Problem | null>(null);
  const id = useId();
  const chosen = rule ?? (length === "in" || length === "ft" ? "us-dwelling" : "uk");
  async function make(event: FormEvent) {
    event.preventDefault();
    try {
      const head = await api.create(name, length, chosen, press);
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
