import { useRef, useState } from "react";
import { api, type Problem } from "../../api/client";
import { useScreen } from "../../job/context";
import { same } from "../../job/pointer";

/** Looks for where the tile is best begun, and begins it there. */
export function BestOrigin() {
  const { plan, apply, during } = useScreen();
  const [said, setSaid] = useState("");
  const [error, setError] = useState("");
  const [looking, setLooking] = useState(false);
  const newest = useRef(plan);
  newest.current = plan;

  async function look() {
    setLooking(true);
    setSaid("");
    setError("");
    try {
      const asked = plan;
      const best = await during(api.bestTile(asked));
      // What was changed meanwhile may lie best elsewhere.
      if (!same(asked, newest.current)) setSaid("The plan has changed. Press again.");
      else {
        setSaid(best.said);
        apply(best.changes);
      }
    } catch (problem) {
      setError((problem as Problem).message);
    }
    setLooking(false);
  }

  return (
    <section aria-label="Best layout">
      <button
        type="button"
        className="btn btn-info h-11 w-full"
        disabled={looking}
        onClick={() => void look()}
      >
        {looking ? "Working…" : "Best layout"}
      </button>
      {looking && (
        <progress className="progress progress-info w-full h-2 mt-2" aria-label="Trying" />
      )}
      {said && (
        <p className="mt-2 leading-snug" role="status">
          {said}
        </p>
      )}
      {error && (
        <p className="mt-2 text-error font-semibold" role="alert">
          {error}
        </p>
      )}
    </section>
  );
}
