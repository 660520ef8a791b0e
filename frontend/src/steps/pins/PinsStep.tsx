import { lights, useScreen } from "../../job/context";
import { MeasureField } from "../../ui/MeasureField";

/** Screed pins in laying order, and the card to check the bed with. */
export function PinsStep() {
  const { plan, solution, jobId, shown, show } = useScreen();
  const result = solution?.pins;
  if (solution && !solution.complete) {
    return <p>The pins follow when the falls can be worked out.</p>;
  }
  if (!result) return <p aria-busy>Setting the pins…</p>;
  return (
    <div className="space-y-5">
      {plan.shower.former.kind === "bed" && (
        <div className="flex gap-2">
          <MeasureField label="Between pins" path="/pin_spacing" />
          <MeasureField
            label="Staff on the high spot"
            path="/staff_on_high_spot"
            hint="what the laser's staff reads on the old floor's highest place"
          />
        </div>
      )}
      {result.none_because ? (
        <p className="border-l-4 border-info bg-info/10 rounded-r-box p-3">
          {result.none_because} The check card below holds all the same.
        </p>
      ) : (
        <>
          <p className="border-l-4 border-success bg-success/10 rounded-r-box p-3 leading-snug">
            <strong>{result.pins.length} pins</strong>, measured from {result.stands_on}.{" "}
            {result.cost}
          </p>
          <a className="btn h-11" href={`/api/jobs/${jobId}/pins.csv`}>
            Save the list as CSV
          </a>
          <table className="w-full" aria-label="Pins in laying order">
            <thead>
              <tr className="text-sm text-left">
                <th className="font-normal pr-2">pin</th>
                <th className="font-normal">at</th>
                <th className="font-normal text-right">cut to</th>
                <th className="font-normal text-right">staff</th>
              </tr>
            </thead>
            <tbody>
              {result.pins.map((pin) => (
                <tr
                  key={pin.number}
                  tabIndex={0}
                  data-pin={pin.number}
                  className={`border-t border-base-300 align-top ${shown.lit === `pin ${pin.number}` ? "bg-info/20" : ""}`}
                  {...lights(show, `pin ${pin.number}`)}
                >
                  <td className="py-1">{pin.number}</td>
                  <td className="py-1">
                    {pin.kind}
                    <span className="block text-sm">{pin.from_text}</span>
                  </td>
                  <td className="py-1 text-right text-lg font-bold">{pin.text}</td>
                  <td className="py-1 text-right">{pin.staff_text}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      <section>
        <h2 className="font-semibold mb-1">Check card: six lines from the rim</h2>
        <p className="text-sm mb-1">
          Level on the rim, bubble centred: at each distance the finished floor stands this much
          higher. The wedge under the level opens towards the drain.
        </p>
        <ul className="divide-y divide-base-300 border-y border-base-300">
          {result.lines.map((line) => (
            <li key={line.name} className="py-1.5">
              <span className="text-sm">{line.name}</span>
              <span className="flex flex-wrap gap-x-4">
                {line.distances.map((distance, i) => (
                  <span key={distance}>
                    {distance} <strong>+{line.rises[i]}</strong>
                  </span>
                ))}
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
