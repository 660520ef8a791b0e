import { Download } from "lucide-react";
import type { OrderResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { OrderLine } from "./OrderLine";

/** What is bought, by where; how it is cut; what is measured before anything is cut. */
export function OrderStep() {
  const { solution, jobId } = useScreen();
  const result = solution?.order;
  if (solution && !solution.complete) return <p>The order is worked out once the falls can be.</p>;
  if (!result) return <p aria-busy>Adding it up…</p>;
  const places = [...new Set(result.lines.map((line) => line.where))];
  const left = result.lines.filter((line) => !line.bought).length;
  return (
    <div className="space-y-5">
      <p
        className={`border-l-4 rounded-r-box px-3 py-2 leading-snug ${left ? "border-info bg-info/10" : "border-success bg-success/10"}`}
        data-left={left}
      >
        <strong className="text-lg">
          {left
            ? `${left} of ${result.lines.length} still to buy`
            : `All ${result.lines.length} bought`}
        </strong>
        {result.total_text && <span className="block">In all {result.total_text}</span>}
      </p>
      {places.map((where) => (
        <section key={where} aria-label={where}>
          <h2 className="font-semibold">{where}</h2>
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {result.lines
              .filter((line) => line.where === where)
              .map((line) => (
                <OrderLine key={line.item} line={line} />
              ))}
          </ul>
        </section>
      ))}
      <div className="space-y-2">
        {result.said.map((said) => (
          <p key={said} className="text-sm">
            {said}
          </p>
        ))}
        <div className="flex flex-wrap gap-2">
          <a className="btn h-11" href={`/api/jobs/${jobId}/order.csv`}>
            <Download size={18} aria-hidden /> Save as CSV
          </a>
          {result.cuts.length > 0 && (
            <a className="btn h-11" href={`/api/jobs/${jobId}/cuts.csv`}>
              <Download size={18} aria-hidden /> Cut lists as CSV
            </a>
          )}
        </div>
      </div>
      <Cuts result={result} />
      <section aria-label="Before anything is cut">
        <h2 className="font-semibold">Measure before anything is cut</h2>
        <ul className="divide-y divide-base-300 border-y border-base-300">
          {result.kit.map((check) => (
            <li key={check.item} className="py-2">
              <strong>{check.name}</strong>
              <span className="block">{check.sizes.join(" · ")}</span>
            </li>
          ))}
        </ul>
      </section>
      {result.tools.map((one) => (
        <details key={one.title} className="group">
          <summary className="btn btn-ghost h-11 px-2 font-medium justify-start">
            {one.title} ({one.listed.length})
          </summary>
          <ul className="list-disc pl-6">
            {one.listed.map((tool) => (
              <li key={tool}>{tool}</li>
            ))}
          </ul>
          <p className="text-sm mt-1">{one.source}</p>
        </details>
      ))}
    </div>
  );
}

/** How timber and deck are cut from what is sold. */
function Cuts({ result }: { result: OrderResult }) {
  return result.cuts.map((cuts) => (
    <section key={cuts.item} aria-label={`Cut list: ${cuts.name}`} data-cuts={cuts.item}>
      <h2 className="font-semibold">
        {cuts.name}: {cuts.bought} × {cuts.stock_text}
      </h2>
      <p className="text-sm mb-1">{cuts.said}</p>
      <ol className="divide-y divide-base-300 border-y border-base-300">
        {cuts.bars.map((bar, i) => (
          <li key={i} className="py-1.5 flex gap-3">
            <span className="w-6 shrink-0 font-semibold">{i + 1}</span>
            <span className="flex-1">
              {bar.pieces_text}
              {bar.width_text && (
                <span className="block text-sm">
                  sheet {bar.sheet}, strip {bar.width_text} wide
                </span>
              )}
            </span>
            <span className="text-sm text-right">left {bar.left_text}</span>
          </li>
        ))}
      </ol>
    </section>
  ));
}
