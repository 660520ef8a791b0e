import { Download, Trash2 } from "lucide-react";
import { useState } from "react";
import { api, type Problem } from "../../api/client";
import type { Figure, FloorResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { withValue } from "../../job/pointer";
import { FigureRows } from "../../ui/FigureRows";
import { FileButton } from "../../ui/FileButton";

import { Laser } from "./Laser";
import { TakeReading } from "./TakeReading";
import { Truings } from "./Truings";

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
        {floor.verdict_text}
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

const NAMES = { height: "height", staff: "staff", shim: "gap" };

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
        <FileButton accept=".csv,text/csv" onFile={(file) => void bring(file)}>
          Bring in CSV
        </FileButton>
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
          const text = texts[`/survey/levels/${i}/${value[level.kind]}`];
          const place = solution?.survey.readings[i];
          if (text === undefined || !place) return null;
          return (
            <li key={i} className="flex items-center gap-2 border-b border-base-300">
              <span className="flex-1">
                {level.kind === "staff" && level.simulated ? "simulated" : NAMES[level.kind]}{" "}
                <strong>{text}</strong> · {place.end || place.at}
                {place.end && <span className="text-sm">, level lying {place.at}</span>}
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
