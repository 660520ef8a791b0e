import type { Arrangement } from "../../api/generated/solution";
import { useScreen } from "../../job/context";

/** The ways in which the floor can fall, each by its own small drawing. */
export function Arrangements() {
  const { apply, solution } = useScreen();
  return (
    <fieldset>
      <legend className="font-semibold mb-1">Arrangement</legend>
      <div className="grid grid-cols-[repeat(auto-fit,minmax(4.8rem,1fr))] gap-1.5">
        {solution?.arrangements.map((choice) => (
          <button
            key={choice.code}
            type="button"
            aria-pressed={choice.chosen}
            data-choice={choice.code}
            className={`btn h-auto min-h-11 flex-col gap-1 py-1.5 px-1 text-sm leading-tight font-medium ${choice.chosen ? "btn-info" : ""}`}
            onClick={() => !choice.chosen && apply(choice.changes)}
          >
            <Sketch code={choice.code} />
            {choice.label}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

const SKETCH: Record<Arrangement["code"], string> = {
  point: "M14 9h6v6h-6zM2 2l12 7M32 2l-12 7M2 22l12-7M32 22l-12-7",
  even: "M15 10h4v4h-4zM17 4a8 8 0 0 1 8 8a8 8 0 0 1-16 0a8 8 0 0 1 8-8M4 4l4 3M30 4l-4 3M4 20l4-3M30 20l-4-3",
  two: "M7 10h4v4h-4zM23 10h4v4h-4zM17 2v20M2 2l5 8M2 22l5-8M32 2l-5 8M32 22l-5-8",
  back: "M2 4h30M6 20v-11M17 20v-11M28 20v-11",
  left: "M4 2v20M30 7h-21M30 17h-21",
  right: "M30 2v20M4 7h21M4 17h21",
  middle: "M2 12h30M9 4v4M25 4v4M9 20v-4M25 20v-4",
  entry: "M2 20h30M6 4v11M17 4v11M28 4v11",
};

/** The arrangement as seen from above, the entry at the foot. */
function Sketch({ code }: { code: Arrangement["code"] }) {
  return (
    <svg
      viewBox="0 0 34 24"
      width={48}
      height={34}
      aria-hidden
      fill="none"
      stroke="currentColor"
      strokeWidth={1.6}
    >
      <path d="M1 23v-22h32v22" />
      <path d={SKETCH[code]} />
    </svg>
  );
}
