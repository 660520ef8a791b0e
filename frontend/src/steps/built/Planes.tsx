import type { AsBuilt } from "../../api/generated/as-built";
import { Said } from "../../ui/Said";

/** Each plane as planned and as built, and what else is out. */
export function Planes({ built }: { built: AsBuilt }) {
  return (
    <section aria-label="Planes" className="space-y-3">
      {built.steps.map((step) => (
        <div key={step.title}>
          <span className="block">{step.title}</span>
          <span className="block text-lg font-bold">
            {step.built_text}{" "}
            <span className="text-sm font-normal">planned {step.planned_text}</span>
          </span>
          <Said state={step.state} text={step.text} />
        </div>
      ))}
      {built.puddles_text && (
        <div>
          <Said state={built.puddles.length ? "fails" : "holds"} text={built.puddles_text} />
          <ul className="pl-6 list-disc">
            {built.puddles.map((puddle) => (
              <li key={puddle.text}>{puddle.text}</li>
            ))}
          </ul>
        </div>
      )}
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {built.planes.map((plane) => (
          <li key={`${plane.name} ${plane.at}`} className="py-2" data-plane={plane.state ?? "none"}>
            <div className="flex items-baseline gap-2">
              <span className="flex-1 first-letter:uppercase">{plane.name}</span>
              <span className="text-lg font-bold">{plane.built_text || "—"}</span>
              <span className="text-sm">planned {plane.planned_text}</span>
            </div>
            <Said state={plane.state} text={plane.text} />
            {plane.unread && <span className="block">{plane.unread}</span>}
            {plane.hollow_text && (
              <span className="block text-error font-semibold">{plane.hollow_text}</span>
            )}
            <details className="text-sm">
              <summary className="btn btn-ghost h-11 px-2 font-medium">why?</summary>
              <p>
                {plane.readings} readings, {plane.off_text || "none"} off the plan
                {plane.spread_text && `; ${plane.spread_text}`}.
              </p>
              <ul>
                {plane.limits.map((limit) => (
                  <li key={limit.limit_text + limit.source}>
                    {limit.limit_text}: {limit.by_plan ? "broken by the plan itself" : limit.state}.{" "}
                    {limit.source}
                  </li>
                ))}
              </ul>
            </details>
          </li>
        ))}
      </ul>
    </section>
  );
}
