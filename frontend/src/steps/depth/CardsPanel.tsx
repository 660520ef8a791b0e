import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";

/** What the installer has to know of the system, and how the drain is set to the tile. */
export function CardsPanel() {
  const { solution, plan } = useScreen();
  const system = solution?.system;
  return (
    <>
      {system ? (
        <section aria-label="System instructions" className="space-y-3">
          <h2 className="text-lg font-bold leading-tight">{system.name}</h2>
          {system.cards.map((card) => (
            <article
              key={card.title}
              className="border border-base-300 rounded-box p-3"
              data-card={card.title}
            >
              <h3 className="font-bold leading-tight mb-1">{card.title}</h3>
              {card.named.length > 0 && (
                <dl className="grid grid-cols-[8.5rem_1fr] gap-x-3 gap-y-1">
                  {card.named.map((one) => (
                    <div key={one.name} className="contents">
                      <dt className="text-sm pt-0.5">{one.name}</dt>
                      <dd className="font-medium leading-snug">{one.text}</dd>
                    </div>
                  ))}
                </dl>
              )}
              {card.lines.length > 0 && (
                <ul className="list-disc pl-5 space-y-0.5">
                  {card.lines.map((line) => (
                    <li key={line}>{line}</li>
                  ))}
                </ul>
              )}
              <p className="text-sm mt-1">{card.source}. The product's own text comes first.</p>
            </article>
          ))}
        </section>
      ) : (
        <p>
          No system was chosen: pick one under System, and its bedding, waiting times, tools and
          what goes wrong stand here.
        </p>
      )}
      <Chains />
      {plan.shower.drain.kind === "linear" && <Walls />}
    </>
  );
}

/** Heights from the deck to the grate, lengths from wall to cover. */
function Chains() {
  const { solution } = useScreen();
  return solution?.chains.map((chain) => (
    <section key={chain.title} aria-label={chain.title} data-chain={chain.title}>
      <h2 className="font-semibold">{chain.title}</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {chain.parts.map((part) => (
          <li key={part.name} className="py-1 flex gap-3">
            <span className="flex-1">{part.name}</span>
            <span>{part.do}</span>
            <strong className="whitespace-nowrap">{part.text}</strong>
          </li>
        ))}
      </ul>
      <ul className="list-disc pl-5 mt-1 space-y-0.5">
        {chain.said.map((line) => (
          <li key={line} className="font-medium">
            {line}
          </li>
        ))}
      </ul>
      <p className="text-sm mt-0.5">{chain.source}</p>
    </section>
  ));
}

/** What still goes on the walls, and how the channel meets the tile there. */
function Walls() {
  const { plan, set } = useScreen();
  const drain = plan.shower.drain;
  if (drain.kind !== "linear") return null;
  return (
    <>
      <Choice
        label="The channel's ends"
        value={drain.ends ?? "finished"}
        options={[
          { value: "finished", label: "Finished wall" },
          { value: "deducted", label: "Less tile" },
          { value: "notched", label: "Tile notched" },
        ]}
        onChange={(ends) => set("/shower/drain/ends", ends)}
      />
      <p className="text-sm">What is on the studs at its ends is set in step Walls.</p>
    </>
  );
}
