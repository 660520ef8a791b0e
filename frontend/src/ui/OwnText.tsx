import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { type Problem, type Shelf, shelf } from "../api/client";
import { Modal } from "./Modal";
import { Refusal } from "./Refusal";

interface Props {
  of: Shelf;
  /** What one is called, such as "drain". */
  called: string;
  /** The one that a new one is begun from, by id, and whether it is one's own. */
  from?: { id: string; own: boolean };
  /** What is done with the one that was kept. */
  onKept?: (id: string) => void;
  help: string;
  empty?: string;
}

/** One of one's own as text: begun from another, changed, kept for all jobs, taken along, removed. */
export function OwnText({ of, called, from, onKept, help, empty = "" }: Props) {
  const queries = useQueryClient();
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState<Problem | null>(null);
  const at = shelf(of);
  const title = `A ${called} of your own`;

  async function begin() {
    const text = from ? await at.file(from.id) : empty;
    setTyped(
      from?.own
        ? text
        : text
            .replace(/^id = "(.*)"$/m, 'id = "$1-own"')
            .replace(/^name = "(.*)"$/m, 'name = "$1, ours"'),
    );
    setError(null);
  }

  async function keep(event: FormEvent) {
    event.preventDefault();
    await attempt(async () => {
      const [kept] = await at.keep(typed ?? "");
      if (kept) onKept?.(kept);
    });
  }

  async function attempt(act: () => Promise<void>) {
    try {
      await act();
      await queries.invalidateQueries({ queryKey: [of] });
      setTyped(null);
    } catch (problem) {
      setError(problem as Problem);
    }
  }

  return (
    <>
      <button type="button" className="btn h-11" onClick={() => void begin()}>
        {title}
      </button>
      {typed !== null && (
        <Modal title={title} onClose={() => setTyped(null)}>
          <form className="mt-3 space-y-3" onSubmit={keep}>
            <p className="text-sm">
              {help} Lengths are written as on site: 6 1/2 in, 165 mm. It is kept for all jobs; each
              plan holds a copy.
            </p>
            <input
              type="file"
              accept=".toml"
              aria-label={`Upload a ${called}`}
              className="file-input w-full h-11"
              onChange={async (event) => {
                const file = event.currentTarget.files?.[0];
                if (file) setTyped(await file.text());
              }}
            />
            <textarea
              aria-label={`The ${called} as text`}
              className="textarea w-full h-80 font-mono text-base leading-snug"
              spellCheck={false}
              value={typed}
              onChange={(event) => setTyped(event.currentTarget.value)}
            />
            {error && <Refusal problem={error} />}
            <div className="flex flex-wrap gap-2">
              <button type="submit" className="btn btn-info h-11">
                Keep it
              </button>
              {from && (
                <a className="btn h-11" href={at.address(from.id)} download={`${from.id}.toml`}>
                  Download
                </a>
              )}
              {from?.own && (
                <button
                  type="button"
                  className="btn h-11"
                  onClick={() => void attempt(() => at.remove(from.id))}
                >
                  Remove it from the list
                </button>
              )}
            </div>
          </form>
        </Modal>
      )}
    </>
  );
}
