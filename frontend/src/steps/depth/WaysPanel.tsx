import { HardHat } from "lucide-react";
import { useRef } from "react";
import type { Way } from "../../api/generated/solution";
import { useScreen } from "../../job/context";

/** Every option for the depth, worked out in full and shown side by side. */
export function WaysPanel() {
  const { solution } = useScreen();
  const ways = solution?.ways;
  // After an edit the rest is answered first: what was told before stands pale until then.
  const before = useRef(ways);
  if (ways) before.current = ways;
  const shown = ways ?? before.current;
  if (!shown) {
    return (
      <p role="status">
        {solution?.complete
          ? "Working out every option…"
          : "Options for the depth appear once the falls can be worked out."}
      </p>
    );
  }
  return (
    <section
      aria-busy={!ways}
      className={ways ? "" : "opacity-60"}
      data-ways={ways ? "" : undefined}
    >
      <h2 className="font-semibold">Options for more depth</h2>
      <p className="text-sm">Each is solved: these are the figures of the plan that it makes.</p>
      <ul className="divide-y divide-base-300 border-y border-base-300 mt-1">
        {shown.listed.map((way) => (
          <One key={way.code} way={way} />
        ))}
      </ul>
    </section>
  );
}

function One({ way }: { way: Way }) {
  const { apply } = useScreen();
  const colour = way.enough ? "text-success" : way.enough === false ? "text-error" : "text-warning";
  return (
    <li className="py-3" data-way={way.code}>
      <div className="flex gap-2 items-baseline">
        <h3 className="font-bold flex-1 leading-tight text-lg">{way.title}</h3>
        <span className={`font-bold whitespace-nowrap ${colour}`}>
          {way.engineer ? "engineer only" : way.left_text}
        </span>
      </div>
      {way.engineer ? (
        <p className="flex gap-2 items-start mt-1">
          <HardHat size={20} aria-hidden className="shrink-0" /> {way.costs}. {way.forbids}.
        </p>
      ) : (
        <>
          <dl className="grid grid-cols-4 gap-x-2 mt-1 text-sm">
            {(
              [
                ["gives", way.gives_text],
                ["recess", way.recess_text],
                ["entry", way.step_text],
                ["door", way.door_text],
              ] as const
            ).map(([name, text]) => (
              <div key={name}>
                <dt>{name}</dt>
                <dd className="font-semibold text-base leading-tight">{text}</dd>
              </div>
            ))}
          </dl>
          <p className="text-sm mt-1">
            Takes {way.material}; {way.days} ({way.source.toLowerCase()}). {way.costs}.{" "}
            <strong className="font-semibold">Watch: </strong>
            {way.forbids}.
          </p>
          {way.opens.length > 0 && (
            <p className="text-sm mt-1 text-error">
              <strong>Also causes: </strong>
              {way.opens.join(" · ")}
            </p>
          )}
          {way.changes.length > 0 && (
            <button
              type="button"
              className="btn btn-outline border-base-content/30 h-11 mt-1.5"
              onClick={() => apply(way.changes)}
            >
              Use this
            </button>
          )}
        </>
      )}
    </li>
  );
}
