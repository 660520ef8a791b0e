import { Crosshair, Download, FolderUp, Footprints, Trash2 } from "lucide-react";
import { useEffect, useId, useRef, useState } from "react";
import { api, type Problem } from "../../api/client";
import type { Plan } from "../../api/generated/plan";
import type { Figure, FloorResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { withValue } from "../../job/pointer";
import { Choice } from "../../ui/Choice";
import { FigureRows } from "../../ui/FigureRows";
import { MeasureField } from "../../ui/MeasureField";
import { NumberField } from "../../ui/NumberField";

type Reading = Plan["survey"]["levels"][number];

/** The floor that is there: its readings, how true it is and what makes it so. */
export function LevelsStep() {
  const { solution } = useScreen();
  const floor = solution?.survey.floor;
  return (
    <div className="space-y-5">
      {floor ? (
        <HowTrue floor={floor} />
      ) : (
        <p className="border border-base-300 rounded-box p-3 leading-snug">
          No reading yet. Touch the chart where the staff or level stands and type what you read, or
          let the laser walk the room.
        </p>
      )}
      <TakeReading />
      <Laser />
      {floor && <Truings floor={floor} />}
      <Listed />
    </div>
  );
}

function HowTrue({ floor }: { floor: FloorResult }) {
  const { plan, solution, set } = useScreen();
  const figures: Figure[] = [
    floor.range,
    floor.under_shower,
    floor.flatness,
    floor.tilt,
    floor.crown,
  ];
  return (
    <section className="space-y-2">
      <label className="block text-sm">
        The floor has to carry
        <select
          className="select w-full h-11 text-base mt-1"
          value={plan.survey.base}
          onChange={(event) => set("/survey/base", event.currentTarget.value)}
        >
          {solution?.survey.bases.map((base) => (
            <option key={base.name} value={base.name}>
              {base.text}
            </option>
          ))}
        </select>
      </label>
      <p className={`font-semibold ${floor.true_enough ? "text-success" : "text-error"}`}>
        {floor.true_enough ? "True enough" : "Not true enough"} for it: at most{" "}
        {floor.tolerance_text}.
      </p>
      {floor.remarks.map((remark) => (
        <p key={remark} className="text-warning font-semibold">
          {remark}
        </p>
      ))}
      <FigureRows figures={figures} />
      {floor.tray_falls.length > 0 && (
        <div>
          <h3 className="font-semibold">What the tilt leaves of the tray's falls</h3>
          <ul>
            {floor.tray_falls.map((fall) => (
              <li key={fall.plane} className={fall.turned ? "text-error font-semibold" : ""}>
                {fall.plane}: {fall.built_in_text} becomes {fall.text}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

function TakeReading() {
  const { plan, change, picked, pick } = useScreen();
  const [kind, setKind] = useState<Reading["kind"]>("height");
  const [typed, setTyped] = useState({ value: "", instrument: "", direction: "0", distance: "" });
  const [error, setError] = useState<string | null>(null);
  const value = useRef<HTMLInputElement>(null);
  const [at, setAt] = useState(["", ""]);
  useEffect(() => {
    if (!picked) return;
    let current = true;
    const shown = picked.map((place) => api.read(`${place.toFixed(4)} mm`, "length", plan.display));
    void Promise.all(shown)
      .then((answers) => current && setAt(answers.map((answer) => answer.text)))
      .catch(() => current && setAt(["", ""]));
    return () => {
      current = false;
    };
  }, [picked, plan.display]);
  const length = async (text: string) => (await api.read(text, "length", plan.display)).value;

  async function take() {
    if (!picked) {
      setError("Touch the chart where it was read, or type the place.");
      return;
    }
    try {
      const [x, y] = picked;
      const read = await length(typed.value);
      let reading: Reading;
      if (kind === "height") reading = { kind, x, y, height: read };
      else if (kind === "staff") {
        reading = { kind, x, y, reading: read, instrument: await length(typed.instrument || "0") };
      } else {
        const direction = Number(typed.direction.replace("°", ""));
        if (!Number.isFinite(direction))
          throw new Error("Give the direction in degrees, such as 90.");
        reading = { kind, x, y, gap: read, direction, distance: await length(typed.distance) };
      }
      change((old) => withValue(old, "/survey/levels", [...old.survey.levels, reading]));
      setTyped({ ...typed, value: "" });
      setError(null);
      value.current?.focus();
    } catch (problem) {
      setError((problem as Error).message);
    }
  }

  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Take a reading</legend>
      <Choice
        label="Read with"
        value={kind}
        options={[
          { value: "height", label: "Height" },
          { value: "staff", label: "Staff" },
          { value: "shim", label: "Level & shims" },
        ]}
        onChange={setKind}
      />
      <div className="flex gap-2">
        <MeasureField
          label="At, right"
          value={picked?.[0] ?? 0}
          text={at[0]}
          onCommit={(x) => pick([x, picked?.[1] ?? 0])}
        />
        <MeasureField
          label="At, up"
          value={picked?.[1] ?? 0}
          text={at[1]}
          onCommit={(y) => pick([picked?.[0] ?? 0, y])}
        />
      </div>
      <form
        className="flex flex-wrap gap-2 items-end"
        onSubmit={(event) => {
          event.preventDefault();
          void take();
        }}
      >
        <TextField
          label={
            kind === "shim"
              ? "Gap under the end"
              : kind === "staff"
                ? "On the staff"
                : "Height there"
          }
          value={typed.value}
          onChange={(text) => setTyped({ ...typed, value: text })}
          field={value}
        />
        {kind === "staff" && (
          <TextField
            label="Laser's height"
            value={typed.instrument}
            onChange={(text) => setTyped({ ...typed, instrument: text })}
          />
        )}
        {kind === "shim" && (
          <>
            <TextField
              label="Direction, °"
              value={typed.direction}
              onChange={(text) => setTyped({ ...typed, direction: text })}
            />
            <TextField
              label="At a distance of"
              value={typed.distance}
              onChange={(text) => setTyped({ ...typed, distance: text })}
            />
          </>
        )}
        <button type="submit" className="btn btn-info h-11">
          Take it
        </button>
      </form>
      {error && (
        <p role="alert" className="text-error font-semibold text-sm">
          {error}
        </p>
      )}
    </fieldset>
  );
}

function TextField({
  label,
  value,
  onChange,
  field,
}: {
  label: string;
  value: string;
  onChange: (text: string) => void;
  field?: React.RefObject<HTMLInputElement | null>;
}) {
  const id = useId();
  return (
    <div className="flex-1 min-w-24">
      <label htmlFor={id} className="block text-sm leading-tight mb-1">
        {label}
      </label>
      <input
        id={id}
        ref={field}
        className="input w-full h-11 text-lg font-semibold px-2.5"
        value={value}
        autoComplete="off"
        onChange={(event) => onChange(event.currentTarget.value)}
      />
    </div>
  );
}

function Laser() {
  const { change, picked, pick, solution } = useScreen();
  const [walking, setWalking] = useState<number | null>(null);
  const [error, setError] = useState<string | null>(null);
  const stopped = useRef(false);
  const walk = solution?.survey.walk ?? [];

  async function shoot([x, y]: [number, number]) {
    const shot = await api.shoot(x, y);
    const reading: Reading = { kind: "staff", x, y, ...shot };
    change((old) => withValue(old, "/survey/levels", [...old.survey.levels, reading]));
  }

  async function round() {
    stopped.current = false;
    setError(null);
    try {
      for (const [i, place] of walk.entries()) {
        if (stopped.current) break;
        setWalking(i + 1);
        pick(place);
        await shoot(place);
        await new Promise((resolve) => setTimeout(resolve, 120));
      }
    } catch (problem) {
      setError((problem as Problem).message);
    }
    setWalking(null);
  }

  return (
    <fieldset>
      <legend className="font-semibold mb-1">Laser level (simulated)</legend>
      {walking === null ? (
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn h-11"
            disabled={!picked}
            onClick={() => picked && void shoot(picked).catch((e: Problem) => setError(e.message))}
          >
            <Crosshair size={20} aria-hidden /> Read here
          </button>
          <button type="button" className="btn h-11" onClick={() => void round()}>
            <Footprints size={20} aria-hidden /> Walk the room ({walk.length})
          </button>
        </div>
      ) : (
        <div className="flex items-center gap-3">
          <progress
            className="progress progress-info flex-1"
            value={walking}
            max={walk.length}
            aria-label="Readings taken"
          />
          <span>
            {walking} of {walk.length}
          </span>
          <button
            type="button"
            className="btn h-11"
            onClick={() => {
              stopped.current = true;
            }}
          >
            Stop
          </button>
        </div>
      )}
      {error && (
        <p role="alert" className="text-error font-semibold text-sm">
          {error}
        </p>
      )}
    </fieldset>
  );
}

function Truings({ floor }: { floor: FloorResult }) {
  const { plan, apply, set } = useScreen();
  const chosen = plan.survey.correction;
  return (
    <section>
      <h2 className="font-semibold mb-1">Make it true</h2>
      <ul className="space-y-2">
        {floor.truings.map((way) => (
          <li
            key={way.code}
            data-truing={way.code}
            className={`border rounded-box p-3 ${way.chosen ? "border-2 border-success" : "border-base-300"}`}
          >
            <h3 className="font-bold leading-tight">
              {way.title}
              {way.chosen && <span className="text-success"> · in the plan</span>}
            </h3>
            <dl className="grid grid-cols-[1fr_auto] gap-x-3 mt-1">
              {way.figures.map((figure, i) => (
                <div key={figure.name} className="contents">
                  <dt className={i === 0 ? "text-lg" : ""}>{figure.name}</dt>
                  <dd className={`text-right font-semibold ${i === 0 ? "text-2xl" : ""}`}>
                    {figure.text}
                  </dd>
                </div>
              ))}
            </dl>
            <ul className="text-sm list-disc pl-5 mt-1">
              {way.advice.map((advice) => (
                <li key={advice}>{advice}</li>
              ))}
            </ul>
            {way.chosen ? (
              <button
                type="button"
                className="btn h-11 mt-2"
                onClick={() => set("/survey/correction", null)}
              >
                Take it out
              </button>
            ) : (
              <button
                type="button"
                className="btn btn-outline border-base-content/30 h-11 mt-2"
                onClick={() => apply(way.changes)}
              >
                {way.code === "pour" ? "Choose the pour" : "Choose this"}
              </button>
            )}
          </li>
        ))}
      </ul>
      {chosen?.kind === "pour" && (
        <div className="grid grid-cols-2 gap-2 mt-2">
          <MeasureField label="Cover over the high spot" path="/survey/correction/cover" />
          <NumberField
            label="Yield of a bag, L"
            path="/survey/correction/bag_litres"
            step={[0.1, 1]}
          />
          <NumberField
            label="Waste kept back"
            path="/survey/correction/waste_share"
            hint="0.1 is a tenth"
            step={[0.01, 0.05]}
          />
          <NumberField label="Bags a batch" path="/survey/correction/bags_a_batch" step={[1, 1]} />
          <NumberField
            label="Minutes a batch"
            path="/survey/correction/batch_minutes"
            step={[1, 5]}
          />
          <NumberField
            label="Working time, min"
            path="/survey/correction/working_minutes"
            step={[1, 5]}
          />
        </div>
      )}
      {floor.cleats.length > 0 && (
        <details className="mt-2">
          <summary className="btn btn-ghost h-11 px-2 font-medium justify-start">
            Cleat marks below the joist tops (J on the chart)
          </summary>
          <ul>
            {floor.cleats.map((joist) => (
              <li key={joist.joist} className="py-1">
                Joist {joist.joist}: {joist.marks.map((mark) => mark.text).join(" · ")}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

const NAMES = { height: "height", staff: "staff", shim: "level" };

function Listed() {
  const { jobId, plan, set, change, during, solution } = useScreen();
  const [trouble, setTrouble] = useState<string[]>([]);
  const levels = plan.survey.levels;
  const texts = solution?.plan_texts ?? {};
  const value = { height: "height", staff: "reading", shim: "gap" } as const;

  async function bring(file: File) {
    try {
      const answer = await during(api.readLevels(await file.text(), plan.display));
      setTrouble(answer.errors.map((error) => `Row ${error.row}: ${error.message}`));
      if (answer.levels.length) {
        change((old) => withValue(old, "/survey/levels", [...old.survey.levels, ...answer.levels]));
      }
    } catch (problem) {
      setTrouble([(problem as Problem).message]);
    }
  }

  return (
    <section>
      <h2 className="font-semibold mb-1">
        {levels.length} {levels.length === 1 ? "reading" : "readings"}
      </h2>
      <div className="flex flex-wrap gap-2">
        <label className="btn h-11">
          <FolderUp size={20} aria-hidden /> Bring in CSV
          <input
            type="file"
            accept=".csv,text/csv"
            className="sr-only"
            onChange={(event) => {
              const file = event.currentTarget.files?.[0];
              if (file) void bring(file);
              event.currentTarget.value = "";
            }}
          />
        </label>
        {levels.length > 0 && (
          <>
            <a className="btn h-11" href={`/api/jobs/${jobId}/levels.csv`}>
              <Download size={20} aria-hidden /> CSV
            </a>
            <button type="button" className="btn h-11" onClick={() => set("/survey/levels", [])}>
              <Trash2 size={18} aria-hidden /> All
            </button>
          </>
        )}
      </div>
      {trouble.length > 0 && (
        <ul role="alert" className="text-error font-semibold text-sm mt-2">
          {trouble.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      <ul className="mt-2">
        {levels.map((level, i) => {
          const at = `/survey/levels/${i}`;
          const text = texts[`${at}/${value[level.kind]}`];
          if (text === undefined) return null;
          return (
            <li key={i} className="flex items-center gap-2 border-b border-base-300">
              <span className="flex-1">
                {NAMES[level.kind]} <strong>{text}</strong> at {texts[`${at}/x`]},{" "}
                {texts[`${at}/y`]}
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-square size-11"
                aria-label={`Remove reading ${i + 1}`}
                onClick={() => set("/survey/levels", levels.toSpliced(i, 1))}
              >
                <Trash2 size={18} aria-hidden />
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
