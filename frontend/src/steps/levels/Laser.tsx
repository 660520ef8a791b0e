import { Crosshair, Footprints } from "lucide-react";
import { useRef, useState } from "react";
import { api, type Problem } from "../../api/client";
import type { Plan } from "../../api/generated/plan";
import { useScreen } from "../../job/context";
import { withValue } from "../../job/pointer";

type Reading = Plan["survey"]["levels"][number];

export function Laser() {
  const { change, during, picked, pick, solution } = useScreen();
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
            onClick={() =>
              picked && void during(shoot(picked)).catch((e: Problem) => setError(e.message))
            }
          >
            <Crosshair size={20} aria-hidden /> Read here
          </button>
          <button type="button" className="btn h-11" onClick={() => void during(round())}>
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
