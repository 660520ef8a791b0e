import { useQueryClient } from "@tanstack/react-query";
import { Copy, Download, FilePen, Trash2, Upload } from "lucide-react";
import { type FormEvent, useId, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, type Problem, type RuleSet } from "../api/client";
import { Modal } from "../ui/Modal";
import { Refusal } from "../ui/Refusal";

/** What changes a rule set makes the list of them stale. */
function useChanged() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return async (to: string) => {
    await queries.invalidateQueries({ queryKey: ["rules"] });
    void navigate(`/rules/${to}`);
  };
}

/** A rule file from elsewhere. */
export function ImportRules() {
  const changed = useChanged();
  const chooser = useRef<HTMLInputElement>(null);
  const [error, setError] = useState<Problem | null>(null);
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost h-11 text-base font-medium"
        onClick={() => chooser.current?.click()}
      >
        <Upload size={18} aria-hidden /> Read a rule file
      </button>
      <input
        ref={chooser}
        type="file"
        accept=".toml,application/toml"
        className="sr-only"
        tabIndex={-1}
        aria-label="Rule file"
        onChange={async (event) => {
          const [file] = event.currentTarget.files ?? [];
          const input = event.currentTarget;
          if (!file) return;
          try {
            const rules = await api.importRules(file);
            setError(null);
            await changed(rules.id);
          } catch (problem) {
            setError(problem as Problem);
          }
          input.value = "";
        }}
      />
      {error && (
        <div className="w-full">
          <Refusal problem={error} />
        </div>
      )}
    </>
  );
}

/** A rule set made one's own, taken along, changed as text or removed. */
export function OwnRules({ rules }: { rules: RuleSet }) {
  const changed = useChanged();
  const [copying, setCopying] = useState(false);
  const [editing, setEditing] = useState<string | null>(null);
  const [error, setError] = useState<Problem | null>(null);
  const button = "btn btn-ghost h-11 font-medium";
  return (
    <div className="mt-2">
      <div className="flex flex-wrap gap-1">
        <button type="button" className={button} onClick={() => setCopying(true)}>
          <Copy size={18} aria-hidden /> Make it my own
        </button>
        <a className={button} href={`/api/rules/${rules.id}/file`} download={`${rules.id}.toml`}>
          <Download size={18} aria-hidden /> Download
        </a>
        {!rules.ships && (
          <>
            <button
              type="button"
              className={button}
              onClick={async () => setEditing(await api.rulesFile(rules.id))}
            >
              <FilePen size={18} aria-hidden /> Change it
            </button>
            <button
              type="button"
              className={button}
              onClick={async () => {
                try {
                  await api.removeRules(rules.id);
                  await changed("");
                } catch (problem) {
                  setError(problem as Problem);
                }
              }}
            >
              <Trash2 size={18} aria-hidden /> Remove it
            </button>
          </>
        )}
      </div>
      {error && <Refusal problem={error} />}
      {copying && <CopyRules rules={rules} onClose={() => setCopying(false)} />}
      {editing !== null && <EditRules text={editing} onClose={() => setEditing(null)} />}
    </div>
  );
}

function CopyRules({ rules, onClose }: { rules: RuleSet; onClose: () => void }) {
  const changed = useChanged();
  const id = useId();
  const [name, setName] = useState(`${rules.name}, ours`);
  const [error, setError] = useState<Problem | null>(null);
  async function make(event: FormEvent) {
    event.preventDefault();
    const short = name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "");
    try {
      const own = await api.copyRules(rules.id, short, name);
      onClose();
      await changed(own.id);
    } catch (problem) {
      setError(problem as Problem);
    }
  }
  return (
    <Modal title="A rule set of your own" onClose={onClose}>
      <form className="mt-3 space-y-4" onSubmit={make}>
        <label htmlFor={id}>
          Its name
          <input
            id={id}
            className="input w-full h-11 text-lg mt-1"
            value={name}
            maxLength={60}
            required
            onChange={(event) => setName(event.currentTarget.value)}
          />
        </label>
        <p className="text-sm">
          It starts as a copy of {rules.name}, whose sources stay beside each value. Change them
          together.
        </p>
        {error && <Refusal problem={error} />}
        <button type="submit" className="btn btn-info h-11">
          Make it
        </button>
      </form>
    </Modal>
  );
}

/** A rule set as its file has it: what is wrong is named by its place, and nothing is lost. */
function EditRules({ text, onClose }: { text: string; onClose: () => void }) {
  const changed = useChanged();
  const [typed, setTyped] = useState(text);
  const [error, setError] = useState<Problem | null>(null);
  async function keep(event: FormEvent) {
    event.preventDefault();
    try {
      const own = await api.importRules(typed);
      onClose();
      await changed(own.id);
    } catch (problem) {
      setError(problem as Problem);
    }
  }
  return (
    <Modal title="Change the rule set" onClose={onClose}>
      <form className="mt-3 space-y-3" onSubmit={keep}>
        <textarea
          aria-label="The rule set as text"
          className="textarea w-full h-96 font-mono text-base leading-snug"
          spellCheck={false}
          value={typed}
          onChange={(event) => setTyped(event.currentTarget.value)}
        />
        {error && <Refusal problem={error} />}
        <button type="submit" className="btn btn-info h-11">
          Keep it
        </button>
      </form>
    </Modal>
  );
}
