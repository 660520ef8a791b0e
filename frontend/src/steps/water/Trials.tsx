import { useEffect, useRef, useState } from "react";
import { api, type Problem, type TrialSettings } from "../../api/client";
import type { TrialResult } from "../../api/generated/trial";
import { useScreen } from "../../job/context";
import { Labelled } from "../../ui/Labelled";
import { MeasureField } from "../../ui/MeasureField";

const LENGTHS = ["tolerance", "correlation", "limit"] as const;

/** Floors as hands make them: how many of them hold a puddle, at which fall. */
export function Trials() {
  const [usual, setUsual] = useState<TrialSettings | null>(null);
  const [error, setError] = useState("");
  useEffect(() => {
    api.trialSettings().then(setUsual, (problem: Problem) => setError(problem.message));
  }, []);
  if (error) return <p role="alert">{error}</p>;
  return usual && <Floors usual={usual} />;
}

function Floors({ usual }: { usual: TrialSettings }) {
  const { plan } = useScreen();
  const [settings, setSettings] = useState(usual);
  const [result, setResult] = useState<TrialResult | null>(null);
  const [of, setOf] = useState("");
  const [error, setError] = useState("");
  const [running, setRunning] = useState(false);
  const [texts, setTexts] = useState({ tolerance: "", correlation: "", limit: "" });
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const display = JSON.stringify(plan.display);
  useEffect(() => {
    const { length, fraction } = JSON.parse(display);
    void api
      .lengths(
        LENGTHS.map((key) => settings[key]),
        { length, fraction },
      )
      .then((answer) =>
        setTexts(
          Object.fromEntries(LENGTHS.map((key, i) => [key, answer[i] ?? ""])) as typeof texts,
        ),
      );
  }, [display, settings]);
  const asked = JSON.stringify([plan, settings]);
  const put = (part: Partial<TrialSettings>) => setSettings((old) => ({ ...old, ...part }));

  async function start() {
    const control = new AbortController();
    stop.current = control;
    setRunning(true);
    setError("");
    setResult(null);
    setOf(asked);
    try {
      await api.trials(plan, settings, control.signal, setResult);
    } catch (problem) {
      if (!control.signal.aborted) setError((problem as Problem).message);
    }
    setRunning(false);
  }

  const length = (label: string, key: "tolerance" | "correlation" | "limit") => (
    <MeasureField
      label={label}
      value={settings[key]}
      text={texts[key]}
      onCommit={(value) => put({ [key]: value })}
    />
  );
  return (
    <section aria-label="Workmanship">
      <h2 className="font-semibold mb-1">If the bed comes out uneven</h2>
      <div className="fields">
        {length("Bed uneven by up to ±", "tolerance")}
        {length("Humps about this long", "correlation")}
        {length("Puddle from", "limit")}
      </div>
      <div className="flex gap-2 items-end mt-2">
        <Whole
          label="Floors"
          value={settings.floors}
          least={1}
          most={1000}
          onChange={(floors) => put({ floors })}
        />
        <Whole
          label="Seed"
          value={settings.seed}
          least={0}
          most={2 ** 31}
          onChange={(seed) => put({ seed })}
        />
        {running ? (
          <button type="button" className="btn h-11 flex-1" onClick={() => stop.current?.abort()}>
            Stop
          </button>
        ) : (
          <button type="button" className="btn btn-info h-11 flex-1" onClick={() => void start()}>
            Try it on floors
          </button>
        )}
      </div>
      {(running || result) && (
        <progress
          className="progress progress-info w-full h-3 mt-3"
          aria-label="Floors made"
          value={result?.done ?? 0}
          max={result?.floors ?? settings.floors}
        />
      )}
      {error && (
        <p role="alert" className="text-error font-semibold">
          {error}
        </p>
      )}
      {result && (
        <div className={of === asked ? "" : "opacity-70"}>
          <p className="text-lg font-bold leading-snug mt-1" role="status">
            {result.sentence}
          </p>
          <p className="text-sm">
            {result.done} of {result.floors} floors
            {!running && result.done < result.floors && ", stopped"}
            {of !== asked && " · of an earlier plan: make floors again"}
          </p>
          <table className="w-full mt-1">
            <thead>
              <tr className="text-sm text-left">
                <th className="font-normal">fall</th>
                <th className="font-normal">hold a puddle</th>
                <th className="font-normal text-right">19 in 20 stay under</th>
              </tr>
            </thead>
            <tbody>
              {result.rows.map((row) => (
                <tr
                  key={row.fall}
                  className={`border-t border-base-300 ${row.planned ? "font-bold" : ""}`}
                >
                  <td className="py-1 pr-2">{row.fall_text}</td>
                  <td className="py-1 w-1/2">
                    <span
                      className="block h-2 rounded bg-error/70"
                      style={{ width: `${100 * row.holding}%` }}
                      aria-hidden
                    />
                    {row.holding_text}
                  </td>
                  <td className="py-1 text-right">
                    {row.depth_text} · {row.litres_text}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

interface WholeProps {
  label: string;
  value: number;
  least: number;
  most: number;
  onChange: (value: number) => void;
}

/** A whole number that is no part of the plan. */
function Whole({ label, value, least, most, onChange }: WholeProps) {
  return (
    <Labelled label={label}>
      {(id) => (
        <input
          id={id}
          type="number"
          className="input w-full h-11 text-lg font-semibold px-2.5"
          value={value}
          min={least}
          max={most}
          onChange={(event) => {
            const next = Math.round(event.currentTarget.valueAsNumber);
            if (next >= least && next <= most) onChange(next);
          }}
        />
      )}
    </Labelled>
  );
}
