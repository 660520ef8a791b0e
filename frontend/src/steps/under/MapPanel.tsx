import { MapPinned } from "lucide-react";
import { VERDICTS } from "../../drawing/DrainPlaces";
import { useScreen } from "../../job/context";
import { useShow, useShown } from "../../job/shown";
import { changesFor } from "./taking";

/** Where the drain can go: the reason for the place that is looked at, and what to take. */
export function MapPanel() {
  const { solution, apply } = useScreen();
  const show = useShow();
  const mapped = useShown((shown) => shown.map);
  const place = useShown((shown) => shown.place);
  const map = solution?.drain_map;
  const looked = map && place !== null && place < map.x.length ? place : null;
  const reason = map && looked !== null ? map.reasons[map.reason[looked] ?? 0] : null;
  const open = map && looked !== null && map.verdict[looked] === "open";
  return (
    <section aria-label="Places for the drain">
      <div className="flex items-center gap-2 mb-1">
        <h2 className="font-semibold flex-1">Places for the drain</h2>
        <button
          type="button"
          aria-pressed={mapped}
          className={`btn h-11 ${mapped ? "btn-secondary" : ""}`}
          onClick={() => show({ map: !mapped, place: null })}
        >
          <MapPinned size={18} aria-hidden /> Map
        </button>
      </div>
      {!map ? (
        <p>
          {solution?.complete ? "Being worked out…" : "It is worked out once the falls can be."}
        </p>
      ) : (
        <>
          <p data-part="map-summary">{map.summary}.</p>
          {mapped && (
            <>
              <ul className="grid grid-cols-2 gap-x-3 gap-y-0.5 text-sm my-1">
                {Object.entries(VERDICTS)
                  .filter(([verdict]) => map.verdict.includes(verdict as "open"))
                  .map(([verdict, { name, ink, lines }]) => (
                    <li key={verdict} className="flex gap-1.5 items-center">
                      <svg width={22} height={16} aria-hidden className="shrink-0">
                        <rect width={22} height={16} fill={ink} opacity={lines ? 0.12 : 0.32} />
                        {[0, 8, 16].map((x) => (
                          <g key={x} transform={`translate(${x} 0)`}>
                            <path d={lines} stroke={ink} strokeWidth={1.3} />
                            <path
                              d={lines}
                              stroke={ink}
                              strokeWidth={1.3}
                              transform="translate(0 8)"
                            />
                          </g>
                        ))}
                      </svg>
                      {name}
                    </li>
                  ))}
              </ul>
              <p
                className="min-h-11 border-l-4 border-info pl-2 py-1 leading-snug"
                aria-live="polite"
                data-part="map-reason"
              >
                {reason
                  ? `${reason}.`
                  : "Point at a place, or walk the map with the arrow keys, to see why it works or not."}
              </p>
              {open && looked !== null && (
                <button
                  type="button"
                  className="btn btn-info h-11 w-full mt-1"
                  onClick={() => {
                    apply(changesFor(map, looked));
                    show({ place: null });
                  }}
                >
                  Put the drain here
                </button>
              )}
            </>
          )}
          <div className="space-y-1.5 mt-1.5">
            {[map.best, map.nearest].map(
              (offer, i) =>
                offer &&
                (i === 0 || offer.place !== map.best?.place) &&
                offer.place !== map.here && (
                  <button
                    key={offer.text}
                    type="button"
                    data-offer={i === 0 ? "best" : "nearest"}
                    className="btn btn-outline w-full min-h-11 h-auto py-1.5 justify-start text-left border-base-content/30"
                    onClick={() => apply([...offer.changes])}
                  >
                    {offer.text}
                  </button>
                ),
            )}
          </div>
        </>
      )}
    </section>
  );
}
