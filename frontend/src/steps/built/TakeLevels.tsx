import { X } from "lucide-react";
import { useRef, useState } from "react";
import { api, type Problem } from "../../api/client";
import { useScreen } from "../../job/context";
import { useShow, useShown } from "../../job/shown";
import { Labelled } from "../../ui/Labelled";
import { rightNow } from "../../ui/moment";
import { keep, newKey, recall } from "../../ui/storage";
import { useLog } from "../log/useLog";
import { PickedPlace } from "../PickedPlace";
import { useDraft } from "./useDraft";

const BY = "calm-basin.log-by";

interface Props {
  /** Where the next readings would tell most, and the same in words. */
  next: [number, number][];
  texts: string[];
}

/** Places touched on the chart and what was read there, until they are written into the log. */
export function TakeLevels({ next, texts }: Props) {
  const { jobId, plan, picked, pick } = useScreen();
  const show = useShow();
  const { layer, zero, readTo } = useShown((shown) => shown);
  const { draft, put } = useDraft(jobId);
  const { write, waiting } = useLog(jobId);
  const [typed, setTyped] = useState("");
  const [error, setError] = useState("");
  const [told, setTold] = useState("");
  const [by, setBy] = useState(() => recall(BY) ?? "");
  const value = useRef<HTMLInputElement>(null);

  async function take() {
    setTold("");
    if (!picked) return setError("Touch the chart where you read it.");
    if (!typed.trim()) return setError("Type what you read.");
    try {
      await api.read(typed, "length", plan.display);
    } catch (problem) {
      // Without a connection it is read when it arrives.
      if ((problem as Problem).status !== 0) return setError((problem as Error).message);
    }
    setError("");
    put([...draft, { at: picked, text: typed.trim() }]);
    setTyped("");
    pick(null);
    value.current?.focus();
  }

  async function writeDown() {
    if (!by.trim()) return setError("Who read it? Type initials or a name.");
    keep(BY, by.trim());
    const readings = draft.map(({ at, text }) => `${at[0].toFixed(1)} ${at[1].toFixed(1)} ${text}`);
    const outcome = await write({
      id: newKey(),
      kind: "levels",
      by: by.trim(),
      at: rightNow(),
      fields: { layer, zero, error: readTo, readings: readings.join("\n") },
    });
    if ("refused" in outcome) return setError(outcome.refused.message);
    setError("");
    put([]);
    setTold(outcome.done === "written" ? "Written into the log." : "It waits for the connection.");
  }

  const text = (label: string, of: string, onChange: (text: string) => void, inner?: object) => (
    <Labelled label={label}>
      {(id) => (
        <input
          id={id}
          className="input w-full h-11 text-lg px-2.5"
          autoComplete="off"
          value={of}
          onChange={(event) => onChange(event.currentTarget.value)}
          {...inner}
        />
      )}
    </Labelled>
  );
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Take readings</legend>
      <div className="fields">
        {text("Staff or line at finished entry level", zero, (to) => show({ zero: to }), {
          placeholder: "blank: heights",
        })}
        {text("Read to ±", readTo, (to) => show({ readTo: to }))}
      </div>
      <PickedPlace />
      <form
        className="fields items-end"
        onSubmit={(event) => {
          event.preventDefault();
          void take();
        }}
      >
        {text(picked ? "Reading there" : "Touch the chart, then type", typed, setTyped, {
          ref: value,
        })}
        <button type="submit" className="btn btn-info h-11">
          Take it
        </button>
      </form>
      {next.length > 0 && (
        <div className="flex flex-wrap gap-2 items-center">
          <span className="text-sm">Read next:</span>
          {next.map((at, i) => (
            <button
              key={texts[i]}
              type="button"
              className="btn h-11 text-sm font-medium px-3"
              aria-pressed={picked === at}
              onClick={() => {
                pick(at);
                value.current?.focus();
              }}
            >
              {texts[i]}
            </button>
          ))}
        </div>
      )}
      {error && (
        <p role="alert" className="text-error font-semibold text-sm">
          {error}
        </p>
      )}
      {draft.length > 0 && (
        <>
          <ol className="flex flex-wrap gap-2" aria-label="Readings not in the log yet">
            {draft.map((one, i) => (
              <li
                key={`${one.at} ${one.text}`}
                className="flex items-center border border-base-300 rounded-field"
              >
                <span className="pl-2.5 font-semibold">{one.text}</span>
                <button
                  type="button"
                  className="btn btn-ghost btn-square size-11"
                  aria-label={`Remove reading ${i + 1}`}
                  onClick={() => put(draft.filter((_, k) => k !== i))}
                >
                  <X size={16} aria-hidden />
                </button>
              </li>
            ))}
          </ol>
          <div className="fields items-end">
            <div className="w-28">{text("By", by, setBy, { maxLength: 40 })}</div>
            <button
              type="button"
              className="btn btn-info h-11 flex-1"
              onClick={() => void writeDown()}
            >
              Write {draft.length} {draft.length === 1 ? "reading" : "readings"} into the log
            </button>
          </div>
        </>
      )}
      <span role="status">{told}</span>
      {waiting.length > 0 && (
        <p className="text-sm" data-waiting={waiting.length}>
          {waiting.length} {waiting.length === 1 ? "entry waits" : "entries wait"} in this browser.
        </p>
      )}
    </fieldset>
  );
}
