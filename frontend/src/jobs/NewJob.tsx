import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, type Problem, type Said } from "../api/client";
import { Labelled } from "../ui/Labelled";
import { Modal } from "../ui/Modal";
import { Refusal } from "../ui/Refusal";
import { newKey } from "../ui/storage";
import { sits, UserChoice } from "../ui/UserChoice";
import { Pictures } from "./Pictures";

const UNITS = [
  ["mm", "millimetres"],
  ["cm", "centimetres"],
  ["m", "metres"],
  ["in", "inches"],
  ["ft", "feet and inches"],
] as const;

const NOTHING: Said = {
  wide: "",
  deep: "",
  ground: null,
  where: "back left",
  across: "",
  out: "",
  drain: "linear",
  users: [],
  accessible: false,
};

type Size = "wide" | "deep" | "across" | "out";

/** Start a job with what is known of it: units and rules, the room, its floor, the shower, its drain
 * and who will use it. What is left empty is assumed, and looks so. */
export function NewJob({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const rules = useQuery({ queryKey: ["rules"], queryFn: api.rules });
  const [name, setName] = useState("");
  const [length, setLength] = useState<(typeof UNITS)[number][0]>("mm");
  const [rule, setRule] = useState<string | null>(null);
  const [said, setSaid] = useState(NOTHING);
  const say = (part: Partial<Said>) => setSaid((old) => ({ ...old, ...part }));
  // One press of Start is one job, however often it is pressed or sent.
  const [press] = useState(newKey);
  const [error, setError] = useState<Problem | null>(null);
  const chosen = rule ?? (length === "in" || length === "ft" ? "us-dwelling" : "uk");
  const at = (path: string) => error?.errors?.find((one) => one.path === path)?.message;
  const placed = error?.errors?.every((one) => FIELDS.includes(one.path));

  // The dialog itself gives the keyboard to its first button.
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []);

  async function make(event: FormEvent) {
    event.preventDefault();
    setError(null);
    try {
      const head = await api.create({ name, length, rule_set: chosen, said }, press);
      void navigate(`/jobs/${head.job_id}/room`);
    } catch (problem) {
      setError(problem as Problem);
    }
  }

  const size = (field: Size, label: string) => (
    <Labelled label={label} error={at(`/${field}`)}>
      {(id, note) => (
        <input
          id={id}
          className={`input w-full h-11 text-lg ${note ? "input-error" : ""}`}
          placeholder="not measured yet"
          value={said[field]}
          maxLength={40}
          autoComplete="off"
          aria-invalid={note ? true : undefined}
          aria-describedby={note}
          onChange={(event) => say({ [field]: event.currentTarget.value })}
        />
      )}
    </Labelled>
  );
  return (
    <Modal title="New job" onClose={onClose} wide>
      <form className="mt-2 space-y-3" onSubmit={make} noValidate>
        <div className="flex flex-wrap gap-3">
          <div className="basis-full sm:basis-0 sm:grow-[2] min-w-64">
            <Labelled label="Name: the address, or whose bathroom it is" error={at("/name")}>
              {(id, note) => (
                <input
                  id={id}
                  ref={first}
                  className={`input w-full h-11 text-lg ${note ? "input-error" : ""}`}
                  value={name}
                  maxLength={120}
                  aria-describedby={note}
                  onChange={(event) => setName(event.currentTarget.value)}
                />
              )}
            </Labelled>
          </div>
          <Labelled label="Units">
            {(id) => (
              <select
                id={id}
                className="select w-full h-11 text-base"
                value={length}
                onChange={(event) => setLength(event.currentTarget.value as typeof length)}
              >
                {UNITS.map(([unit, label]) => (
                  <option key={unit} value={unit}>
                    {label}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
          <Labelled label="Rule set">
            {(id) => (
              <select
                id={id}
                className="select w-full h-11 text-base"
                value={chosen}
                onChange={(event) => setRule(event.currentTarget.value)}
              >
                {rules.data?.map((set) => (
                  <option key={set.id} value={set.id}>
                    {set.name}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
        </div>
        <div className="grid sm:grid-cols-2 gap-x-6 gap-y-3">
          <fieldset>
            <legend className="font-semibold">Room, between its finished walls</legend>
            <div className="flex gap-3">
              {size("wide", "Width")}
              {size("deep", "Depth, door to back")}
            </div>
          </fieldset>
          <fieldset>
            <legend className="font-semibold">Shower</legend>
            <div className="flex gap-3">
              {said.where === "back" ? (
                <p className="flex-1 self-end min-h-11 flex items-center text-sm">
                  As wide as the room
                </p>
              ) : (
                size("across", "Shower width")
              )}
              {size("out", "Shower depth")}
            </div>
          </fieldset>
          <Pictures
            legend="Floor"
            of="ground"
            value={said.ground}
            onChange={(ground) => say({ ground })}
          />
          <Pictures
            legend="Place, seen from the door"
            of="where"
            value={said.where}
            onChange={(where) => say({ where })}
          />
          <Pictures
            legend="Drain"
            of="drain"
            value={said.drain}
            onChange={(drain) => say({ drain })}
          />
          <fieldset>
            <legend className="font-semibold mb-1">Who will use it</legend>
            <UserChoice users={said.users} onChange={(users) => say({ users })} />
            {sits(said.users) && (
              <label className="flex items-center gap-3 min-h-11 mt-1">
                <input
                  type="checkbox"
                  className="checkbox"
                  checked={said.accessible}
                  onChange={() => say({ accessible: !said.accessible })}
                />
                The rules for accessible rooms bind this one
              </label>
            )}
          </fieldset>
        </div>
        {error && !placed && <Refusal problem={error} />}
        <div className="flex items-center gap-4">
          <button type="submit" className="btn btn-info h-11 px-8">
            Start
          </button>
          <p className="text-sm leading-snug">
            What is left empty is assumed, and marked so until you measure it.
          </p>
        </div>
      </form>
    </Modal>
  );
}

const FIELDS = ["/name", "/wide", "/deep", "/across", "/out"];
